#include "study/surrogate.h"

#include "quantity/dense.h"

#include <cmath>

namespace mavlo {
namespace {

constexpr double smoothing = 1e-8;

double cubed_distance(const std::vector<double>& a, const std::vector<double>& b) {
    double square = 0;
    for (std::size_t d = 0; d < a.size(); ++d) square += (a[d] - b[d]) * (a[d] - b[d]);
    return square * std::sqrt(square);
}

} // namespace

Surrogate::Surrogate(const std::vector<std::vector<double>>& points, const std::vector<double>& values)
    : m_points(points) {
    const auto n = Eigen::Index(points.size()), d = Eigen::Index(points.front().size());
    Eigen::MatrixXd system = Eigen::MatrixXd::Zero(n + d + 1, n + d + 1);
    Eigen::VectorXd right = Eigen::VectorXd::Zero(n + d + 1);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& p = points[std::size_t(i)];
        for (Eigen::Index j = 0; j < i; ++j)
            system(i, j) = system(j, i) = cubed_distance(p, points[std::size_t(j)]);
        system(i, i) = smoothing;
        system(i, n) = system(n, i) = 1;
        for (Eigen::Index k = 0; k < d; ++k) system(i, n + 1 + k) = system(n + 1 + k, i) = p[std::size_t(k)];
        right(i) = values[std::size_t(i)];
    }
    // Fewer points than the plane needs leave it undetermined: the least one serves.
    const Eigen::VectorXd found = least_squares(system, right);
    m_weights = found.head(n);
    m_plane = found.tail(d + 1);
}

double Surrogate::operator()(const std::vector<double>& point) const {
    double value = m_plane(0);
    for (std::size_t k = 0; k < point.size(); ++k) value += m_plane(Eigen::Index(k) + 1) * point[k];
    for (std::size_t i = 0; i < m_points.size(); ++i)
        value += m_weights(Eigen::Index(i)) * cubed_distance(point, m_points[i]);
    return value;
}

} // namespace mavlo
