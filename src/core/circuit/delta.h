#pragma once
// A delta as its terminals see it.

#include "circuit/phase_machine.h"
#include "circuit/supply_kind.h"

#include <cmath>
#include <numbers>

namespace mavlo {

/// Phase k lies between the terminals k and k + 1. The terminals' currents l, which sum to zero, and a current
/// c round the phases make x = l + (c, c, c), and the phases carry
///
///   p_k = (l_k - l_(k+1)) / 3 + c,   p = B x,   l_k = p_k - p_(k-1),   c = mean of p.
///
/// As power is the same either way, B^T psi are the linkages that belong to x (G. Kron, Tensor Analysis of
/// Networks, 1939): those of a star, whose mean is the linkage round the phases.
inline Eigen::Matrix3d phases_of_delta() {
    Eigen::Matrix3d b;
    b << 2, 0, 1, 1, 2, 0, 0, 1, 2;
    return b / 3;
}

/// The l of these phase currents.
inline Currents terminals_of_delta(const Eigen::Vector3d& phases) {
    return {phases[0] - phases[2], phases[1] - phases[0], phases[2] - phases[1]};
}

class DeltaAsStar : public PhaseMachine {
  public:
    explicit DeltaAsStar(const PhaseMachine& phases)
        : m_phases(phases) {}
    PhaseState at(double angle, const Currents& x) const override {
        const Eigen::Matrix3d b = phases_of_delta();
        const PhaseState s = m_phases.at(angle, b * x);
        return {b.transpose() * s.linkage, b.transpose() * s.inductance * b, b.transpose() * s.slope, s.torque};
    }

  private:
    const PhaseMachine& m_phases;
};

/// Peak (A) of the current round a delta that a linkage which all phases have in common (peak, Wb) drives at an
/// angular frequency of its own (rad/s): |R + j omega L_0| stands against it, with a phase's resistance (Ohm)
/// and the inductance (H) that a current common to all phases meets.
inline double current_round_delta(double linkage, double omega, double resistance, double inductance) {
    return omega * linkage / std::hypot(resistance, omega * inductance);
}

/// Voltages, currents and angles given for the phases of a delta, as a supply has them at the terminals: the
/// star that feeds alike has voltages smaller and currents larger by the root of three, and lags 30 degrees.
inline SupplySettings at_terminals_of_delta(SupplySettings s) {
    s.clock.ahead = -std::numbers::pi / 6;
    s.voltage /= std::numbers::sqrt3;
    s.current *= std::numbers::sqrt3;
    return s;
}

} // namespace mavlo
