#pragma once
// A figure of an answer by its name.

#include "question/answer.h"

#include <algorithm>

namespace mavlo::app {

/// Null: the answer has none of that name.
inline const Figure* figure_of(const Answer& answer, const std::string& name) {
    const auto found = std::find_if(answer.figures.begin(), answer.figures.end(),
                                    [&](const Figure& figure) { return figure.name == name; });
    return found == answer.figures.end() ? nullptr : &*found;
}

} // namespace mavlo::app
