#include "field/circle_edges.h"

namespace mavlo {

CircleEdges::CircleEdges(const GapCircle& circle, std::vector<int> orders, Eigen::RowVectorXd weights)
    : m_circle(&circle)
    , m_orders(std::move(orders))
    , m_weights(std::move(weights))
    , m_nodes(circle.integrals(m_orders))
    , m_edges(circle.cubic_integrals(m_orders)) {
    const auto& unknowns = circle.unknowns();
    const Eigen::VectorXd own = m_edges.cwiseAbs2() * m_weights.transpose();
    for (std::size_t k = 0; k < unknowns.size(); k += 2)
        m_list.push_back({own[Eigen::Index(k / 2) % own.size()], unknowns[k + 1], unknowns[k],
                          unknowns[(k + 2) % unknowns.size()]});
}

Eigen::RowVectorXcd CircleEdges::sums(const Eigen::VectorXd& values) const {
    return m_circle->sums(m_nodes, m_orders, values).transpose();
}

void CircleEdges::spread(Eigen::RowVectorXcd sums, std::vector<double>& to) const {
    const Eigen::RowVectorXcd back = turn_factors(m_orders, -m_circle->pitch()).leftCols(sums.size());
    for (int p = 0; p < m_circle->pitches(); ++p) {
        const Eigen::VectorXd each = (m_edges.leftCols(sums.size()).conjugate() * sums.transpose()).real();
        to.insert(to.end(), each.begin(), each.end());
        sums = sums.cwiseProduct(back);
    }
}

} // namespace mavlo
