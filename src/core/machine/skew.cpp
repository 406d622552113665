#include "machine/skew.h"

#include "quantity/gauss_legendre.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

void add_breaks(const Skew& skew, std::vector<double>& breaks) {
    if (skew.angle == 0) return;
    if (skew.form == SkewForm::Vee) breaks.push_back(0.5);
    for (int k = 1; skew.form == SkewForm::Steps && k < skew.steps; ++k)
        breaks.push_back(double(k) / skew.steps);
}

bool is_even(const Skew& skew) {
    return skew.angle != 0 && skew.form != SkewForm::Steps;
}

} // namespace

double Skew::turn(double z) const {
    assert(z >= 0 && z <= 1 && steps > 0);
    switch (form) {
    case SkewForm::Continuous:
        return angle * (z - 0.5);
    case SkewForm::Vee:
        return angle * (0.5 - std::abs(2 * z - 1));
    case SkewForm::Steps:
        return angle * ((std::min(std::floor(z * steps), steps - 1.0) + 0.5) / steps - 0.5);
    }
    return 0;
}

std::vector<Slice> SkewedStack::slices(int points) const {
    if (none()) return {{0, 1}};
    std::vector<double> breaks{0, 1};
    add_breaks(rotor, breaks);
    add_breaks(stator, breaks);
    std::sort(breaks.begin(), breaks.end());
    breaks.erase(std::unique(breaks.begin(), breaks.end(), [](double a, double b) { return b - a < 1e-9; }),
                 breaks.end());
    const auto rule = gauss_legendre(is_even(rotor) || is_even(stator) ? points : 1);
    std::vector<Slice> list;
    for (std::size_t k = 0; k + 1 < breaks.size(); ++k)
        for (const GaussPoint& p : rule) {
            const double length = breaks[k + 1] - breaks[k], z = breaks[k] + p.at * length;
            list.push_back({rotor.turn(z) - stator.turn(z), p.weight * length});
        }
    return list;
}

SkewedStack skewed_by(double angle, int steps) {
    assert(steps >= 0);
    SkewedStack stack;
    stack.rotor = {angle, steps > 0 ? SkewForm::Steps : SkewForm::Continuous, std::max(1, steps)};
    return stack;
}

} // namespace mavlo
