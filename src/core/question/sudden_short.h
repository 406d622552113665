#pragma once
// The currents of a sudden short circuit, and their worst instant for the magnets.

#include "question/terminal_fault.h"

namespace mavlo {

struct SuddenShort {
    Dq worst;        ///< A: the vector that goes furthest along -d
    double time = 0; ///< s after the terminals were joined
    Dq steady;       ///< A: what is left at the end of the run
};

/// A fault of a machine that turns at `onset.speed` while `onset.before` flows, at the angle that is worst
/// (onset.angle is not asked for):
///   0 = R i + d psi/dt
/// in the phases that close on themselves, so that the vector swings about the steady one (P.C. Krause et al.,
/// Analysis of Electric Machinery, sec. 5.10).
Result<SuddenShort> sudden_short_circuit(const PhaseMachine& phases, const FaultCircuit& circuit,
                                         int pole_pairs, FaultOnset onset, const std::function<bool()>& stop);

} // namespace mavlo
