#pragma once
// A machine near one instant, as a supply sees it: straight in its currents and its angle.

#include "circuit/phase_machine.h"

namespace mavlo {

/// psi(theta, i) = psi_0 + L (i - i_0) + s (theta - theta_0), the torque held.
class LocalMachine : public PhaseMachine {
  public:
    double angle = 0; ///< theta_0, electrical, rad
    Currents current = Currents::Zero();
    Eigen::Vector3d linkage = Eigen::Vector3d::Zero(), slope = Eigen::Vector3d::Zero();
    Eigen::Matrix3d inductance = Eigen::Matrix3d::Identity();
    double torque = 0;

    PhaseState at(double theta, const Currents& i) const override {
        return {linkage + inductance * (i - current) + slope * (theta - angle), inductance, slope, torque};
    }
};

/// A machine whose linkages along d and q are straight in the currents: psi_dq = psi_0 + L i_dq, and so is what
/// all phases have in common. A tangent of any machine whose field turns with its rotor.
class ConstantMachine : public PhaseMachine {
  public:
    /// The tangent to a state at this electrical angle and these currents.
    ConstantMachine(const PhaseState& state, double angle, const Currents& currents, int pole_pairs);
    PhaseState at(double theta, const Currents& i) const override;

  private:
    Eigen::Vector2d m_linkage;
    Eigen::Matrix2d m_inductance;
    double m_zero_sequence = 0; ///< H
    int m_pole_pairs;
};

} // namespace mavlo
