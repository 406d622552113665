#include "map/map_machine.h"

#include "circuit/dq_frame.h"

namespace mavlo {

MapMachine::MapMachine(const FluxMap& map)
    : m_map(map)
    , m_step(0.01 * (map.id().back() - map.id().front()) / double(map.id().size())) {}

PhaseState MapMachine::at(double angle, const Currents& currents) const {
    const DqFrame frame(angle);
    const Eigen::Vector2d i = frame.in() * currents;
    const auto linkage = [&](double d, double q) {
        const Dq psi = m_map.flux_linkage({d, q});
        return Eigen::Vector2d(psi.d, psi.q);
    };
    const Eigen::Vector2d psi = linkage(i[0], i[1]);
    Eigen::Matrix2d slopes;
    slopes.col(0) = (linkage(i[0] + m_step, i[1]) - linkage(i[0] - m_step, i[1])) / (2 * m_step);
    slopes.col(1) = (linkage(i[0], i[1] + m_step) - linkage(i[0], i[1] - m_step)) / (2 * m_step);
    PhaseState state = frame.state(psi, slopes, currents);
    state.torque = m_map.torque({i[0], i[1]});
    return state;
}

} // namespace mavlo
