#pragma once
// Currents that run round parallel paths whose EMF differ.

#include "machine/machine.h"

namespace mavlo {

/// Path i of a phase with a paths of EMF E_i, each of resistance a R and end-winding leakage a L_e, carries
///   I_i = (E_i - mean E) / (a R + j omega a L_e)
/// beside its share of the phase's current (Kirchhoff's laws; the paths' sum is nothing). Leakage of the slots
/// and what the currents do to the gap's field are left out, so that this is the most that can run.
struct CirculatingCurrent {
    double largest = 0; ///< of all paths, A rms
    double loss = 0;    ///< of all phases, W
};

/// `emf`: the fundamental of a phase, V peak; `speed` in rad/s. Nothing for a single path.
CirculatingCurrent circulating_current(const Machine& machine, double emf, double speed);

} // namespace mavlo
