#pragma once
// The wound slot as one body that conducts heat.

#include "heat/cooling.h"

namespace mavlo {

struct SlotHeat {
    double conductivity = 0; ///< across the wires, W/(m K)
    double capacity = 0;     ///< J/(m3 K) of the slot's room
    double copper_area = 0;  ///< of a slot, m2
    double fill = 0;         ///< of wires with their enamel in the room that liner and separators leave
};

/// Round wires as a hexagonal array of coated ones in resin (across_wires; at fills where they would touch its
/// value just below), the resin with the bubbles that impregnation leaves as J.C. Maxwell's spheres of air in
/// two dimensions; rectangular ones as strips in series and in parallel, the mean of both ways round.
SlotHeat slot_heat(const Machine& machine, const CoolingData& cooling);

/// m2 K/W from the winding to the steel: liner, and the air on it that resin does not fill.
double liner_resistance(const Machine& machine, const CoolingData& cooling);

} // namespace mavlo
