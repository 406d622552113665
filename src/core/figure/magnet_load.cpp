#include "figure/magnet_load.h"

#include "field/quadrature.h"
#include "figure/sample.h"

#include <cassert>
#include <cmath>

namespace mavlo {

double MagnetLoad::permeance_coefficient() const {
    return field < 0 ? flux_density / (mu0 * -field) : INFINITY;
}

MagnetLoad magnet_load(const MachineModel& model, const FieldSolution& solution) {
    MagnetLoad load;
    double weight = 0;
    for (const auto& e : model.elements) {
        const Part& part = model.part(e);
        if (part.use != Use::Magnet) continue;
        const Substance& magnet = *model.substance(part);
        const auto a = local_values(e, solution.potential);
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            const Point g = gradient(p, a), m = polar(1, part.direction.at(model.chart(part).angle(p.at)));
            const double b = m.x * g.y - m.y * g.x; // of B = (dA/dy, -dA/dx) along the remanence
            load.flux_density += p.weight * b;
            load.field += p.weight * (b - magnet.own_remanence()) / (mu0 * magnet.material.magnet.recoil_mu_r);
            weight += p.weight;
        }
    }
    assert(weight > 0);
    load.flux_density /= weight;
    load.field /= weight;
    return load;
}

} // namespace mavlo
