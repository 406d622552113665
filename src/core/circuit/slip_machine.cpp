#include "circuit/slip_machine.h"

#include "quantity/constants.h"
#include "quantity/search.h"

#include <algorithm>
#include <cmath>

namespace mavlo {

std::optional<double> SlipPoint::efficiency() const {
    if (output() > 0 && input > 0) return output() / input;
    if (output() < 0 && input < 0) return input / output();
    return std::nullopt;
}

double SlipMachine::synchronous_speed(double frequency) const {
    return 2 * pi * frequency / m_pairs;
}

Result<std::vector<SlipPoint>> SlipMachine::over(double voltage, double frequency,
                                                 const std::vector<double>& slips) {
    std::vector<SlipPoint> points;
    for (double slip : slips) {
        auto point = at(voltage, frequency, slip);
        if (!point) return point.problems();
        points.push_back(*point);
    }
    return points;
}

namespace {

constexpr std::size_t fewest_slips = 6;
constexpr int most_refinements = 8;

std::vector<double> coarse_slips(double sign) {
    constexpr int count = 9;
    std::vector<double> slips;
    for (int k = 0; k < count; ++k) slips.push_back(sign * std::pow(0.01, 1 - double(k) / (count - 1)));
    return slips;
}

/// The largest of three points of a parabola through them, over the logarithm of the slip.
PullOut top_of(const SlipPoint& a, const SlipPoint& b, const SlipPoint& c) {
    const double x0 = std::log(a.slip / b.slip), x1 = std::log(c.slip / b.slip), y0 = a.torque - b.torque,
                 y1 = c.torque - b.torque, below = x0 * x1 * (x0 - x1);
    const double square = (x1 * y0 - x0 * y1) / below, straight = (x0 * x0 * y1 - x1 * x1 * y0) / below;
    if (!(square != 0)) return {b.slip, b.torque};
    const double x = -straight / (2 * square);
    return {b.slip * std::exp(x), b.torque + x * (straight + square * x)};
}

} // namespace

Result<PullOut> SlipMachine::pull_out(double voltage, double frequency, bool as_motor) {
    const double sign = as_motor ? 1 : -1;
    std::vector<double> slips;
    for (double slip : known_slips(voltage, frequency))
        if (sign * slip > 0 && std::abs(slip) <= 1) slips.push_back(slip);
    if (slips.size() < fewest_slips) slips = coarse_slips(sign);
    std::sort(slips.begin(), slips.end(), [](double a, double b) { return std::abs(a) < std::abs(b); });
    auto points = over(voltage, frequency, slips);
    if (!points) return points.problems();
    const auto less = [&](const SlipPoint& a, const SlipPoint& b) { return sign * a.torque < sign * b.torque; };
    const auto top = std::max_element(points->begin(), points->end(), less);
    if (top == points->begin() || top + 1 == points->end()) return PullOut{top->slip, top->torque};
    SlipPoint left = *(top - 1), middle = *top, right = *(top + 1);
    PullOut best = top_of(left, middle, right);
    for (int k = 0; k < most_refinements; ++k) {
        const auto there = at(voltage, frequency, best.slip);
        if (!there) return there.problems();
        const bool before = std::abs(best.slip) < std::abs(middle.slip);
        if (less(middle, *there)) {
            (before ? right : left) = middle;
            middle = *there;
        } else {
            (before ? left : right) = *there;
        }
        if (middle.slip == left.slip || middle.slip == right.slip) break;
        const PullOut next = top_of(left, middle, right);
        const double moved = std::abs(next.slip / best.slip - 1);
        best = next;
        if (moved < 1e-3) break;
    }
    return best;
}

Result<std::optional<double>> SlipMachine::slip_for(double output, double voltage, double frequency) {
    const auto most = pull_out(voltage, frequency, output >= 0);
    if (!most) return most.problems();
    Problems problems;
    const auto missing = [&](double slip) {
        const auto point = at(voltage, frequency, slip);
        if (!point) {
            problems = point.problems();
            return 0.0;
        }
        return (output >= 0 ? 1 : -1) * (point->output() - output);
    };
    const auto found = rising_root([&](double share) { return missing(share * most->slip); }, 0, 1);
    if (!problems.empty()) return problems;
    return found ? std::optional(*found * most->slip) : std::nullopt;
}

} // namespace mavlo
