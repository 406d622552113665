#pragma once
// Curves of a winding by itself, which its question answers and its bench draws.

#include "figure/copper.h"
#include "question/answer.h"

#include <utility>
#include <vector>

namespace mavlo {

/// Winding factors of the waves with 1 to `orders` periods a turn.
Curve winding_factor_curve(const WindingLayout& layout, int orders);

/// Radial MMF (A) of these currents in the phases' coils at so many points round the gap.
Curve mmf_curve(const WindingLayout& layout, const std::vector<double>& currents, int points);

/// Amplitudes of the waves of the phases' MMF at rated current by periods a turn: of those that turn with the
/// rotor (mmf_forward), and of those against it (mmf_backward).
std::pair<Curve, Curve> mmf_spectrum(const Machine& machine, int orders);

/// R_ac/R_dc up to a frequency (Hz), of the phase (ac_factor) and of the slots' parts alone (ac_factor_slot).
std::pair<Curve, Curve> ac_factor_curves(const AcResistance& alternating, double highest);

} // namespace mavlo
