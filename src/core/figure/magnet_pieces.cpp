#include "figure/magnet_pieces.h"

#include "quantity/constants.h"

#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

constexpr int orders = 24;

/// Cosines across the magnet, made orthogonal to each other and to a constant over its points (modified
/// Gram-Schmidt), so that their squares sum to no more than the whole. Weighted: a column times the square
/// roots of the weights. Those that the points cannot tell from lower ones are zero.
Eigen::MatrixXd cosines(const AcrossMagnet& magnet) {
    const Eigen::VectorXd root = magnet.weight.array().sqrt();
    Eigen::MatrixXd basis(root.size(), orders + 1);
    for (int n = 0; n <= orders; ++n) {
        Eigen::VectorXd column = root.array() * (n * pi / magnet.width * magnet.place.array()).cos();
        const double whole = column.norm();
        for (int twice = 0; twice < 2; ++twice)
            for (int m = 0; m < n; ++m) column -= basis.col(m).dot(column) * basis.col(m);
        const double left = column.norm();
        basis.col(n) = left > 0.2 * whole ? Eigen::VectorXd(column / left)
                                          : Eigen::VectorXd(Eigen::VectorXd::Zero(root.size()));
    }
    return basis;
}

} // namespace

double share_of_order(double k, double length) {
    assert(k >= 0 && length > 0);
    const double half = k * length / 2;
    return half < 1e-3 ? half * half / 3 : 1 - std::tanh(half) / half;
}

AcrossMagnet across_magnet(const Part& part, const Sector& sector, const Chart& chart,
                           const std::vector<Point>& points, const Eigen::VectorXd& weight, double width) {
    const double begin = chart.angle(points.front()), whole = 2 * pi / sector.count;
    const Remanence& remanence = part.direction;
    const double square = remanence.at(begin) + pi / 2;
    AcrossMagnet out{Eigen::VectorXd(weight.size()), weight, width};
    for (Eigen::Index k = 0; k < weight.size(); ++k) {
        const Point p = points[std::size_t(k)];
        const double turns = std::round((chart.angle(p) - begin) / whole),
                     angle = chart.angle(p) - turns * whole, radius = chart.arm(chart.height(p));
        out.place[k] = chart.is_flat() || remanence.turn != 0 ? radius * (angle - begin)
                                                              : radius * std::cos(angle - square);
    }
    const double middle = weight.dot(out.place) / weight.sum();
    out.place.array() += width / 2 - middle;
    return out;
}

double kept_in_pieces(const AcrossMagnet& magnet, const Eigen::MatrixXd& density, double length) {
    const Eigen::MatrixXd basis = cosines(magnet), weighted = density * magnet.weight.cwiseSqrt().asDiagonal();
    const double whole = weighted.squaredNorm();
    if (whole <= 0) return 1;
    const Eigen::VectorXd of_order = (weighted * basis).colwise().squaredNorm();
    double told = 0, kept = 0;
    for (int n = 1; n <= orders; ++n) {
        told += of_order[n];
        kept += of_order[n] * share_of_order(n * pi / magnet.width, length);
    }
    return (kept + (whole - told) * share_of_order((orders + 1) * pi / magnet.width, length)) / whole;
}

} // namespace mavlo
