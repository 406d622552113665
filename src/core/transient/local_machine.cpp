#include "transient/local_machine.h"

#include "circuit/dq_frame.h"

namespace mavlo {

ConstantMachine::ConstantMachine(const PhaseState& state, double angle, const Currents& currents,
                                 int pole_pairs)
    : m_pole_pairs(pole_pairs) {
    const DqFrame frame(angle);
    m_inductance = frame.in() * state.inductance * frame.out;
    m_linkage = frame.in() * state.linkage - m_inductance * (frame.in() * currents);
    m_zero_sequence = state.inductance.sum() / 3;
}

PhaseState ConstantMachine::at(double theta, const Currents& i) const {
    const DqFrame frame(theta);
    const Eigen::Vector2d own = frame.in() * i, psi = m_linkage + m_inductance * own;
    PhaseState s = frame.state(psi, m_inductance, i);
    s.torque = 1.5 * m_pole_pairs * (psi[0] * own[1] - psi[1] * own[0]);
    s.linkage.array() += m_zero_sequence * i.mean();
    s.inductance.array() += m_zero_sequence / 3;
    return s;
}

} // namespace mavlo
