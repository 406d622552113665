#pragma once
// A machine of three phases as a network has it.

#include "circuit/phase_machine.h"
#include "circuit/port_machine.h"

namespace mavlo {

/// The phases' currents need not sum to zero in a network; what they have in common (the zero sequence) meets
/// an inductance of its own, and each phase one in series (H). Its torque is that of the coenergy that it adds,
/// 3 i_0 psi_0: p i_0 sum dpsi_k/dtheta.
class PhasePorts : public PortMachine {
  public:
    PhasePorts(const PhaseMachine& machine, double series, double zero_sequence, int pole_pairs)
        : m_machine(machine)
        , m_series(series)
        , m_zero_sequence(zero_sequence)
        , m_pairs(pole_pairs) {}
    int ports() const override { return 3; }
    PortState at(double angle, const Eigen::VectorXd& currents) const override {
        const PhaseState own = m_machine.at(angle, currents);
        const double zero = currents.mean();
        PortState s{own.linkage + m_series * currents, own.inductance,
                    own.torque + m_pairs * zero * own.slope.sum()};
        s.inductance.diagonal().array() += m_series;
        s.linkage.array() += m_zero_sequence * zero;
        s.inductance.array() += m_zero_sequence / 3;
        return s;
    }

  private:
    const PhaseMachine& m_machine;
    double m_series, m_zero_sequence;
    int m_pairs;
};

} // namespace mavlo
