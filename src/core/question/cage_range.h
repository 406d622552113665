#pragma once
// Whole-range questions of cages on an inverter: flux and slip chosen for each torque and speed.

#include "question/question.h"

namespace mavlo {

int cage_range_solves();
Problems cage_efficiency_map(QuestionContext& context);
Problems cage_speed_range(QuestionContext& context);

} // namespace mavlo
