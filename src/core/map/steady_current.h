#pragma once
// The current that a sinusoidal voltage drives, by the flux map.

#include "map/flux_map.h"

namespace mavlo {

/// Currents (A) of v_d = R i_d - w psi_q, v_q = R i_q + w psi_d, by Newton's method from `start`.
Dq steady_current(const FluxMap& map, double resistance, double omega, Dq voltage, Dq start);

} // namespace mavlo
