#include "winding/end_winding.h"

#include "material/bh_curve.h"

#include <cmath>
#include <numbers>

namespace mavlo {

double end_turn_length(double coil_width, double overhang, double slope) {
    const double across = slope > 0 ? coil_width / std::cos(slope) : std::numbers::pi / 2 * coil_width;
    return 2 * overhang + across;
}

double ring_inductance(double radius, double section, double turns) {
    const double r = std::sqrt(section / std::numbers::pi);
    if (r <= 0 || r >= radius) return 0;
    return mu0 * radius * turns * turns * (std::log(8 * radius / r) - 1.75);
}

double overhang_inductance(int phases, int slots, double q, double series_turns, double l_e, double width) {
    constexpr double lambda_l = 0.50, lambda_w = 0.20;
    return 4.0 * phases / slots * q * series_turns * series_turns * mu0 *
           (2 * l_e * lambda_l + width * lambda_w);
}

} // namespace mavlo
