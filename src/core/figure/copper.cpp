#include "figure/copper.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;

/// xi (sinh 2xi + sin 2xi)/(cosh 2xi - cos 2xi), and 2 xi (sinh xi - sin xi)/(cosh xi + cos xi); by their
/// series where the differences would lose digits.
double phi(double xi) {
    if (xi < 0.05) return 1 + 4 * std::pow(xi, 4) / 45;
    return xi * (std::sinh(2 * xi) + std::sin(2 * xi)) / (std::cosh(2 * xi) - std::cos(2 * xi));
}
double psi(double xi) {
    if (xi < 0.05) return std::pow(xi, 4) / 3;
    return 2 * xi * (std::sinh(xi) - std::sin(xi)) / (std::cosh(xi) + std::cos(xi));
}

} // namespace

double ac_factor(const Machine& m, double frequency) {
    const Conductor conductor = machine_conductor(m);
    const double slot = m.winding.slot_area;
    const double strands = m.winding.turns * m.winding.layout.input.layers * m.winding.strands;
    if (slot <= 0 || conductor.area <= 0 || frequency <= 0) return 1;
    const double side = std::sqrt(pi) / 2 * conductor.strand_diameter, pitch = std::sqrt(slot / strands);
    const double rows = std::max(1.0, m.winding.conductor_depth / pitch), filled = std::min(1.0, side / pitch);
    const double sigma = 1 / m.winding.resistivity();
    const double xi = std::min(20.0, side * std::sqrt(pi * frequency * mu0 * sigma * filled));
    const double in_slot = phi(xi) + (rows * rows - 1) / 3 * psi(xi);
    const double share = std::min(1.0, 2 * m.stack_length / conductor.turn_length);
    return 1 + share * (in_slot - 1);
}

MechanicalLoss mechanical_loss(const Machine& m, double speed) {
    MechanicalLoss out;
    const double omega = std::abs(speed), r = m.rotor_radius();
    out.bearings = m.friction_torque * omega;
    constexpr double density = 1.06, viscosity = 1.89e-5; // kg/m3, m2/s of air at 60 degC
    const double reynolds = omega * r * m.gap / viscosity;
    if (reynolds < 1) return out;
    // 1/x = 2.04 + 1.768 ln(Re x) with x = sqrt(C_d): the left falls and the right rises, so there is one root.
    double low = 1e-4,
           high = 2; // Re x near 1 is the law's own end; at low speeds the rim loses next to nothing
    for (int i = 0; i < 60; ++i) {
        const double x = (low + high) / 2;
        (1 / x > 2.04 + 1.768 * std::log(reynolds * x) ? low : high) = x;
    }
    const double root = low;
    out.windage = pi * root * root * density * std::pow(r, 4) * std::pow(omega, 3) * m.stack_length;
    return out;
}

} // namespace mavlo
