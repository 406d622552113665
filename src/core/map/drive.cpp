#include "map/drive.h"

#include "circuit/delta.h"
#include "figure/copper.h"
#include "quantity/constants.h"
#include "quantity/search.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

constexpr int contour_steps = 60;
constexpr double barred = 1e15; ///< objective of points beyond a limit, plus how far

} // namespace

double OperatingPoint::amplitude() const {
    return std::hypot(current.d, current.q);
}

Drive::Drive(Machine machine, FluxMap map, DriveLimits limits, Aim aim, double round)
    : m_machine(std::move(machine))
    , m_map(std::move(map))
    , m_limits(limits)
    , m_aim(aim)
    , m_resistance(machine_conductor(m_machine).resistance)
    , m_round(round)
    , m_alternating(m_machine)
    , m_table_end(loss_table_end(m_machine))
    , m_unknown(unknown_losses(m_machine)) {
    m_unknown.add(m_map.unknown());
}

Drive::Speed Drive::at_speed(double shaft) const {
    assert(std::isfinite(shaft));
    const double omega = m_machine.pole_pairs() * shaft, f = std::abs(omega) / (2 * pi);
    const StrandRates strands = m_alternating.at(f);
    return {shaft, omega, f, m_resistance * strands.whole, strands, mechanical_loss(m_machine, shaft)};
}

OperatingPoint Drive::point_at(const FluxPoint& from, const Speed& speed) const {
    OperatingPoint p;
    p.current = from.current;
    p.speed = speed.shaft;
    p.torque = from.torque;
    p.ripple = from.ripple;
    p.flux_linkage = from.flux_linkage;
    p.magnet_field = from.magnet_field;
    const double omega = speed.omega, f = speed.frequency, r = speed.resistance;
    const Dq v{r * p.current.d - omega * p.flux_linkage.q, r * p.current.q + omega * p.flux_linkage.d};
    p.voltage = std::hypot(v.d, v.q);
    const double i2 = p.current.d * p.current.d + p.current.q * p.current.q;
    const double share = m_machine.winding.phases / 2.0;
    const double apparent = share * p.voltage * std::sqrt(i2);
    p.power_factor = apparent > 0 ? share * (v.d * p.current.d + v.q * p.current.q) / apparent : 0;
    p.extrapolated = f > m_table_end ? 1 : from.extrapolated;
    const double round = loss_round_delta(from, speed), direct = share * m_resistance * i2;
    const CopperLoss copper =
        copper_loss(speed.strands, direct, m_map.knows_strands() ? std::optional(from.strands) : std::nullopt);
    p.power[LossPart::Copper] = copper.alternating + round;
    p.power.copper_dc = direct + round;
    p.power[LossPart::WindingStray] = copper.stray;
    p.power[LossPart::IronStator] = from.iron_stator.at(f);
    p.power[LossPart::IronRotor] = from.iron_rotor.at(f);
    p.power[LossPart::Magnets] = from.magnets * f * f;
    p.power.set(speed.mechanical);
    p.power.unknown = m_unknown;
    p.power.air_gap = p.torque * p.speed;
    p.power.electrical = p.power.air_gap + p.power.copper_dc;
    return p;
}

/// W.
double Drive::loss_round_delta(const FluxPoint& from, const Speed& speed) const {
    if (m_round <= 0) return 0;
    double square = 0;
    for (const auto& [order, linkage] : {std::pair{3, from.third}, {9, from.ninth}})
        square +=
            std::pow(current_round_delta(linkage, order * std::abs(speed.omega), m_resistance, m_round), 2);
    return m_machine.winding.phases * m_resistance * square / 2;
}

OperatingPoint Drive::at(Dq current, double speed) const {
    return point_at(m_map.at(current), at_speed(speed));
}

double Drive::excess(const OperatingPoint& p) const {
    return std::max(p.amplitude() / m_limits.current, p.voltage / m_limits.voltage) - 1;
}

bool Drive::allowed(const OperatingPoint& p) const {
    return excess(p) <= 1e-9;
}

double Drive::objective(const OperatingPoint& p) const {
    if (!allowed(p)) return barred * (1 + excess(p));
    return m_aim == Aim::LeastLoss ? p.power.known_total() : p.amplitude();
}

std::optional<double> Drive::iq_for(double id, double torque) const {
    const double idle = m_map.torque({id, 0}), felt = 1e-9 * std::abs(torque);
    if (std::abs(torque - idle) <= felt) return 0;
    const auto off = [&](double iq) { return m_map.torque({id, iq}) - torque; };
    return torque > idle ? rising_root(off, 0, m_map.iq().back()) : rising_root(off, m_map.lowest_iq(), 0);
}

