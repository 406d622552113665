#include "ask/answer_curves.h"

#include "ask/drawn_curve.h"
#include "plot/plot_words.h"
#include "shell/theme.h"

#include <iterator>

namespace mavlo::app {

QString title_of(const QString& words) {
    return words.left(1).toUpper() + words.mid(1);
}

/// The phases' colours first, then others that are told apart from them with any kind of sight (M. Okabe, K.
/// Ito, Color Universal Design, 2008).
QColor series_colour(std::size_t k) {
    const Theme& t = theme();
    if (k < 3) return t.phase[k];
    const QColor others[] = {QColor(0xD5, 0x5E, 0x00), QColor(0xCC, 0x79, 0xA7), QColor(0x00, 0x72, 0xB2),
                             QColor(0x99, 0x99, 0x33), t.soft};
    return others[(k - 3) % std::size(others)];
}

std::vector<PlotCurve> group_curves(const Answer& shown, const CurveGroup& group,
                                    const std::vector<std::string>& names) {
    std::vector<PlotCurve> curves;
    std::size_t count = 0;
    for (const std::string& name : names)
        for (const Curve& c : shown.curves) {
            if (c.name != name || c.x_name != group.x_name) continue;
            const std::size_t k = count++;
            const std::string label = name.starts_with("plane_") ? name.substr(6) : name;
            const QColor colour = names.size() == 1 ? theme().accent : series_colour(k);
            curves.push_back({drawn_curve(c), name_words(label), colour, group.bars});
            if (auto solved = solved_points(c))
                curves.push_back({std::move(*solved), {}, colour, false, false, true, false});
        }
    return curves;
}

} // namespace mavlo::app
