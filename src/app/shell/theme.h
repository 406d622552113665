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

    QColor tint(double share) const; ///< the accent over the sheet's colour
    /// As much of the colour as can be read as words on any of the grounds.
    QColor written(const QColor& colour) const;
    std::array<QColor, 4> grounds() const;     ///< on which words stand
    QColor return_side(int phase_index) const; ///< the lighter shade of a phase
};

/// Contrast of two colours, 1 to 21 (WCAG 2.1, "contrast ratio"); words want 4.5.
double contrast(const QColor& a, const QColor& b);
inline constexpr double least_contrast = 4.5;

/// The theme in use; set_theme() changes it for the whole program.
const Theme& theme();
void set_theme(bool dark);
bool system_is_dark();

QFont body_font();
QFont small_font();
QFont figure_font(int pixels); ///< tabular figures, semi-bold
QString style_sheet();

} // namespace mavlo::app
