#pragma once
// The currents of a sudden short circuit, and their worst instant for the magnets.

#include "figure/park.h"
#include "machine/machine.h"
#include "map/flux_map.h"
#include "quantity/problem.h"

#include <functional>

namespace mavlo {

struct SuddenShort {
    Dq worst;        ///< A: the vector that goes furthest along -d
    double time = 0; ///< s after the terminals were joined
    Dq steady;       ///< A: what is left at the end of the run
};

/// All three terminals are joined while `before` flows (A), at this speed (rad/s mechanical); the section by
/// its map, with a phase's resistance (Ohm) and end-winding inductance (H):
///   0 = R i + d psi/dt
/// in phases, so that the vector swings about the steady one (P.C. Krause et al., Analysis of Electric
/// Machinery, sec. 5.10). In a symmetrical machine the rotor's angle at that instant makes no difference to it.
Result<SuddenShort> sudden_short_circuit(const FluxMap& map, const Machine& machine, double resistance,
                                         double end_inductance, double speed, Dq before,
                                         const std::function<bool()>& stop);

} // namespace mavlo
