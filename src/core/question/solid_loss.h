#pragma once
// What eddy currents in massive parts take where currents are given over the rotor's position.

#include "figure/current_wave.h"
#include "figure/loss_part.h"
#include "question/question.h"

#include <map>

namespace mavlo {

struct SolidLoss {
    std::map<LossPart, double> loss{}; ///< W
    LossParts found{};
    std::string words{}; ///< a sentence; empty where the machine has no such parts
    void add(const SolidLoss& other, double share);
};

/// Whether parts of the machine carry currents whose own field counts: massive steel always, a conducting shaft
/// where the skin depth of what slots do to it is less than its radius.
bool has_massive_parts(const Machine& machine, double speed);

/// How deep waves of the slots enter the machine's massive steel at a speed (rad/s), as a sentence; empty where there is
/// none. The mesh does not follow so thin a skin.
std::string skin_in_words(const Machine& machine, double speed);

/// Fields that solid_loss may solve, about.
int solid_loss_solves(const Machine& machine, double speed, int points);

/// By fields in time, followed until the losses repeat; nothing where the machine has no such parts. Inputs
/// used: `speed`, `points`.
Result<SolidLoss> solid_loss(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                             const CurrentWave& wave);

} // namespace mavlo
