#include "map/cage_drive.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace mavlo {
namespace {

constexpr double least = 2e-3, most = 0.4; ///< of the base frequency: where rotor frequencies are looked for
constexpr int coarse_steps = 12, golden_steps = 14, halvings = 40;
constexpr double enough = 1e-6; ///< of a torque or current

/// The x in [low, high] of the largest f: by steps, then by golden section about the best of them (J. Kiefer,
/// Proc. Am. Math. Soc. 4, 1953).
Result<double> largest(double low, double high, const std::function<Result<double>(double)>& f) {
    double best = low, value = -1e300;
    for (int k = 0; k <= coarse_steps; ++k) {
        const double x = low + (high - low) * k / coarse_steps;
        const auto y = f(x);
        if (!y) return y;
        if (*y > value) best = x, value = *y;
    }
    const double step = (high - low) / coarse_steps, share = (std::sqrt(5.0) - 1) / 2;
    double a = std::max(low, best - step), b = std::min(high, best + step);
    for (int k = 0; k < golden_steps; ++k) {
        const double x1 = b - share * (b - a), x2 = a + share * (b - a);
        const auto y1 = f(x1), y2 = f(x2);
        if (!y1) return y1;
        if (!y2) return y2;
        if (std::max(*y1, *y2) > value) {
            value = std::max(*y1, *y2);
            best = *y1 > *y2 ? x1 : x2;
        }
        // Where neither is possible the best so far shows the way.
        const bool left = *y1 == *y2 ? best < (a + b) / 2 : *y1 > *y2;
        (left ? b : a) = left ? x2 : x1;
    }
    return best;
}

} // namespace

Result<CageOperation> CageDrive::at(double voltage, double rotor_frequency, double speed) const {
    const double turning = speed / m_machine.synchronous_speed(1), frequency = turning + rotor_frequency;
    const auto point = m_machine.at(voltage, frequency, rotor_frequency / frequency);
    if (!point) return point.problems();
    return CageOperation{*point, voltage, frequency};
}

/// At the largest voltage that both limits allow.
Result<CageOperation> CageDrive::at_limit(double rotor_frequency, double speed) const {
    auto full = at(m_voltage, rotor_frequency, speed);
    if (!full || full->point.current <= m_current) return full;
    double low = 0, high = m_voltage;
    CageOperation found = *full;
    for (int k = 0; k < halvings && high - low > enough * high; ++k) {
        const double middle = (low + high) / 2;
        auto tried = at(middle, rotor_frequency, speed);
        if (!tried) return tried;
        (tried->point.current > m_current ? high : low) = middle;
        if (tried->point.current <= m_current) found = *tried;
    }
    return found;
}

Result<std::optional<CageOperation>> CageDrive::with_torque(double torque, double rotor_frequency,
                                                            double speed) const {
    const auto limit = at_limit(rotor_frequency, speed);
    if (!limit) return limit.problems();
    if (std::abs(limit->point.torque) < std::abs(torque)) return std::optional<CageOperation>();
    // Torque goes about with the voltage's square: regula falsi on its root (M. Dowell, P. Jarratt, BIT 11,
    // 1971).
    double low = 0, high = limit->voltage, at_low = -std::sqrt(std::abs(torque)),
           at_high = std::sqrt(std::abs(limit->point.torque)) + at_low;
    CageOperation found = *limit;
    for (int k = 0; k < halvings && high - low > enough * high; ++k) {
        const double tried =
            at_high > at_low ? low - at_low * (high - low) / (at_high - at_low) : (low + high) / 2;
        auto there = at(tried, rotor_frequency, speed);
        if (!there) return there.problems();
        found = *there;
        const double value = std::sqrt(std::abs(there->point.torque)) - std::sqrt(std::abs(torque));
        if (std::abs(value) <= enough * std::sqrt(std::abs(torque))) break;
        if (value > 0) {
            high = tried;
            at_high = value;
            at_low /= 2;
        } else {
            low = tried;
            at_low = value;
            at_high /= 2;
        }
    }
    return std::optional<CageOperation>(found);
}

Result<std::optional<CageOperation>> CageDrive::strongest(double speed, int sign) const {
    const double turning = speed / m_machine.synchronous_speed(1);
    double high = most * m_base;
    if (sign < 0) high = std::min(high, 0.9 * turning);
    if (high <= least * m_base) return std::optional<CageOperation>();
    const auto torque = [&](double log) -> Result<double> {
        const auto point = at_limit(sign * std::exp(log), speed);
        if (!point) return point.problems();
        return sign * point->point.torque;
    };
    const auto best = largest(std::log(least * m_base), std::log(high), torque);
    if (!best) return best.problems();
    auto point = at_limit(sign * std::exp(*best), speed);
    if (!point) return point.problems();
    return std::optional<CageOperation>(*point);
}

Result<std::optional<CageOperation>> CageDrive::best(double torque, double speed, Aim aim) const {
    const int sign = torque < 0 ? -1 : 1;
    const double turning = speed / m_machine.synchronous_speed(1);
    double high = most * m_base;
    if (sign < 0) high = std::min(high, 0.9 * turning);
    if (high <= least * m_base || torque == 0) return std::optional<CageOperation>();
    const auto gain = [&](double log) -> Result<double> {
        const auto point = with_torque(torque, sign * std::exp(log), speed);
        if (!point) return point.problems();
        if (!*point) return -1e300;
        return aim == Aim::LeastLoss ? -(*point)->loss() : -(*point)->point.current;
    };
    const auto found = largest(std::log(least * m_base), std::log(high), gain);
    if (!found) return found.problems();
    return with_torque(torque, sign * std::exp(*found), speed);
}

} // namespace mavlo
