#include "figure/sheet_skin.h"

#include "figure/spectrum.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr std::size_t most_samples = 8192;

} // namespace

double share_of_waves(const Eigen::Ref<const Eigen::VectorXd>& squares, double frequency, double corner) {
    const double whole = squares.sum();
    if (corner <= 0 || whole <= 0) return 1;
    double kept = 0;
    for (Eigen::Index n = 0; n < squares.size(); ++n)
        if (squares[n] > 0) kept += squares[n] * sheet_share(double(n + 1) * frequency / corner);
    return kept / whole;
}

double share_of_locus(const Eigen::ArrayXd& steps, const Eigen::ArrayXd& x, const Eigen::ArrayXd& y,
                      double corner) {
    if (corner <= 0) return 1;
    const double period = steps.sum(), shortest = steps.maxCoeff() > 0 ? period / double(steps.size()) : period;
    std::size_t count = 64;
    while (count < most_samples && period / double(count) > shortest / 2) count *= 2;
    std::vector<double> even_x(count), even_y(count);
    Eigen::Index k = 0;
    double begin = 0;
    for (std::size_t i = 0; i < count; ++i) {
        const double t = period * double(i) / double(count);
        while (k + 1 < steps.size() && begin + steps[k] < t) begin += steps[k++];
        const double share = steps[k] > 0 ? (t - begin) / steps[k] : 0;
        even_x[i] = x[k] + share * (x[k + 1] - x[k]);
        even_y[i] = y[k] + share * (y[k + 1] - y[k]);
    }
    const auto along_x = harmonics(even_x), along_y = harmonics(even_y);
    Eigen::VectorXd squares(Eigen::Index(count / 2 - 1));
    for (Eigen::Index n = 0; n < squares.size(); ++n) {
        const auto order = std::size_t(n) + 1;
        squares[n] = double(order * order) * (std::norm(along_x[order]) + std::norm(along_y[order]));
    }
    return share_of_waves(squares, 1 / period, corner);
}

double inverse_corner(double share, double frequency) {
    if (share >= 1 || frequency <= 0) return 0;
    return (std::pow(share, -6) - 1) / std::pow(frequency, 3);
}

double share_by_corner(double inverse_corner, double f) {
    return inverse_corner > 0 ? std::pow(1 + f * f * f * inverse_corner, -1.0 / 6) : 1;
}

Eigen::MatrixXd order_rows(Eigen::Index samples) {
    const Eigen::Index orders = (samples - 1) / 2;
    Eigen::MatrixXd rows(2 * orders, samples);
    for (Eigen::Index n = 1; n <= orders; ++n)
        for (Eigen::Index k = 0; k < samples; ++k) {
            const double angle = 2 * pi * double(n * k % samples) / double(samples);
            rows(2 * n - 2, k) = 2 * std::cos(angle) / double(samples);
            rows(2 * n - 1, k) = 2 * std::sin(angle) / double(samples);
        }
    return rows;
}

} // namespace mavlo
