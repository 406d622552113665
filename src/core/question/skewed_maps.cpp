#include "question/skewed_maps.h"

#include "figure/spectrum.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <complex>

namespace mavlo {
namespace {

/// One slice as the maps see it.
struct Place {
    double ahead, share; ///< rad electrical
};

FluxPoint mean_point(const FluxMap& slice, const std::vector<Place>& places, Dq current) {
    FluxPoint out;
    out.current = current;
    out.magnet_field = 1e300;
    std::complex<double> third = 0, ninth = 0;
    for (const auto& [ahead, share] : places) {
        const FluxPoint p = slice.at(turned(current, -ahead));
        const Dq psi = turned(p.flux_linkage, ahead);
        out.flux_linkage.d += share * psi.d;
        out.flux_linkage.q += share * psi.q;
        out.torque += share * p.torque;
        out.iron_stator.add(p.iron_stator, share);
        out.iron_rotor.add(p.iron_rotor, share);
        out.magnets += share * p.magnets;
        out.strands += share * p.strands;
        out.extrapolated = std::max(out.extrapolated, p.extrapolated);
        out.magnet_field = std::min(out.magnet_field, p.magnet_field);
        third += std::polar(share * p.third, 3 * ahead);
        ninth += std::polar(share * p.ninth, 9 * ahead);
    }
    out.third = std::abs(third);
    out.ninth = std::abs(ninth);
    return out;
}

PositionWaves mean_waves(const PositionMap& slice, const std::vector<Place>& places, Dq current, int points) {
    std::vector<double> d(std::size_t(points), 0.0), q = d, zero = d, torque = d;
    for (const auto& [ahead, share] : places) {
        const Dq seen = turned(current, -ahead);
        for (std::size_t i = 0; i < d.size(); ++i) {
            const auto p = slice.at(2 * pi * double(i) / points + ahead, seen);
            const Dq psi = turned({p.d.value, p.q.value}, ahead);
            d[i] += share * psi.d;
            q[i] += share * psi.q;
            zero[i] += share * p.zero.value;
            torque[i] += share * p.torque.value;
        }
    }
    const int orders = orders_of(points);
    const auto waves = [&](const std::vector<double>& values) {
        return harmonics_over_position(values, 0, orders);
    };
    return {current, waves(d), waves(q), waves(zero), waves(torque)};
}

double ripple(const PositionWaves& waves, int points) {
    std::vector<double> torque(std::size_t(points), waves.torque[0]);
    for (int k = 1; k <= waves.orders(); ++k)
        for (int i = 0; i < points; ++i) {
            const double angle = 2 * pi * k * i / points;
            torque[std::size_t(i)] += waves.torque[std::size_t(2 * k - 1)] * std::cos(angle) +
                                      waves.torque[std::size_t(2 * k)] * std::sin(angle);
        }
    return peak_to_peak(torque);
}

} // namespace

GridMaps skewed_maps(const GridMaps& slice, const std::vector<double>& id, const std::vector<double>& iq,
                     int points, const SkewedStack& skew, int pole_pairs) {
    std::vector<Place> places;
    for (const Slice& s : skew.slices()) places.push_back({pole_pairs * s.turn, s.share});
    std::vector<FluxPoint> means;
    std::vector<PositionWaves> waves;
    for (double q : iq)
        for (double d : id) {
            waves.push_back(mean_waves(slice.position, places, {d, q}, points));
            means.push_back(mean_point(slice.mean, places, {d, q}));
            means.back().ripple = ripple(waves.back(), points);
        }
    FluxMap mean(id, iq, std::move(means));
    mean.leave_open(slice.mean.unknown());
    if (!slice.mean.knows_strands()) mean.leave_strands_open();
    return {std::move(mean), PositionMap(id, iq, waves)};
}

} // namespace mavlo
