#pragma once
// The curves of an answer as a plot takes them: named in words, coloured in order, with the points that were
// solved.

#include "plot/plot.h"
#include "question/words.h"

namespace mavlo::app {

/// Words as a title: with a capital.
QString title_of(const QString& words);

/// Of the curve with this number.
QColor series_colour(std::size_t k);

/// Those of a group (`names` of it) in an answer whose units are those that read best.
std::vector<PlotCurve> group_curves(const Answer& shown, const CurveGroup& group,
                                    const std::vector<std::string>& names);

} // namespace mavlo::app
