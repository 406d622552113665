#pragma once
// Newton's method on the two free currents of a star, one stretch of time on.

#include "circuit/phase_machine.h"
#include "quantity/problem.h"

namespace mavlo {

/// Phases U and V; W carries the rest.
inline Currents star_currents(const Eigen::Vector2d& free) {
    return {free[0], free[1], -free[0] - free[1]};
}
inline Eigen::Vector2d free_currents(const Currents& currents) {
    return {currents[0], currents[1]};
}

/// What brings the currents at a stretch's beginning nearer to those that it ends with again: the solution of
/// (1
/// - J) change = wrong, J being the slope of `after` (currents at the end over those at the beginning) at x, by
/// differences of `step` from `here` = after(x) (T.J. Aprille, T.N. Trick, Proc. IEEE 60, 1972).
template <typename After>
Result<Eigen::Vector2d> shooting_step(const After& after, const Eigen::Vector2d& x, const Eigen::Vector2d& here,
                                      const Eigen::Vector2d& wrong, double step) {
    Eigen::Matrix2d slope;
    for (int c = 0; c < 2; ++c) {
        Eigen::Vector2d moved = x;
        moved[c] += step;
        const Result<Eigen::Vector2d> there = after(moved);
        if (!there) return there.problems();
        slope.col(c) = (*there - here) / step;
    }
    return Eigen::Vector2d((Eigen::Matrix2d::Identity() - slope).fullPivLu().solve(wrong));
}

} // namespace mavlo
