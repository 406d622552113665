#include "figure/park.h"

#include <cassert>
#include <cmath>
#include <complex>

namespace mavlo {
PhaseValues to_phases(Dq dq, double theta, const std::vector<double>& lags) {
    assert(!lags.empty() && std::isfinite(theta));
    PhaseValues x;
    for (double lag : lags) x.push_back(dq.d * std::cos(theta - lag) - dq.q * std::sin(theta - lag));
    return x;
}

Dq to_dq(const PhaseValues& x, double theta, const std::vector<double>& lags) {
    assert(x.size() == lags.size() && !x.empty() && std::isfinite(theta));
    std::complex<double> sum = 0;
    for (std::size_t k = 0; k < x.size(); ++k) sum += x[k] * std::polar(1.0, lags[k] - theta);
    const double share = 2.0 / double(x.size());
    return {share * sum.real(), share * sum.imag()};
}

Dq turned(Dq v, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {v.d * c - v.q * s, v.d * s + v.q * c};
}

Dq current_vector(double peak, double advance) {
    return {-peak * std::sin(advance), peak * std::cos(advance)};
}

double electrical_angle(const Machine& machine, double rotor_angle) {
    return machine.pole_pairs() * (rotor_angle - phase_axis(machine.winding.layout));
}

} // namespace mavlo
