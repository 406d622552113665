#pragma once
// Functions that a circle's elements do not have, and what the series beyond it makes of them.

#include "field/gap_circle.h"

namespace mavlo {

/// One more function on every edge of a circle: the odd cubic l0 l1 (l0 - l1), from the smaller angle to the
/// larger. Edges stand in the order of their angle.
class CircleEdges {
  public:
    /// `weights` of the orders as the circle's own stiffness has them; `circle` must outlive this.
    CircleEdges(const GapCircle& circle, std::vector<int> orders, Eigen::RowVectorXd weights);

    /// The edge's own part of the energy product, and the unknowns at its middle and ends.
    struct Edge {
        double stiffness = 0;
        int middle = 0, from = 0, to = 0;
    };
    const std::vector<Edge>& edges() const { return m_list; }
    const std::vector<int>& orders() const { return m_orders; }
    const Eigen::RowVectorXd& weights() const { return m_weights; }
    /// int A e^{-in theta} of a trace, for the orders.
    Eigen::RowVectorXcd sums(const Eigen::VectorXd& values) const;
    /// Re sum_n sums_n phi_n* for every edge, appended; orders beyond the sums' are left out.
    void spread(Eigen::RowVectorXcd sums, std::vector<double>& to) const;

  private:
    const GapCircle* m_circle;
    std::vector<int> m_orders;
    Eigen::RowVectorXd m_weights;
    Eigen::MatrixXcd m_nodes, m_edges; ///< integrals of the first pitch
    std::vector<Edge> m_list;
};

} // namespace mavlo
