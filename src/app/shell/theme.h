#pragma once
// Colours, type and the style sheet of the whole program, light and dark.

#include <QColor>
#include <QFont>
#include <QString>
#include <array>

namespace mavlo::app {

struct Theme {
    bool dark = false;
    QColor paper, sheet, ink, soft, line, accent, field;
    QColor stator_iron, rotor_iron, shaft, bar, slot, filled;
    QColor north_out, north_in, good, caution;
    std::array<QColor, 9> phase; ///< safe for colour-blind readers (M. Okabe, K. Ito, 2008)

    QColor tint(double share) const;            ///< the accent over the sheet's colour
    QColor written(const QColor& colour) const; ///< dark enough (in the dark: light enough) for words
    QColor return_side(int phase_index) const;  ///< the lighter shade of a phase
};

/// The theme in use; set_theme() changes it for the whole program.
const Theme& theme();
void set_theme(bool dark);
bool system_is_dark();

QFont body_font();
QFont small_font();
QFont figure_font(int pixels); ///< tabular figures, semi-bold
QString style_sheet();

} // namespace mavlo::app
