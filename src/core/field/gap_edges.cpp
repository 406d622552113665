#include "field/gap_edges.h"

#include <cmath>

namespace mavlo {

GapElement::Edges::Edges(const GapElement& gap)
    : m_gap(gap)
    , m_outer(on(gap.m_outer))
    , m_inner(on(gap.m_inner))
    , m_edges(m_outer.edges()) {
    m_edges.insert(m_edges.end(), m_inner.edges().begin(), m_inner.edges().end());
}

CircleEdges GapElement::Edges::on(const Side& side) const {
    auto orders = m_gap.orders_on(side.circle);
    auto weights = m_gap.weights(orders, std::tanh);
    return {side.circle, std::move(orders), std::move(weights)};
}

std::vector<double> GapElement::Edges::products(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                                double alpha) const {
    const Eigen::RowVectorXcd s = m_outer.sums(outer), r = m_inner.sums(inner),
                              turn = turn_factors(m_gap.m_orders, alpha);
    const Eigen::Index n = turn.size(); // what crosses comes first among the orders of either circle
    const Eigen::RowVectorXcd crossing = m_gap.m_crossing.cast<std::complex<double>>();
    Eigen::RowVectorXcd on_outer = s.cwiseProduct(m_outer.weights().cast<std::complex<double>>()),
                        on_inner = r.cwiseProduct(m_inner.weights().cast<std::complex<double>>());
    on_outer.leftCols(n) += crossing.cwiseProduct(turn).cwiseProduct(r.leftCols(n));
    on_inner.leftCols(n) += crossing.cwiseProduct(turn.conjugate()).cwiseProduct(s.leftCols(n));
    std::vector<double> result;
    m_outer.spread(on_outer, result);
    m_inner.spread(on_inner, result);
    return result;
}

std::vector<double> GapElement::Edges::coupling_slopes(const Eigen::VectorXd& outer,
                                                       const Eigen::VectorXd& inner, double alpha) const {
    Eigen::RowVectorXcd turn = turn_factors(m_gap.m_orders, alpha);
    const Eigen::Index n = turn.size();
    for (Eigen::Index k = 0; k < n; ++k)
        turn[k] *= std::complex<double>(0, -m_gap.m_orders[std::size_t(k)]) * m_gap.m_crossing[k];
    std::vector<double> result;
    m_outer.spread(turn.cwiseProduct(m_inner.sums(inner).leftCols(n)), result);
    m_inner.spread(turn.conjugate().cwiseProduct(m_outer.sums(outer).leftCols(n)), result);
    return result;
}

} // namespace mavlo
