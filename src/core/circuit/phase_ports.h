#pragma once
// A machine of three phases as a network has it.

#include "circuit/phase_machine.h"
#include "circuit/port_machine.h"

namespace mavlo {

/// The phases' currents need not sum to zero in a network.
class PhasePorts : public PortMachine {
  public:
    explicit PhasePorts(const PhaseMachine& machine)
        : m_machine(machine) {}
    int ports() const override { return 3; }
    PortState at(double angle, const Eigen::VectorXd& currents) const override {
        const PhaseState state = m_machine.at(angle, currents);
        return {state.linkage, state.inductance, state.torque};
    }

  private:
    const PhaseMachine& m_machine;
};

} // namespace mavlo
