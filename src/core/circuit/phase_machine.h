#pragma once
// A machine as its supply sees it: three phases that meet in a star point which is joined to nothing, or a
// delta that looks like them from its terminals (circuit/delta.h).

#include <Eigen/Dense>

namespace mavlo {

using Currents = Eigen::Vector3d; ///< A, into the phases; they sum to zero, or their mean goes round a delta

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

/// A machine of currents that sum to zero, where they need not: what they have in common (the zero sequence)
/// meets an inductance of its own (H). Its torque is that of the coenergy that it adds, 3 i_0 psi_0:
/// p i_0 sum dpsi_k/dtheta.
class WithZeroSequence : public PhaseMachine {
  public:
    WithZeroSequence(const PhaseMachine& machine, double inductance, int pole_pairs)
        : m_machine(machine)
        , m_inductance(inductance)
        , m_pairs(pole_pairs) {}
    PhaseState at(double angle, const Currents& currents) const override {
        PhaseState state = m_machine.at(angle, currents);
        const double zero = currents.mean();
        state.torque += m_pairs * zero * state.slope.sum();
        state.linkage.array() += m_inductance * zero;
        state.inductance.array() += m_inductance / 3;
        return state;
    }

  private:
    const PhaseMachine& m_machine;
    double m_inductance;
    int m_pairs;
};

} // namespace mavlo