TorqueContour Drive::contour(double torque) const {
    TorqueContour out{torque, {}};
    const double low = m_map.id().front(), high = m_map.id().back();
    for (int k = 0; k <= contour_steps; ++k) {
        const double id = low + (high - low) * k / contour_steps;
        if (const auto iq = iq_for(id, torque)) out.points.push_back(m_map.at({id, *iq}));
    }
    return out;
}

std::optional<OperatingPoint> Drive::best(const TorqueContour& contour, double speed) const {
    return best_at(contour, at_speed(speed));
}

std::optional<OperatingPoint> Drive::best_at(const TorqueContour& contour, const Speed& speed) const {
    const auto& points = contour.points;
    if (points.empty()) return std::nullopt;
    std::size_t k = 0;
    double least = 1e300;
    for (std::size_t i = 0; i < points.size(); ++i)
        if (const double value = objective(point_at(points[i], speed)); value < least) least = value, k = i;
    const auto try_at = [&](double id) {
        const auto iq = iq_for(id, contour.torque);
        return iq ? std::optional(point_at(m_map.at({id, *iq}), speed)) : std::nullopt;
    };
    const double low = points[k > 0 ? k - 1 : k].current.d,
                 high = points[std::min(k + 1, points.size() - 1)].current.d;
    const double id = least_between(
        [&](double d) {
            const auto p = try_at(d);
            return p ? objective(*p) : 1e290;
        },
        low, high, 1e-4 * m_limits.current);
    const auto refined = try_at(id);
    const OperatingPoint coarse = point_at(points[k], speed);
    const OperatingPoint& chosen = refined && objective(*refined) < least ? *refined : coarse;
    return allowed(chosen) ? std::optional(chosen) : std::nullopt;
}

std::optional<OperatingPoint> Drive::strongest(double speed, int sign) const {
    const Speed here = at_speed(speed);
    auto found = best_at(contour(0), here);
    if (!found) return std::nullopt;
    double low = 0, high = 1.02 * std::abs(m_map.torque(strongest_vector(m_limits.current, sign)));
    while (high - low > 1e-4 * high) {
        const double middle = (low + high) / 2;
        if (const auto point = best_at(contour(sign * middle), here)) {
            found = point;
            low = middle;
        } else {
            high = middle;
        }
    }
    return found;
}

Dq Drive::strongest_vector(double amplitude, int sign) const {
    const auto vector = [&](double advance) {
        const Dq i = current_vector(amplitude, advance);
        return Dq{i.d, sign * i.q};
    };
    const auto torque = [&](double advance) { return -sign * m_map.torque(vector(advance)); };
    double best = 0;
    // Towards +d only where the map reaches there.
    const bool both = m_map.id().back() > 0;
    for (int k = both ? -17 : 1; k < 18; ++k)
        if (torque(k * pi / 36) < torque(best)) best = k * pi / 36;
    const double least = both ? best - pi / 36 : std::max(0.0, best - pi / 36);
    return vector(least_between(torque, least, best + pi / 36, 1e-5));
}

std::optional<Dq> Drive::strongest_at_flux(double flux) const {
    // Along i_d, the i_q at which the flux linkage has this size; of these the one with the most torque.
    std::optional<Dq> best;
    const double low = m_map.id().front(), high = m_map.id().back();
    for (int k = 0; k <= 2 * contour_steps; ++k) {
        const double id = low + (high - low) * k / (2 * contour_steps);
        const auto size = [&](double iq) {
            const Dq psi = m_map.flux_linkage({id, iq});
            return std::hypot(psi.d, psi.q) - flux;
        };
        if (size(0) > 0) continue;
        const auto iq = rising_root(size, 0, m_map.iq().back());
        if (iq && (!best || m_map.torque({id, *iq}) > m_map.torque(*best))) best = Dq{id, *iq};
    }
    // On the map's edge it says nothing of the machine.
    return best && best->d > low + 1e-9 && (high <= 0 || best->d < high - 1e-9) ? best : std::nullopt;
}

double Drive::characteristic_current() const {
    const double edge = m_map.id().front();
    if (!m_machine.facts().magnets) return 0;
    const auto psi = [&](double id) { return m_map.flux_linkage({id, 0}).d; };
    if (const auto root = rising_root(psi, edge, 0)) return -*root;
    const double step = 0.1 * edge, slope = (psi(edge) - psi(edge - step)) / step;
    return slope > 0 ? psi(edge) / slope - edge : 0;
}

} // namespace mavlo
