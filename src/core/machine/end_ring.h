#pragma once
// The rings that join a cage's bars at either end of the stack.

#include "machine/tile_kind.h"

namespace mavlo {

/// Of one segment between two bars, of one ring; and of what of a bar lies between stack and ring.
struct EndRing {
    double resistance = 0, inductance = 0; ///< Ohm, H
    double bar_ends = 0;                   ///< of a bar, both ends, Ohm
    bool operator==(const EndRing&) const = default;
};

struct RingShape {
    double inner_radius = 0, outer_radius = 0; ///< m
    double bars_radius = 0;                    ///< where the bars' currents enter, between the two, m
    double thickness = 0;                      ///< along the axis, m
    int bars = 0, pole_pairs = 0;
};

/// Ohm of a segment of the resistivity rho. In the ring the potential of a wave of p pole pairs obeys Laplace's
/// equation, no current leaves its edges, and the bars feed it on their radius r_b; inside and outside of it
/// flow then a current each that sees tanh(p ln(...)):
///   R = 2 pi p rho / (N t (tanh(p ln(r_b/r_i)) + tanh(p ln(r_o/r_b))))
/// which for a low ring is that of an even current, and for a high one no longer falls (P.H. Trickey, AIEE
/// Trans. 55, 1936, treats a ring that is fed at its outer edge).
double ring_segment_resistance(const RingShape& ring, double resistivity);

/// H of a segment, in air: F.E. Neumann's integral (1845) over a circle whose current goes with
/// cos(p phi),
///   L = mu0/(4 pi) (2 pi a/N) int a cos(phi) cos(p phi) / sqrt(4 a^2 sin^2(phi/2) + g^2) d phi, -pi to pi,
/// with the mean radius a and the section's geometric mean distance from itself g = 0.2235 (h + t) (E.B. Rosa,
/// F.W. Grover, Bull. Bur. Stand. 8, 1912). Left out: the iron beside it, which raises it.
double ring_segment_inductance(const RingShape& ring);

} // namespace mavlo
