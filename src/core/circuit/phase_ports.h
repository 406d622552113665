#pragma once
// A machine of three phases as a network has it.

#include "circuit/phase_machine.h"
#include "circuit/port_machine.h"

namespace mavlo {

/// The phases' currents need not sum to zero in a network; what they have in common meets the series inductance
/// (H) alone.
class PhasePorts : public PortMachine {
  public:
    PhasePorts(const PhaseMachine& machine, double series)
        : m_machine(machine)
        , m_series(series) {}
    int ports() const override { return 3; }
    PortState at(double angle, const Eigen::VectorXd& currents) const override {
        const PhaseState own = m_machine.at(angle, currents);
        PortState s{own.linkage + m_series * currents, own.inductance, own.torque};
        s.inductance.diagonal().array() += m_series;
        return s;
    }

  private:
    const PhaseMachine& m_machine;
    double m_series;
};

} // namespace mavlo
