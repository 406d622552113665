#include "question/winding_curves.h"

#include "quantity/constants.h"

#include <cmath>

namespace mavlo {
namespace {

void add(Curve& curve, double x, double y) {
    curve.x.push_back(x);
    curve.y.push_back(y);
}

} // namespace

Curve winding_factor_curve(const WindingLayout& layout, int orders) {
    Curve factors{"winding_factor", "1", "mechanical_order", "1", {}, {}};
    for (int n = 1; n <= orders; ++n) add(factors, n, std::abs(winding_factor(layout, n)));
    return factors;
}

Curve mmf_curve(const WindingLayout& layout, const std::vector<double>& currents, int points) {
    Curve wave{"mmf", "A", "gap_angle", "deg", {}, {}};
    const std::vector<double> teeth = tooth_mmf(layout, currents);
    for (int i = 0; i < points; ++i) {
        const double theta = 2 * pi * (i + 0.5) / points;
        add(wave, theta * 180 / pi, teeth[tooth_at(layout, theta)]);
    }
    return wave;
}

std::pair<Curve, Curve> mmf_spectrum(const Machine& machine, int orders) {
    Curve forward{"mmf_forward", "A", "mechanical_order", "1", {}, {}}, backward = forward;
    backward.name = "mmf_backward";
    const double amperes = machine.rating.current / machine.winding.paths;
    for (int n = 1; n <= orders; ++n) {
        const auto [with, against] = travelling_mmf(machine.winding.layout, n);
        add(forward, n, with * amperes);
        add(backward, n, against * amperes);
    }
    return {forward, backward};
}

std::pair<Curve, Curve> ac_factor_curves(const AcResistance& alternating, double highest) {
    Curve whole{"ac_factor", "1", "frequency", "Hz", {}, {}}, slot = whole;
    slot.name = "ac_factor_slot";
    for (int i = 0; i <= 60; ++i) {
        const double f = highest * i / 60;
        add(whole, f, alternating.factor(f));
        add(slot, f, alternating.slot_factor(f));
    }
    return {whole, slot};
}

} // namespace mavlo
