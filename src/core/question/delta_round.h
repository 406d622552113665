#pragma once
// What runs round a delta by the voltages that its phases have in common.

#include "question/period.h"
#include "question/question.h"

namespace mavlo {

struct DeltaRound {
    double current = 0; ///< rms, A
    double loss = 0;    ///< of all phases, W
};

/// Of what the phases link in common over a period (its orders 3, 9, … in a symmetrical machine), at an
/// electrical angular frequency (rad/s):
///   I_n = n omega psi_n / |R + j n omega L_0|,
/// with the inductance L_0 (H) that a current common to all phases meets. The current's own torque and its
/// effect on the steel are left out.
DeltaRound delta_round(const PeriodSeries& series, double resistance, double inductance, double omega);

/// The same of a question's period; nothing where the machine is no delta, or stands still.
Result<std::optional<DeltaRound>> delta_round_of(QuestionContext& context, const PeriodSeries& series);

/// The figures `delta_current` and `delta_loss`, and a sentence where they are felt.
void tell_delta_round(QuestionContext& context, const std::optional<DeltaRound>& round);

} // namespace mavlo
