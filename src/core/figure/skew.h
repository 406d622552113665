#pragma once
// What a stack whose slices are turned against each other shows of a series over the rotor's angle.

#include "machine/skew.h"

namespace mavlo {

/// A periodic series over `period` (rad) as the skewed stack shows it: each harmonic times the mean of its
/// phases over the stack, sin(x)/x for a continuous skew (J. Pyrhönen et al., Design of Rotating Electrical
/// Machines, 2nd ed., sec. 4.3).
std::vector<double> skewed(const std::vector<double>& samples, double period, const SkewedStack& stack);

/// The band-limited series seen `turn` further on.
std::vector<double> shifted(const std::vector<double>& samples, double period, double turn);

} // namespace mavlo
