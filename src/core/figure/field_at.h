#pragma once
// One field of a machine, from its mesh to its solution.

#include "figure/current_wave.h"
#include "figure/machine_model.h"

namespace mavlo {

struct FieldAt {
    std::shared_ptr<const MachineModel> model;
    FieldSolution solution;
};

/// With the rotor at `angle` (rad, mechanical) and this current (A); an unwound machine has none.
Result<FieldAt> field_at(const Machine& machine, double angle, const CurrentWave& current,
                         const ModelOptions& options = {});

} // namespace mavlo
