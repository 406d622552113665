#include "transient/local_machine.h"

#include "circuit/supply.h"

#include <cmath>

namespace mavlo {
namespace {

using Matrix32 = Eigen::Matrix<double, 3, 2>;

/// From d and q to the phases, and how that turns with the angle.
struct Park {
    Matrix32 out, turning;
    explicit Park(double angle) {
        for (int k = 0; k < 3; ++k) {
            const double at = angle - phase_lag(k);
            out.row(k) << std::cos(at), -std::sin(at);
            turning.row(k) << -std::sin(at), -std::cos(at);
        }
    }
    Eigen::Matrix<double, 2, 3> in() const { return 2.0 / 3 * out.transpose(); }
};

} // namespace

ConstantMachine::ConstantMachine(const PhaseState& state, double angle, const Currents& currents,
                                 int pole_pairs)
    : m_pole_pairs(pole_pairs) {
    const Park park(angle);
    m_inductance = park.in() * state.inductance * park.out;
    m_linkage = park.in() * state.linkage - m_inductance * (park.in() * currents);
}

PhaseState ConstantMachine::at(double theta, const Currents& i) const {
    const Park park(theta);
    const Eigen::Vector2d own = park.in() * i, psi = m_linkage + m_inductance * own;
    PhaseState s;
    s.linkage = park.out * psi;
    s.inductance = park.out * m_inductance * park.in();
    s.slope = park.turning * psi + park.out * (m_inductance * (2.0 / 3 * park.turning.transpose() * i));
    s.torque = 1.5 * m_pole_pairs * (psi[0] * own[1] - psi[1] * own[0]);
    return s;
}

} // namespace mavlo
