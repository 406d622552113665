#pragma once
// On which side of q the current with the most torque lies.

#include "question/question.h"

namespace mavlo {

inline constexpr int rough_points = 12; ///< positions that tell the mean torque of one current from another's

/// 1 where a current towards -d gives more torque than its image towards +d (L_d < L_q, as with magnets
/// inside), -1 where it gives less (L_d > L_q, as salient poles have); as motor, or where `sign` is -1 as
/// generator. Two short periods are solved; the answer's effort counts them.
Result<int> better_side(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                        double current, int sign = 1);

/// The advance of a motor's current as a generator takes it (`sign` -1): with i_q reversed.
double advance_for(int sign, double advance);

} // namespace mavlo
