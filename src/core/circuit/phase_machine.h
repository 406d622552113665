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

} // namespace mavlo
