#pragma once
// Where a machine is most efficient, among points of its range.

#include "map/drive.h"
#include "question/question.h"

namespace mavlo {

/// The figures and the first sentence of an efficiency map; empty figures where a loss is not known. Fails
/// where no point is one of a motor.
Problems tell_best_efficiency(QuestionContext& context, const std::vector<OperatingPoint>& points);

} // namespace mavlo
