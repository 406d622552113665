#include "machine/end_ring.h"

#include "material/bh_curve.h"
#include "quantity/constants.h"

#include <cassert>
#include <cmath>

namespace mavlo {

double ring_segment_resistance(const RingShape& ring, double resistivity) {
    assert(ring.inner_radius > 0 && ring.outer_radius > ring.inner_radius && ring.thickness > 0);
    const double p = ring.pole_pairs;
    const double inside = std::tanh(p * std::log(ring.bars_radius / ring.inner_radius)),
                 outside = std::tanh(p * std::log(ring.outer_radius / ring.bars_radius));
    return 2 * pi * p * resistivity / (ring.bars * ring.thickness * (inside + outside));
}

double ring_segment_inductance(const RingShape& ring) {
    const double a = (ring.inner_radius + ring.outer_radius) / 2,
                 g = 0.2235 * (ring.outer_radius - ring.inner_radius + ring.thickness);
    // phi = (g/a) sinh(s) takes the peak at 0 out of the integrand.
    constexpr int steps = 400;
    const double end = std::asinh(pi * a / g), h = end / steps;
    double sum = 0;
    for (int k = 0; k <= steps; ++k) {
        const double s = k * h, phi = g / a * std::sinh(s), slope = g / a * std::cosh(s);
        const double value = a * std::cos(phi) * std::cos(ring.pole_pairs * phi) * slope /
                             std::hypot(2 * a * std::sin(phi / 2), g);
        sum += (k == 0 || k == steps ? 1 : k % 2 ? 4 : 2) * value; // T. Simpson's rule
    }
    return mu0 / (4 * pi) * (2 * pi * a / ring.bars) * 2 * sum * h / 3;
}

} // namespace mavlo
