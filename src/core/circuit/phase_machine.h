#pragma once
// A machine as its supply sees it: three phases that meet in a star point which is joined to nothing.

#include <Eigen/Dense>

namespace mavlo {

using Currents = Eigen::Vector3d; ///< A, into the phases; they sum to zero

/// At one electrical angle and current.
struct PhaseState {
    Eigen::Vector3d linkage;    ///< Wb
    Eigen::Matrix3d inductance; ///< d linkage/d current, H
    Eigen::Vector3d slope;      ///< d linkage/d electrical angle with the currents held, Wb
    double torque = 0;          ///< N.m
};

class PhaseMachine {
  public:
    virtual ~PhaseMachine() = default;
    virtual PhaseState at(double angle, const Currents& currents) const = 0;
};

/// A machine with the same inductance in series with each phase, which nothing else links.
class WithSeriesInductance : public PhaseMachine {
  public:
    WithSeriesInductance(const PhaseMachine& machine, double inductance)
        : m_machine(machine)
        , m_inductance(inductance) {}
    PhaseState at(double angle, const Currents& currents) const override {
        PhaseState state = m_machine.at(angle, currents);
        state.linkage += m_inductance * currents;
        state.inductance.diagonal().array() += m_inductance;
        return state;
    }

  private:
    const PhaseMachine& m_machine;
    double m_inductance;
};

} // namespace mavlo
