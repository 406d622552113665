#pragma once
// A stack whose slices are turned against each other.

#include <vector>

namespace mavlo {

/// One slice: its turn against the middle of the stack (rad, mechanical) and its share of the length.
struct Slice {
    double turn, share;
};

/// `angle` over the whole length in so many equal steps, each turned by angle/steps against its neighbour; 0
/// steps: continuous, as the five points of Gauss and Legendre (exact for all that matters while the skew is
/// below a few periods of the highest harmonic). No angle: one slice.
std::vector<Slice> skew_slices(double angle, int steps);

/// What a skewed stack shows of a periodic series over `period` (rad): each harmonic times the mean of its
/// phases over the stack, sin(x)/x for a continuous skew (J. Pyrhönen et al., Design of Rotating Electrical
/// Machines, 2nd ed., sec. 4.3).
std::vector<double> skewed(const std::vector<double>& samples, double period, double angle, int steps);

/// The band-limited series seen `turn` further on.
std::vector<double> shifted(const std::vector<double>& samples, double period, double turn);

} // namespace mavlo
