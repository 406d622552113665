#include "heat/wire_bundle.h"

#include "quantity/constants.h"
#include "quantity/dense.h"

#include <cmath>
#include <limits>
#include <vector>

namespace mavlo {
namespace {

constexpr int multipoles = 60; ///< 1, 3, 5, …

/// sum over n of the sum of n's divisors to a power, times q^n.
double divisor_series(int power, double q) {
    double sum = 0, qn = 1;
    for (int n = 1; n <= 400; ++n) {
        qn *= q;
        if (std::abs(qn) < 1e-300) break;
        double divisors = 0;
        for (int d = 1; d <= n; ++d)
            if (n % d == 0) divisors += std::pow(double(d), power);
        const double term = divisors * qn;
        sum += term;
        if (n > 20 && std::abs(term) < 1e-18 * std::abs(sum)) break;
    }
    return sum;
}

/// Sums of z^-order over a lattice with one point at distance 1, order even: for low orders Eisenstein's series
/// in the nome, for high ones the nearest points themselves.
double lattice_sum(WireArray array, int order) {
    const bool square = array == WireArray::Square;
    if (order % (square ? 4 : 6) != 0) return 0;
    const double q = square ? std::exp(-2 * pi) : -std::exp(-pi * std::sqrt(3.0));
    if (order <= 12) {
        const double zeta = std::riemann_zeta(double(order)), sign = order % 4 == 0 ? 1 : -1;
        return 2 * zeta +
               2 * sign * std::pow(2 * pi, order) / std::tgamma(double(order)) * divisor_series(order - 1, q);
    }
    double sum = 0;
    const double height = square ? 1 : std::sqrt(3.0) / 2, shift = square ? 0 : 0.5;
    for (int j = -8; j <= 8; ++j)
        for (int i = -12; i <= 12; ++i) {
            const double x = i + shift * j, y = height * j, r = std::hypot(x, y);
            if (r > 0.5 && r < 7) sum += std::cos(order * std::atan2(y, x)) * std::pow(r, -order);
        }
    return sum;
}

/// Of all even orders up to twice the multipoles'.
const std::vector<double>& lattice_sums(WireArray array) {
    const auto made = [](WireArray of) {
        std::vector<double> sums(4 * multipoles + 1, 0.0);
        for (int order = 4; order < int(sums.size()); order += 2)
            sums[std::size_t(order)] = lattice_sum(of, order);
        return sums;
    };
    static const std::vector<double> square = made(WireArray::Square), hexagonal = made(WireArray::Hexagonal);
    return array == WireArray::Square ? square : hexagonal;
}

/// A wire's multipole over the field that makes it, in radii of its outside.
double polarisability(const WireBundle& b, int order) {
    if (b.coat <= 0) return (b.wire - b.resin) / (b.wire + b.resin);
    const double inner = (b.wire - b.coat) / (b.wire + b.coat) * std::pow(b.bare_radius, 2 * order),
                 coat = b.coat / b.resin, flux = coat * (1 + inner), drop = 1 - inner;
    return (flux - drop) / (flux + drop);
}

double fill_where_wires_touch(WireArray array) {
    return array == WireArray::Square ? pi / 4 : pi / (2 * std::sqrt(3.0));
}

} // namespace

double across_wires(const WireBundle& bundle, WireArray array) {
    if (bundle.fill <= 0) return bundle.resin;
    if (bundle.fill >= fill_where_wires_touch(array)) return std::numeric_limits<double>::quiet_NaN();
    const double cell = array == WireArray::Square ? 1 : std::sqrt(3.0) / 2,
                 radius = std::sqrt(bundle.fill * cell / pi);
    // Unknowns b_l = B_l / (radius^l sqrt(l)), so that the matrix is symmetric.
    const std::vector<double>& sums = lattice_sums(array);
    const Eigen::Index n = multipoles;
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n, n);
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(n, 1);
    for (Eigen::Index i = 0; i < n; ++i) {
        const int l = 2 * int(i) + 1;
        a(i, i) += 1 / polarisability(bundle, l);
        for (Eigen::Index j = 0; j < n; ++j) {
            const int m = 2 * int(j) + 1;
            if (l + m == 2) {
                a(i, j) -= radius * radius * pi / cell;
                continue;
            }
            const double sum = sums[std::size_t(l + m)];
            if (sum == 0) continue;
            const double ways = std::lgamma(l + m) - std::lgamma(m) - std::lgamma(l + 1.0);
            a(i, j) -= sum * std::exp(ways + (l + m) * std::log(radius)) * std::sqrt(double(l) / m);
        }
    }
    right(0, 0) = -radius;
    const Eigen::MatrixXd solution = solved(a, right);
    return bundle.resin * (1 - 2 * pi * radius * solution(0, 0) / cell);
}

std::pair<double, double> wiener_bounds(const WireBundle& b) {
    return {1 / (b.fill / b.wire + (1 - b.fill) / b.resin), b.fill * b.wire + (1 - b.fill) * b.resin};
}

std::pair<double, double> hashin_shtrikman_bounds(const WireBundle& b) {
    const auto around = [](double outside, double inside, double share) {
        const double tau = share * (inside - outside) / (inside + outside);
        return outside * (1 + tau) / (1 - tau);
    };
    return {around(b.resin, b.wire, b.fill), around(b.wire, b.resin, 1 - b.fill)};
}

double coated_wire(const WireBundle& b) {
    if (b.coat <= 0) return b.wire;
    const double tau = b.bare_radius * b.bare_radius * (b.wire - b.coat) / (b.wire + b.coat);
    return b.coat * (1 + tau) / (1 - tau);
}

} // namespace mavlo
