#pragma once
// An answer as a page of the report has it: what answers the question large, the picture that shows it, the
// rest small.

#include "question/figure_names.h"

#include <string>
#include <utility>
#include <vector>

namespace mavlo {

struct AnswerSheet {
    std::string title, sentence;
    std::vector<Figure> large;                               ///< those that answer the question
    std::vector<FigureGroup> rest;                           ///< without those that do not apply
    std::string caption, picture{};                          ///< SVG; empty: figures alone
    std::vector<std::pair<std::string, std::string>> more{}; ///< other plots: title and SVG
    std::string note;                                        ///< how it was asked, and what it cost
};

AnswerSheet answer_sheet(const Answer& answer);

/// A figure as it is printed: what is left of sums of others of its unit is 0.
Figure without_noise(Figure figure, const Answer& answer);

} // namespace mavlo
