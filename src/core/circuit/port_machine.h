#pragma once
// A machine as a network sees it: phases by themselves, coupled by their flux linkages.

#include <Eigen/Dense>

namespace mavlo {

/// At one electrical angle and set of currents.
struct PortState {
    Eigen::VectorXd linkage;    ///< Wb
    Eigen::MatrixXd inductance; ///< d linkage/d current, H
    double torque = 0;          ///< N.m
};

class PortMachine {
  public:
    virtual ~PortMachine() = default;
    virtual int ports() const = 0;
    virtual PortState at(double angle, const Eigen::VectorXd& currents) const = 0;
};

/// No machine at all.
class NoMachine : public PortMachine {
  public:
    int ports() const override { return 0; }
    PortState at(double, const Eigen::VectorXd&) const override { return {}; }
};

} // namespace mavlo
