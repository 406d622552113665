#pragma once
// Plots as SVG with words that can be read and searched.

#include "question/words.h"

namespace mavlo {

/// How large a plot is drawn; words keep their size.
struct PlotSize {
    double width = 420, height = 196;
};
constexpr PlotSize half_page{}, whole_page{760, 300};

/// The curves of a group over one axis: lines, or bars for a spectrum and for a ranking.
std::string plot_svg(const Answer& answer, const CurveGroup& group, PlotSize size = half_page);
std::string map_svg(const Map& map, PlotSize size = half_page);

/// Lines through points, for what is no answer's curve.
struct PlotLine {
    std::string name;
    std::vector<double> x, y;
};
std::string lines_svg(const std::vector<PlotLine>& lines, const std::string& x_label,
                      const std::string& y_label, bool logarithmic_x = false, PlotSize size = half_page);

std::string escaped(const std::string& text); ///< for HTML and SVG

} // namespace mavlo
