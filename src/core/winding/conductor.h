#pragma once
// The conductor in the slot: copper area, fill, turn length and resistance.

#include <optional>

namespace mavlo {

/// What the coil is wound with. Lengths in m, areas in m2, resistivity in Ohm.m at the winding's temperature.
struct ConductorInput {
    double slot_area = 0; ///< whole area for conductors in one slot
    int layers = 2;
    double turns = 1; ///< a coil
    int paths = 1;    ///< parallel paths of a phase
    int coils_per_phase = 1;
    int phases = 3;
    double strand_diameter = 0; ///< bare copper; 0: as thick as the fill factor allows
    int strands = 1;            ///< in hand
    double fill_factor = 0.4;   ///< copper / slot area, used when the diameter is 0
    double resistivity = 0;
    double stack_length = 0;
    double coil_width = 0; ///< mean circumferential distance of the coil's two sides
    double overhang = 0;   ///< straight length beyond the stack at each end
};

struct Conductor {
    double area = 0; ///< copper of one turn
    double fill = 0; ///< copper / slot area
    double strand_diameter = 0;
    double turn_length = 0;
    double resistance = 0;    ///< of one phase between its terminals, Ohm
    double copper_volume = 0; ///< of all phases, m3
};

/// R = rho N l_turn n_coils / (a^2 A): n_coils/a coils in series on each of a paths (Pyrhönen et al.,
/// sec. 5.1). The turn is 2 (stack + 2 overhang) and two half circles whose diameter is the mean coil width.
Conductor size_conductor(const ConductorInput& input);

} // namespace mavlo
