#pragma once
// A handful of fields by which a machine's mesh is judged.

#include "field/goal_error.h"
#include "figure/machine_model.h"
#include "question/sweep.h"

#include <string>

namespace mavlo {

/// Positions without current over half a cogging period, and with current over the part of an electrical
/// period that tells the whole: near the rated current, or the largest where questions go over the whole range.
struct Trial {
    std::vector<Position> idle, loaded;
    bool empty() const { return idle.empty() && loaded.empty(); }
};
Trial trial_of(const Machine& machine, bool whole_range = false);
/// What of the rating the trial's fields depend on.
std::string trial_text(const Machine& machine, bool whole_range = false);

/// What was found at one position: torque (N.m) and the linkage (Wb) of the phase that has the most, with the
/// errors that the mesh leaves in them.
struct Found {
    double torque = 0, linkage = 0;
    TileErrors torque_error{}, linkage_error{};
};
struct TrialFields {
    std::vector<Found> idle, loaded;
};

/// Solves the trial's fields, each part from field to field, both parts at once where there are two threads.
Result<TrialFields> try_mesh(const std::shared_ptr<const MachineModel>& model, const Trial& trial, int threads,
                             const Watch& watch);

} // namespace mavlo
