#pragma once
// Figures, curves and units as a designer reads them.

#include "question/answer.h"

namespace mavlo {

/// "torque_mean" -> "torque mean"; "back_emf_uv" -> "back-EMF UV".
std::string figure_words(const std::string& name);
/// "N.m" -> "N·m"; "deg" -> "°".
std::string shown_unit(const std::string& unit);
/// Four digits with unit, scaled to milli or kilo where that reads better, with its error; a dash for what does
/// not apply.
std::string shown_figure(const Figure& figure);

/// Curves that belong into one plot.
struct CurveGroup {
    std::string title;
    std::vector<std::string> names;
    std::string x_name, x_label, y_label;
    std::vector<std::string> line_names{}; ///< the same between lines, or in them; see fold_lines
    bool bars = false;                     ///< a spectrum
    bool ranked = false;                   ///< a bar for each label
};
/// The plots of an answer, from the names, units and axes of its curves.
std::vector<CurveGroup> curve_groups(const Answer& answer);
/// The same with what is between lines, or flows in them, as another side of what the phases have.
std::vector<CurveGroup> fold_lines(const std::vector<CurveGroup>& groups);

} // namespace mavlo
