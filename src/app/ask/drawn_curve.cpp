#include "ask/drawn_curve.h"

#include "figure/spectrum.h"

#include <cmath>

namespace mavlo::app {
namespace {

constexpr int finer = 6;
constexpr std::size_t fewest = 6, crowd = 64;
/// Share of the wave's power that the upper half of its harmonics may hold for a band-limited one.
constexpr double smooth = 4e-3;

bool is_periodic(const Curve& c) {
    return (c.x_name == "rotor_angle" || c.x_name == "gap_angle") && c.x.size() > 2;
}

bool is_smooth(const Curve& c) {
    // Staircases and given currents are what they are.
    if (!is_periodic(c) || c.x.size() < fewest || c.name.starts_with("mmf") || c.name.starts_with("current_"))
        return false;
    const double step = c.x[1] - c.x[0];
    for (std::size_t k = 1; k < c.x.size(); ++k)
        if (!std::isfinite(c.y[k]) || std::abs(c.x[k] - c.x[k - 1] - step) > 1e-6 * std::abs(step))
            return false;
    const auto waves = harmonics(c.y);
    double all = 0, upper = 0;
    for (std::size_t h = 1; h < waves.size(); ++h) {
        all += std::norm(waves[h]);
        if (2 * h > waves.size()) upper += std::norm(waves[h]);
    }
    return all > 0 && upper < smooth * all;
}

} // namespace

Curve drawn_curve(const Curve& curve) {
    if (!is_periodic(curve)) return curve;
    Curve out = curve;
    const double step = curve.x[1] - curve.x[0];
    if (is_smooth(curve)) {
        out.y = resampled(curve.y, finer);
        out.x.clear();
        for (std::size_t k = 0; k < out.y.size(); ++k)
            out.x.push_back(curve.x.front() + step * double(k) / finer);
    }
    out.x.push_back(2 * out.x.back() - out.x[out.x.size() - 2]);
    out.y.push_back(out.y.front());
    return out;
}

std::optional<Curve> solved_points(const Curve& curve) {
    if (!is_smooth(curve) || curve.x.size() > crowd) return std::nullopt;
    return curve;
}

} // namespace mavlo::app
