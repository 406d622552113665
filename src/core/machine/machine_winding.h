#pragma once
// The winding of a machine as it is wound: layout, conductor, what the slot has for it, and what follows.

#include "material/material.h"
#include "winding/conductor.h"
#include "winding/layout.h"

#include <optional>
#include <vector>

namespace mavlo {

enum class Connection { Star, Delta, Open };

struct MachineWinding {
    WindingLayout layout; ///< coils with their turns
    int phases = 0;       ///< 0: none
    int paths = 1;
    Connection connection = Connection::Star;
    Material conductor_material;
    double temperature = 293.15;
    ConductorInput conductor; ///< with the slot's areas
    double overhang = 0;
    double end_length = 0;      ///< of one end of a turn, as given; 0: from span and overhang
    double liner = 0;           ///< thickness along the walls, m
    double separator = 0;       ///< between coil sides, m
    double slot_area = 0;       ///< of one slot, for conductors
    double conductor_depth = 0; ///< radial, of the conductors in the slot
    double slot_bottom = 0;     ///< radius
    /// Share of a coil's turns that stand in the section: half of them where a middle plane cuts the coils.
    double in_section = 1;
    double side_length = 0; ///< of a coil side in the core, where that is not the stack's length, m
    double end_spread =
        0;           ///< by which an axial machine's outer ends are wider than the mean, the inner narrower
    int stators = 1; ///< that carry this winding, in series
    double resistivity() const { return conductor_material.resistivity_at(temperature); }
    bool star() const { return connection == Connection::Star; }
    /// Conductors' turns in a slot, by layer.
    std::vector<double> turns_in_slot(int slot) const;
    double most_turns_in_slot() const;
};

struct Machine;

/// The conductor, and the winding made of it, at its temperature.
struct Conductor {
    ConductorSize size;
    double turn_length = 0;               ///< mean of all turns, m
    std::vector<double> phase_resistance; ///< between a phase's ends, Ohm
    double resistance = 0;                ///< their mean
    double copper_volume = 0;             ///< of all phases, m3
    double end_inductance = 0;            ///< leakage of the end windings, a phase (mean), H
    /// Between two terminals: star 2R, delta 2R/3; empty: open.
    std::optional<double> line_resistance(Connection connection) const;
};

/// R = rho sum over the coils of N l_turn / (a^2 A) with a equal paths (Pyrhönen et al., sec. 5.1). A turn is
/// twice the stack and two ends (end_turn_length) across its own span; ring coils go round the yoke. End
/// windings' leakage: of tooth coils by ring_inductance(), of others by overhang_inductance().
Conductor machine_conductor(const Machine& machine);
/// Of the conductor's copper at rated current, rms, A/m2.
double rated_density(const Machine& machine, const Conductor& conductor);

} // namespace mavlo
