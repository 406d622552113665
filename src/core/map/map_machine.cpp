#include "map/map_machine.h"

#include "circuit/dq_frame.h"

namespace mavlo {

PhaseState MapMachine::at(double angle, const Currents& currents) const {
    const DqFrame frame(angle);
    const Eigen::Vector2d i = frame.in() * currents;
    const PositionMap::Point p = m_map.at(angle, {i[0], i[1]});
    Eigen::Matrix2d slopes;
    slopes << p.d.over_id, p.d.over_iq, p.q.over_id, p.q.over_iq;
    PhaseState state = frame.state({p.d.value, p.q.value}, slopes, currents);
    state.slope += frame.out * Eigen::Vector2d(p.d.over_angle, p.q.over_angle);
    // What all phases have in common turns no current of a star, but moves its point.
    const Eigen::RowVector2d zero(p.zero.over_id, p.zero.over_iq);
    state.linkage.array() += p.zero.value;
    state.inductance.rowwise() += zero * frame.in();
    state.slope.array() += p.zero.over_angle + 2.0 / 3 * (zero * frame.turning.transpose()).dot(currents);
    state.torque = p.torque.value;
    return state;
}

} // namespace mavlo
