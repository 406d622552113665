#pragma once
// What the gap does to functions that its elements do not have.

#include "field/gap.h"

namespace mavlo {

/// One more function on every edge of both circles: the odd cubic l0 l1 (l0 - l1), from the smaller angle to
/// the larger. Edges stand in the order of their angle, those of the outer circle first.
class GapElement::Edges {
  public:
    explicit Edges(const GapElement& gap);

    /// The edge's own part of the energy product, and the unknowns at its middle and ends.
    struct Edge {
        double stiffness = 0;
        int middle = 0, from = 0, to = 0;
    };
    const std::vector<Edge>& edges() const { return m_edges; }
    /// Energy products of every edge's function with a field's traces, for one sector and one metre.
    std::vector<double> products(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                 double alpha) const;
    /// Slopes over alpha of what couples each edge's function with the other circle.
    std::vector<double> coupling_slopes(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                        double alpha) const;

  private:
    struct Circle {
        std::vector<int> orders{};
        Eigen::RowVectorXd weights{};
        Eigen::MatrixXcd nodes{}, edges{}; ///< integrals of the first pitch
        const GapCircle* circle = nullptr;
    };
    void add(const Side& side, Circle& circle);
    Eigen::RowVectorXcd sums(const Circle& circle, const Eigen::VectorXd& values) const;
    void spread(const Circle& circle, Eigen::RowVectorXcd sums, std::vector<double>& to) const;

    const GapElement& m_gap;
    Circle m_outer, m_inner;
    std::vector<Edge> m_edges;
};

} // namespace mavlo
