#include "field/gap_edges.h"

#include <cmath>

namespace mavlo {

GapElement::Edges::Edges(const GapElement& gap)
    : m_gap(gap) {
    add(gap.m_outer, m_outer);
    add(gap.m_inner, m_inner);
}

void GapElement::Edges::add(const Side& side, Circle& c) {
    c.circle = &side.circle;
    c.orders = m_gap.orders_up_to(m_gap.highest_order(side.circle));
    c.weights = m_gap.weights(c.orders, std::tanh);
    c.nodes = side.circle.integrals(c.orders);
    c.edges = side.circle.cubic_integrals(c.orders);
    const auto& unknowns = side.circle.unknowns();
    const Eigen::VectorXd own = c.edges.cwiseAbs2() * c.weights.transpose();
    for (std::size_t k = 0; k < unknowns.size(); k += 2)
        m_edges.push_back({own[Eigen::Index(k / 2) % own.size()], unknowns[k + 1], unknowns[k],
                           unknowns[(k + 2) % unknowns.size()]});
}

Eigen::RowVectorXcd GapElement::Edges::sums(const Circle& c, const Eigen::VectorXd& values) const {
    return c.circle->sums(c.nodes, c.orders, values).transpose();
}

/// Re sum_n sums_n phi_n* for every edge; orders beyond the sums' are left out.
void GapElement::Edges::spread(const Circle& c, Eigen::RowVectorXcd sums, std::vector<double>& to) const {
    const Eigen::RowVectorXcd back = turn_factors(c.orders, -c.circle->pitch()).leftCols(sums.size());
    for (int p = 0; p < c.circle->pitches(); ++p) {
        const Eigen::VectorXd each = (c.edges.leftCols(sums.size()).conjugate() * sums.transpose()).real();
        to.insert(to.end(), each.begin(), each.end());
        sums = sums.cwiseProduct(back);
    }
}

std::vector<double> GapElement::Edges::products(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                                double alpha) const {
    const Eigen::RowVectorXcd s = sums(m_outer, outer), r = sums(m_inner, inner),
                              turn = turn_factors(m_gap.m_orders, alpha);
    const Eigen::Index n = turn.size(); // what crosses comes first among the orders of either circle
    const Eigen::RowVectorXcd crossing = m_gap.m_crossing.cast<std::complex<double>>();
    Eigen::RowVectorXcd on_outer = s.cwiseProduct(m_outer.weights.cast<std::complex<double>>()),
                        on_inner = r.cwiseProduct(m_inner.weights.cast<std::complex<double>>());
    on_outer.leftCols(n) += crossing.cwiseProduct(turn).cwiseProduct(r.leftCols(n));
    on_inner.leftCols(n) += crossing.cwiseProduct(turn.conjugate()).cwiseProduct(s.leftCols(n));
    std::vector<double> result;
    spread(m_outer, on_outer, result);
    spread(m_inner, on_inner, result);
    return result;
}

std::vector<double> GapElement::Edges::coupling_slopes(const Eigen::VectorXd& outer,
                                                       const Eigen::VectorXd& inner, double alpha) const {
    Eigen::RowVectorXcd turn = turn_factors(m_gap.m_orders, alpha);
    const Eigen::Index n = turn.size();
    for (Eigen::Index k = 0; k < n; ++k)
        turn[k] *= std::complex<double>(0, -m_gap.m_orders[std::size_t(k)]) * m_gap.m_crossing[k];
    std::vector<double> result;
    spread(m_outer, turn.cwiseProduct(sums(m_inner, inner).leftCols(n)), result);
    spread(m_inner, turn.conjugate().cwiseProduct(sums(m_outer, outer).leftCols(n)), result);
    return result;
}

} // namespace mavlo
