#pragma once
// What cutting magnets into pieces along the stack leaves of their eddy loss, order by order.

#include "figure/machine_model.h"

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// Share of the loss that a wave of current density cos(k s) across a magnet keeps in pieces of this length:
/// 1 - tanh(k l/2)/(k l/2). The current's stream function on the developed rectangle of a piece obeys Poisson's
/// equation and is zero at all four edges; its sine series across the width decouples, and each term's
/// equation along the piece is solved by hyperbolic functions (S. Timoshenko, J.N. Goodier, Theory of
/// Elasticity, 3rd ed., sec. 109: a bar's torsion is the same problem). `k` in 1/m.
double share_of_order(double k, double length);

/// Points of a magnet across its width.
struct AcrossMagnet {
    Eigen::VectorXd place;  ///< m, from one edge to the other at `width`
    Eigen::VectorXd weight; ///< m2
    double width = 0;       ///< m
};
/// Of these points of a magnet whose first piece is `part`; pieces beyond the end of the sector are turned back
/// to it. Across is square to the remanence, along the arc where that turns with the angle.
AcrossMagnet across_magnet(const Part& part, const Sector& sector, const Chart& chart,
                           const std::vector<Point>& points, const Eigen::VectorXd& weight, double width);

/// Share of the mean square of a current density (a row an instant, a column a point, without net current)
/// that pieces of this length keep: its cosines of k = n pi/width each by share_of_order, what is finer than
/// the 24th like the order after it.
double kept_in_pieces(const AcrossMagnet& magnet, const Eigen::MatrixXd& density, double length);

} // namespace mavlo
