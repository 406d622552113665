#pragma once
// Mends the points of a magnetisation curve, so that a field can be computed with them.

#include "material/bh_curve.h"

#include <string>
#include <vector>

namespace mavlo {

struct BhRepair {
    std::vector<BhPoint> points;
    std::vector<std::string> done; ///< what was changed, as sentences; empty where nothing had to be
};

/// Law of approach to saturation, J = J_s - a/H - b/H^2 with a, b >= 0 (B. D. Cullity, C. D. Graham,
/// Introduction to Magnetic Materials, 2nd ed. 2009, sec. 9.15), passing through a given point.
struct ApproachLaw {
    BhPoint from;                        ///< the point it passes through; H > 0
    double a = 0, b = 0;                 ///< T A/m, T (A/m)^2
    double saturation() const;           ///< J_s, T
    double flux_density(double h) const; ///< J(H) + mu0 H, T; h > 0
};

/// Least squares over the points behind the first, which the law passes through.
ApproachLaw fit_approach(const std::vector<BhPoint>& points);

/// Puts rows in order, drops doubled, impossible and outlying ones, smooths the polarisation so that it never
/// falls (pool-adjacent-violators: M. Ayer et al., Ann. Math. Stat. 26, 1955), and replaces or prolongs the
/// end by the law of approach until the slope is vacuum's within 2 %. Fails when fewer than five usable
/// points are left.
Result<BhRepair> repair_bh(std::vector<BhPoint> points);

} // namespace mavlo
