#include "figure/park.h"

#include <cmath>
#include <complex>
#include <numbers>

namespace mavlo {
namespace {
constexpr double third = 2 * std::numbers::pi / 3;
}

PhaseValues to_phases(Dq dq, double theta) {
    PhaseValues x{};
    for (std::size_t k = 0; k < 3; ++k) {
        const double angle = theta - third * double(k);
        x[k] = dq.d * std::cos(angle) - dq.q * std::sin(angle);
    }
    return x;
}

Dq to_dq(const PhaseValues& x, double theta) {
    std::complex<double> sum = 0;
    for (std::size_t k = 0; k < 3; ++k) sum += x[k] * std::polar(1.0, third * double(k) - theta);
    return {2.0 / 3 * sum.real(), 2.0 / 3 * sum.imag()};
}

Dq current_vector(double peak, double advance) {
    return {-peak * std::sin(advance), peak * std::cos(advance)};
}

double electrical_angle(const Machine& machine, double rotor_angle) {
    return machine.pole_pairs() * (rotor_angle - phase_axis(machine.winding));
}

} // namespace mavlo
