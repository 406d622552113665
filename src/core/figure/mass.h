#pragma once
// Active mass from the areas of the mesh.

#include "figure/machine_model.h"

namespace mavlo {

/// kg; steel with its stacking factor, copper with its end turns. A part whose density is unknown counts as
/// zero.
struct ActiveMass {
    double stator_steel = 0, rotor_steel = 0, magnets = 0, copper = 0, fillings = 0;
    double total() const { return stator_steel + rotor_steel + magnets + copper + fillings; }
};

ActiveMass active_mass(const MachineModel& model);

} // namespace mavlo
