#include "map/map_machine.h"

#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

using Matrix32 = Eigen::Matrix<double, 3, 2>;

/// From d and q to the phases.
Matrix32 to_phase(double angle) {
    Matrix32 m;
    for (int k = 0; k < 3; ++k) {
        const double at = angle - 2 * std::numbers::pi / 3 * k;
        m(k, 0) = std::cos(at);
        m(k, 1) = -std::sin(at);
    }
    return m;
}

} // namespace

MapMachine::MapMachine(const FluxMap& map)
    : m_map(map)
    , m_step(0.01 * (map.id().back() - map.id().front()) / double(map.id().size())) {}

PhaseState MapMachine::at(double angle, const Currents& currents) const {
    const Matrix32 out = to_phase(angle);
    const Eigen::Matrix<double, 2, 3> in = 2.0 / 3 * out.transpose();
    // d/dtheta of both.
    Matrix32 turning;
    turning.col(0) = out.col(1);
    turning.col(1) = -out.col(0);
    const Eigen::Vector2d i = in * currents;
    const auto linkage = [&](double d, double q) {
        const Dq psi = m_map.flux_linkage({d, q});
        return Eigen::Vector2d(psi.d, psi.q);
    };
    const Eigen::Vector2d psi = linkage(i[0], i[1]);
    Eigen::Matrix2d slopes;
    slopes.col(0) = (linkage(i[0] + m_step, i[1]) - linkage(i[0] - m_step, i[1])) / (2 * m_step);
    slopes.col(1) = (linkage(i[0], i[1] + m_step) - linkage(i[0], i[1] - m_step)) / (2 * m_step);
    PhaseState state;
    state.linkage = out * psi;
    state.inductance = out * slopes * in;
    state.slope = turning * psi + out * slopes * (2.0 / 3 * turning.transpose() * currents);
    state.torque = m_map.torque({i[0], i[1]});
    return state;
}

} // namespace mavlo
