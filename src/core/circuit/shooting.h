#pragma once
// Newton's method on the free currents of a machine, one stretch of time on.

#include "circuit/phase_machine.h"
#include "quantity/problem.h"

namespace mavlo {

/// Two of a star, phases U and V; W carries the rest. All three of a delta.
using FreeCurrents = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 3, 1>;
inline Currents all_currents(const FreeCurrents& free) {
    return free.size() == 3 ? Currents(free) : Currents(free[0], free[1], -free[0] - free[1]);
}
inline FreeCurrents free_currents(const Currents& currents, bool delta) {
    return currents.head(delta ? 3 : 2);
}

/// What brings the currents at a stretch's beginning nearer to those that it ends with again: the solution of
/// (1
/// - J) change = wrong, J being the slope of `after` (currents at the end over those at the beginning) at x, by
/// differences of `step` from `here` = after(x) (T.J. Aprille, T.N. Trick, Proc. IEEE 60, 1972).
template <typename After>
Result<FreeCurrents> shooting_step(const After& after, const FreeCurrents& x, const FreeCurrents& here,
                                   const FreeCurrents& wrong, double step) {
    const Eigen::Index n = x.size();
    Eigen::MatrixXd one_less_slope = Eigen::MatrixXd::Identity(n, n);
    for (Eigen::Index c = 0; c < n; ++c) {
        FreeCurrents moved = x;
        moved[c] += step;
        const Result<FreeCurrents> there = after(moved);
        if (!there) return there.problems();
        one_less_slope.col(c) -= (*there - here) / step;
    }
    return FreeCurrents(one_less_slope.fullPivLu().solve(wrong));
}

} // namespace mavlo
