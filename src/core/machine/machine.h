#pragma once
// The machine: everything a field needs, as plain values, built from a design.

#include "machine/cell.h"
#include "machine/design.h"
#include "machine/slot_kind.h"
#include "material/material.h"
#include "winding/conductor.h"
#include "winding/layout.h"

#include <vector>

namespace mavlo {

/// The smallest part whose field repeats (sign +1) or repeats reversed (sign -1) round the machine.
struct Sector {
    int count = 1; ///< sectors in the machine
    int sign = 1;
    int slots = 0, poles = 0; ///< in one sector
    double angle() const;
    /// Lowest order of a field wave that fits, and the step to the next.
    int first_order() const { return sign > 0 ? 0 : count / 2; }
    int order_step() const { return count; }
    bool operator==(const Sector&) const = default;
};

/// The largest number of sectors that slots, poles and winding allow. Without a winding only the poles count.
Sector find_sector(int slots, int poles, const WindingLayout* layout);

struct Rating {
    double speed = 0;   ///< rad/s
    double current = 0; ///< A, phase, peak
    double advance = 0; ///< rad electrical, from +q towards -d
};

struct Machine {
    Values values;
    int slots = 0, poles = 0;
    bool wound = true; ///< false for a smooth stator
    double stack_length = 0, bore_radius = 0, outer_radius = 0, gap = 0;
    WindingLayout winding;
    double turns = 0;
    int paths = 1;
    bool star = true;
    Material stator_steel, rotor_steel, magnet, copper;
    double stator_stacking = 1, rotor_stacking = 1;
    double remanence = 0; ///< at the magnets' temperature, T
    Cell stator, rotor;
    Sector sector;
    Rating rating;
    std::vector<DimensionMark> marks;

    int pole_pairs() const { return poles / 2; }
    double rotor_radius() const { return bore_radius - gap; }
    double middle_of_gap() const { return bore_radius - gap / 2; }
};

struct MachineOptions {
    bool whole = false; ///< compute the whole machine instead of its smallest sector
};

/// Builds the machine or says all that is wrong, each with its path.
Result<Machine> build_machine(const Design& design, const MaterialLibrary& own = {},
                              MachineOptions options = {});

/// Area of the conductors in one slot, m2, from the cell's outline.
double slot_conductor_area(const Machine& machine);
/// The conductor, its fill and the phase resistance at the winding's temperature.
Conductor machine_conductor(const Machine& machine);

/// Degrees of one cogging period: 360 / lcm(slots, poles). (Z.Q. Zhu, D. Howe, IEEE Trans. Energy Convers. 15,
/// 2000)
int cogging_periods_per_turn(const Machine& machine);

} // namespace mavlo
