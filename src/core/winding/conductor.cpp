#include "winding/conductor.h"

#include <cmath>
#include <numbers>

namespace mavlo {

Conductor size_conductor(const ConductorInput& in) {
    constexpr double pi = std::numbers::pi;
    Conductor out;
    const double turns_in_slot = in.turns * in.layers;
    const double round = pi / 4 * in.strand_diameter * in.strand_diameter * in.strands;
    out.area = in.strand_diameter > 0 ? round : in.fill_factor * in.slot_area / turns_in_slot;
    out.fill = in.slot_area > 0 ? out.area * turns_in_slot / in.slot_area : 0;
    out.strand_diameter = std::sqrt(4 * out.area / (pi * in.strands));
    out.turn_length = 2 * (in.stack_length + 2 * in.overhang) + pi * in.coil_width;
    const double series = double(in.coils_per_phase) / in.paths;
    if (out.area > 0)
        out.resistance = in.resistivity * in.turns * out.turn_length * series / (in.paths * out.area);
    out.copper_volume = in.phases * in.coils_per_phase * in.turns * out.turn_length * out.area;
    return out;
}

} // namespace mavlo
