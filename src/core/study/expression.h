#pragma once
// Expressions over the figures of a design's answers and over its parameters: "torque_mean / active_volume".

#include "machine/design.h"
#include "question/answer.h"

#include <optional>

namespace mavlo {

/// Figures by their names, "QUESTION.FIGURE" where several questions have one; parameters by their paths, in
/// SI; numbers without units. Empty where a figure does not apply; a sentence where a name is not known or the
/// expression cannot be read.
Result<std::optional<double>> evaluate_expression(const std::string& text,
                                                  const std::vector<std::optional<Answer>>& answers,
                                                  const Values& values);

} // namespace mavlo
