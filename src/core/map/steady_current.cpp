#include "map/steady_current.h"

#include <cmath>

namespace mavlo {

Dq steady_current(const FluxMap& map, double resistance, double omega, Dq wanted, Dq i) {
    const double h = 1e-4 * map.iq().back();
    const auto missing = [&](Dq at) {
        const Dq psi = map.flux_linkage(at);
        return Dq{resistance * at.d - omega * psi.q - wanted.d, resistance * at.q + omega * psi.d - wanted.q};
    };
    for (int k = 0; k < 60; ++k) {
        const Dq v = missing(i), vd = missing({i.d + h, i.q}), vq = missing({i.d, i.q + h});
        const double a = (vd.d - v.d) / h, b = (vq.d - v.d) / h, c = (vd.q - v.q) / h, d = (vq.q - v.q) / h;
        const double det = a * d - b * c;
        const Dq step{(d * v.d - b * v.q) / det, (a * v.q - c * v.d) / det};
        i = {i.d - step.d, i.q - step.q};
        if (std::hypot(step.d, step.q) < 1e-9 * map.iq().back()) break;
    }
    return i;
}

} // namespace mavlo
