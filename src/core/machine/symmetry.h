#pragma once
// What repeats in a machine: the smallest sector, and what of an electrical or cogging period is enough.

#include "winding/layout.h"

#include <optional>
#include <vector>

namespace mavlo {

/// The smallest part whose field repeats (sign +1) or repeats reversed (sign -1) round the machine.
struct Sector {
    int count = 1; ///< sectors in the machine
    int sign = 1;
    std::vector<int> pitches{}; ///< tiles of each body in one sector, inside out
    double angle() const;
    /// Lowest order of a field wave that fits, and the step to the next.
    int first_order() const { return sign > 0 ? 0 : count / 2; }
    int order_step() const { return count; }
    bool operator==(const Sector&) const = default;
};

/// How the field of a balanced machine goes on after a part of the electrical period, the period over twice the
/// phases: it is the field of before, turned by so many slots and with this sign; the rotor has then gone on by
/// as many tiles more than that part of the period. (The currents change places, the winding and the poles
/// follow.)
struct PeriodPart {
    int parts = 6; ///< in a period
    int slots = 0, tiles = 0, sign = 1;
    PhaseStep phases; ///< what each phase then carries and links
};

struct Symmetry {
    Sector sector;
    bool mirrored = true;             ///< the section is its own mirror image: torque without current is odd
    int cogging_periods = 1;          ///< in a turn
    int periods = 1;                  ///< electrical, in a turn
    std::optional<PeriodPart> part{}; ///< empty: a whole period must be solved
};

/// What a section's pitches are like. Bodies inside out.
struct Pitches {
    int slots = 0;       ///< 0: smooth, any number of tiles fits
    int rotor_tiles = 0; ///< in a turn
    /// Whether every second rotor tile has its magnets reversed; without magnets either way fits.
    enum class Repeat { Alternating, Alike, Either } repeat = Repeat::Alternating;
    int poles = 0;
    bool smooth() const { return slots == 0; }
};

/// The largest number of sectors that slots, rotor tiles and winding allow. Without a winding only the rotor
/// and the slots count. `whole`: the whole machine.
Symmetry find_symmetry(const Pitches& pitches, const WindingLayout* layout, bool whole, bool mirrored);

} // namespace mavlo
