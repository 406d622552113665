#include "field/net_ranks.h"

#include "quantity/dense.h"

namespace mavlo {

void NetRanks::prepare(const Conductance& conductance, double per_time, std::size_t unknowns,
                       Cholesky& factor) {
    m_fields.clear();
    m_nets = &conductance.nets;
    const auto n = Eigen::Index(m_nets->size());
    m_matrix = conductance.net_matrix(per_time).real() / per_time;
    for (const auto& net : *m_nets) {
        m_fields.emplace_back(unknowns, 0.0);
        net.add_to(m_fields.back(), 1);
        factor.solve(m_fields.back());
    }
    for (Eigen::Index j = 0; j < n; ++j)
        for (Eigen::Index k = 0; k < n; ++k)
            m_matrix(j, k) -= (*m_nets)[std::size_t(j)].dot(m_fields[std::size_t(k)]);
}

void NetRanks::correct(std::vector<double>& values) const {
    if (m_fields.empty()) return;
    Eigen::VectorXd seen(m_matrix.rows());
    for (Eigen::Index k = 0; k < seen.size(); ++k) seen[k] = (*m_nets)[std::size_t(k)].dot(values);
    const Eigen::VectorXd weight = solved(m_matrix, seen);
    for (Eigen::Index k = 0; k < seen.size(); ++k) {
        const auto& field = m_fields[std::size_t(k)];
        for (std::size_t i = 0; i < values.size(); ++i) values[i] += weight[k] * field[i];
    }
}

} // namespace mavlo
