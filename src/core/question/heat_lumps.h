#pragma once
// A machine's bodies by their mean temperatures: the network that the section's steady field makes.

#include "heat/machine_heat.h"
#include "heat/network.h"

#include <vector>

namespace mavlo {

/// Exact for steady means with losses spread as in the section, with the films as the model's last steady()
/// found them; over time a body warms as one. Bodies that hold next to no heat are between the others.
struct HeatLumps {
    std::vector<HeatPart> parts;
    HeatNetwork network;

    static Result<HeatLumps> of(MachineHeatModel& model);
    Eigen::Index index(HeatPart part) const; ///< -1: not among them
    /// W in the bodies that bring about the same means as these losses.
    Result<Eigen::VectorXd> powers(MachineHeatModel& model, const HeatLosses& losses) const;
};

} // namespace mavlo
