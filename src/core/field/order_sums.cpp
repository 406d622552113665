#include "field/order_sums.h"

#include "field/side_by_side.h"
#include "quantity/constants.h"

#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

constexpr double trace_limit = 6; ///< orders kept for each reciprocal half width of the shortest edge

} // namespace

OrderSums::OrderSums(int points, const Sector& sector)
    : m_cosine(points, points)
    , m_sine(points, points) {
    const double first = double(sector.first_order()) / sector.order_step();
    for (int m = 0; m < points; ++m)
        for (int q = 0; q < points; ++q) {
            const Complex turn = std::polar(1.0, 2 * pi * m * (q + first) / points);
            m_cosine(q, m) = turn.real();
            m_sine(q, m) = turn.imag();
        }
}

Eigen::MatrixXd OrderSums::sums(const Eigen::MatrixXcd& a, const Eigen::MatrixXcd& b, bool two_cores) const {
    const Eigen::Index pairs = a.rows() * b.rows(), orders = a.cols(), n = points();
    Eigen::MatrixXd real(pairs, n), imag(pairs, n), result(pairs, n);
    const auto alike = [&](Eigen::Index m) {
        const Eigen::Index count = m < orders ? (orders - m + n - 1) / n : 0;
        const auto pick = [&](const Eigen::MatrixXcd& from) {
            return Eigen::Map<const Eigen::MatrixXcd, 0, Eigen::OuterStride<>>(
                from.data() + m * from.rows(), from.rows(), count, Eigen::OuterStride<>(n * from.rows()));
        };
        const Eigen::MatrixXcd product = pick(a) * pick(b).adjoint();
        const Eigen::Map<const Eigen::VectorXcd> column(product.data(), pairs);
        real.col(m) = column.real();
        imag.col(m) = column.imag();
    };
    const auto turned = [&](Eigen::Index from, Eigen::Index count) {
        auto columns = result.middleCols(from, count);
        columns.noalias() = real * m_cosine.middleCols(from, count);
        columns.noalias() -= imag * m_sine.middleCols(from, count);
    };
    const auto on_both = [&](const auto& act) {
        side_by_side(
            two_cores, [&] { act(0, n / 2); }, [&] { act(n / 2, n - n / 2); });
    };
    on_both([&](Eigen::Index from, Eigen::Index count) {
        for (Eigen::Index m = from; m < from + count; ++m) alike(m);
    });
    on_both(turned);
    return result;
}

Eigen::MatrixXd circle_block(const GapCircle& circle, const Sector& sector, const Eigen::MatrixXcd& integrals,
                             const Eigen::RowVectorXd& weights) {
    const Eigen::MatrixXcd weighted = integrals * weights.cast<Complex>().asDiagonal();
    const int pitches = circle.pitches();
    const Eigen::MatrixXd sums = OrderSums(pitches, sector).sums(integrals, weighted);
    const Eigen::Index nodes = integrals.rows();
    Eigen::MatrixXd block(pitches * nodes, pitches * nodes);
    for (int p = 0; p < pitches; ++p)
        for (int q = 0; q < pitches; ++q) {
            const int ahead = (q - p + pitches) % pitches;
            block.block(p * nodes, q * nodes, nodes, nodes) =
                (q < p ? sector.sign : 1) *
                Eigen::Map<const Eigen::MatrixXd>(sums.col(ahead).data(), nodes, nodes);
        }
    return 0.5 * (block + block.transpose());
}

std::vector<int> orders_up_to(const Sector& sector, double highest) {
    std::vector<int> orders;
    for (int n = sector.first_order(); orders.empty() || n <= int(std::ceil(highest)); n += sector.order_step())
        orders.push_back(n);
    return orders;
}

double highest_order(const GapCircle& circle) {
    return 2 * trace_limit / circle.shortest_edge();
}

} // namespace mavlo
