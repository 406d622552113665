#pragma once
// What an answer says of losses that nobody has told.

#include "figure/balance.h"
#include "question/question.h"

namespace mavlo {

/// Adds a sentence for what the machine's materials, or the map brought along, do not tell.
/// `found`: what is told all the same.
void tell_unknown_losses(QuestionContext& context, LossParts found = {});

/// The figure `iron_loss_extrapolated` and a sentence: the share of the iron loss that lies beyond the steels'
/// loss tables, by flux density or, all of it, by the frequency (Hz).
void tell_extrapolated_losses(QuestionContext& context, const FieldLosses& losses, double frequency);

/// The same of operating points: the largest share among them.
void tell_extrapolated_losses(QuestionContext& context, double largest_share);

/// Whether the powers of a steady state differ by more than an efficiency bears: torque and flux linkages of a
/// map that is too coarse for its currents. `other`: what valves and the like take, W.
bool disagrees(const Balance& balance, double other);
/// " A sentence."
std::string disagreement_in_words(const Balance& balance, double other);

} // namespace mavlo
