#pragma once
// What the gap does to functions that its elements do not have.

#include "field/circle_edges.h"
#include "field/gap.h"

namespace mavlo {

/// The further functions on both circles, those of the outer circle first.
class GapElement::Edges {
  public:
    explicit Edges(const GapElement& gap);

    const std::vector<CircleEdges::Edge>& edges() const { return m_edges; }
    /// Energy products of every edge's function with a field's traces, for one sector and one metre.
    std::vector<double> products(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                 double alpha) const;
    /// Slopes over alpha of what couples each edge's function with the other circle.
    std::vector<double> coupling_slopes(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                        double alpha) const;

  private:
    CircleEdges on(const Side& side) const;

    const GapElement& m_gap;
    CircleEdges m_outer, m_inner;
    std::vector<CircleEdges::Edge> m_edges;
};

} // namespace mavlo
