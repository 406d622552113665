#pragma once
// Quantities along d and q as three phases have them.

#include "circuit/phase_machine.h"
#include "circuit/supply.h"

#include <cmath>

namespace mavlo {

/// From d and q to the phases at an electrical angle, and how that turns with it (R.H. Park, AIEE Trans. 48,
/// 1929; amplitude-invariant).
struct DqFrame {
    Eigen::Matrix<double, 3, 2> out, turning;
    explicit DqFrame(double angle) {
        for (int k = 0; k < 3; ++k) {
            const double at = angle - phase_lag(k);
            out.row(k) << std::cos(at), -std::sin(at);
            turning.row(k) << -std::sin(at), -std::cos(at);
        }
    }
    Eigen::Matrix<double, 2, 3> in() const { return 2.0 / 3 * out.transpose(); }

    /// The phases' state where the linkages along d and q and their slopes over the currents along d and q are
    /// these; the torque is left to whom it is known.
    PhaseState state(const Eigen::Vector2d& linkage, const Eigen::Matrix2d& inductance,
                     const Currents& currents) const {
        PhaseState s;
        s.linkage = out * linkage;
        s.inductance = out * inductance * in();
        s.slope = turning * linkage + out * (inductance * (2.0 / 3 * turning.transpose() * currents));
        return s;
    }
};

} // namespace mavlo
