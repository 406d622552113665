#pragma once
// Sums over the orders of field waves that fit a sector, for all pairs of nodes at once.

#include "field/gap_circle.h"

namespace mavlo {

/// At angles in equal steps over one sector.
class OrderSums {
  public:
    OrderSums(int points, const Sector& sector);
    Eigen::Index points() const { return m_cosine.cols(); }

    /// Re sum_n a_jn b_kn* e^{in angle} for all pairs (j, k), one column for each angle. Orders that differ by
    /// as many steps as there are points turn alike, so they are added up first (aliasing).
    Eigen::MatrixXd sums(const Eigen::MatrixXcd& a, const Eigen::MatrixXcd& b, bool two_cores = false) const;

  private:
    Eigen::MatrixXd m_cosine, m_sine; ///< rows: orders counted modulo the points; columns: points
};

/// Stiffness that a series beyond (or within) a circle gives its nodes, of one sector and one metre:
/// K_jk = sum w_n Re(phi_j phi_k*), the same for every two pitches equally far apart. `integrals` are the
/// circle's, a weight for each of their orders.
Eigen::MatrixXd circle_block(const GapCircle& circle, const Sector& sector, const Eigen::MatrixXcd& integrals,
                             const Eigen::RowVectorXd& weights);

/// Orders of a sector's waves up to the one that reaches `highest`, the lowest in any case.
std::vector<int> orders_up_to(const Sector& sector, double highest);

/// Orders that a circle's own elements can carry: so many for each reciprocal half width of its shortest edge.
double highest_order(const GapCircle& circle);

} // namespace mavlo
