#include "material/iron_loss.h"

#include "quantity/constants.h"
#include "quantity/dense.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace mavlo {
namespace {

/// Coefficients that fit best with the exponents given; none below zero.
struct Fit {
    double exponent = 0, bend = 0, hysteresis = 0, classical = 0, excess = 0;
    double squares = std::numeric_limits<double>::infinity();
};

/// Fits the rows of a table, each in shares of its loss: a column for each part's loss with coefficient 1.
class Table {
  public:
    Table(const std::vector<LossPoint>& points, const Sheet& sheet)
        : m_points(points)
        , m_sheet_classical(sheet.classical)
        , m_columns(Eigen::Index(points.size()), 3)
        , m_wanted(Eigen::Index(points.size())) {
        for (std::size_t i = 0; i < points.size(); ++i) {
            const auto& [f, b, p] = points[i];
            const double corner = corner_at(sheet.corners, b),
                         classical = f * f * b * b * (corner > 0 ? sheet_share(f / corner) : 1) / p;
            m_columns.row(Eigen::Index(i)) << 0, classical, std::pow(f * b, 1.5) / p;
            m_wanted[Eigen::Index(i)] = 1 - sheet.classical * classical;
            m_log.push_back(std::log(b));
        }
    }

    Fit at(double exponent, double bend) {
        for (std::size_t i = 0; i < m_points.size(); ++i) {
            const auto& [f, b, p] = m_points[i];
            m_columns(Eigen::Index(i), 0) = f * std::exp((exponent + bend * b) * m_log[i]) / p;
        }
        const Eigen::Matrix3d products = m_columns.transpose() * m_columns;
        const Eigen::Vector3d sides = m_columns.transpose() * m_wanted;
        Fit best;
        // Of the two (or three) coefficients every subset is tried: the best whose members are all positive is
        // the non-negative least-squares solution (C. Lawson, R. Hanson, Solving Least Squares Problems, 1974).
        for (int subset = 1; subset < 8; ++subset) {
            if (m_sheet_classical > 0 && (subset & 2)) continue;
            Fit fit{exponent, bend, 0, m_sheet_classical, 0};
            if (solve(subset, products, sides, fit) && fit.squares < best.squares) best = fit;
        }
        return best;
    }

  private:
    /// By the normal equations of the subset's columns.
    bool solve(int subset, const Eigen::Matrix3d& products, const Eigen::Vector3d& sides, Fit& fit) const {
        std::array<Eigen::Index, 3> used{};
        Eigen::Index count = 0;
        for (Eigen::Index k = 0; k < 3; ++k)
            if (subset >> k & 1) used[std::size_t(count++)] = k;
        Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, 3, 3> square(count, count);
        Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 3, 1> side(count);
        for (Eigen::Index i = 0; i < count; ++i) {
            side[i] = sides[used[std::size_t(i)]];
            for (Eigen::Index j = 0; j < count; ++j)
                square(i, j) = products(used[std::size_t(i)], used[std::size_t(j)]);
        }
        const Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 3, 1> x = square.ldlt().solve(side);
        if (!(x.minCoeff() >= 0)) return false;
        double* const target[] = {&fit.hysteresis, &fit.classical, &fit.excess};
        Eigen::Vector3d all = Eigen::Vector3d::Zero();
        for (Eigen::Index k = 0; k < count; ++k)
            *target[used[std::size_t(k)]] = all[used[std::size_t(k)]] = x[k];
        fit.squares = (m_columns * all - m_wanted).squaredNorm();
        return true;
    }

    const std::vector<LossPoint>& m_points;
    double m_sheet_classical;
    Eigen::Matrix<double, Eigen::Dynamic, 3> m_columns;
    Eigen::VectorXd m_wanted;
    std::vector<double> m_log; ///< of the flux densities
};

Problems faults(const std::vector<LossPoint>& points) {
    if (points.size() < 4)
        return {{"loss", "A loss table needs at least four rows of [f in Hz, B in T, W/kg]."}};
    for (std::size_t i = 0; i < points.size(); ++i) {
        const auto& p = points[i];
        const bool good = p.frequency > 0 && p.flux_density > 0 && p.loss > 0 &&
                          std::isfinite(p.frequency + p.flux_density + p.loss);
        if (!good)
            return {
                {"loss", fmt::format("Row {} of the loss table must have a positive frequency, flux density "
                                     "and loss.",
                                     i + 1)}};
    }
    const auto [low, high] = std::minmax_element(
        points.begin(), points.end(), [](const auto& a, const auto& b) { return a.frequency < b.frequency; });
    if (low->frequency == high->frequency)
        return {{"loss", "A loss table needs rows of at least two frequencies, or hysteresis and eddy currents "
                         "cannot be told apart."}};
    return {};
}

/// Linear in log k, alpha, a and b: relative squares, as the differences are small.
Result<IronLossLaw> fit_power(std::vector<LossPoint> points) {
    const auto n = Eigen::Index(points.size());
    Eigen::MatrixXd columns(n, 4);
    Eigen::VectorXd wanted(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& [f, b, p] = points[std::size_t(i)];
        columns.row(i) << 1, std::log(f), std::log(b), b * std::log(b);
        wanted[i] = std::log(p);
    }
    Eigen::VectorXd x = least_squares(columns, wanted);
    if (x[3] < 0) x = least_squares(columns.leftCols(3), wanted);
    if (x[1] < 1 || x[2] <= 0)
        return Problem{"loss",
                       "The losses of this table do not grow with frequency and flux density as a power "
                       "law needs; take the separated law."};
    IronLossLaw law;
    law.law = LossLaw::Power;
    law.hysteresis = std::exp(x[0]);
    law.alpha = x[1];
    law.exponent = x[2];
    law.bend = x.size() > 3 ? x[3] : 0;
    double squares = 0;
    for (const LossPoint& p : points)
        squares += std::pow(law.loss(p.frequency, p.flux_density) / p.loss - 1, 2);
    law.fit_error = std::sqrt(squares / double(points.size()));
    law.points = std::move(points);
    return law;
}

} // namespace

std::string to_string(LossLaw law) {
    return law == LossLaw::Power ? "power" : "separated";
}

double IronLossLaw::largest_flux_density() const {
    double most = 0;
    for (const LossPoint& p : points) most = std::max(most, p.flux_density);
    return most;
}

double IronLossLaw::largest_frequency() const {
    double most = 0;
    for (const LossPoint& p : points) most = std::max(most, p.frequency);
    return most;
}

bool IronLossLaw::extrapolates(double frequency, double b) const {
    const auto outside = [&](double value, double LossPoint::*member) {
        const auto [low, high] = std::minmax_element(
            points.begin(), points.end(), [&](const auto& p, const auto& q) { return p.*member < q.*member; });
        return value < (*low).*member || value > (*high).*member;
    };
    return known() && (outside(frequency, &LossPoint::frequency) || outside(b, &LossPoint::flux_density));
}

double IronLossLaw::hysteresis_per_cycle(double b) const {
    return b > 0 ? hysteresis * std::pow(b, exponent + bend * b) : 0;
}

double IronLossLaw::loss(double f, double b) const {
    assert(f >= 0);
    if (law == LossLaw::Power) return std::pow(f, alpha) * hysteresis_per_cycle(b);
    const double left = corners.empty() ? 1 : sheet_share(f / corner(b));
    return f * hysteresis_per_cycle(b) + classical * left * f * f * b * b + excess * std::pow(f * b, 1.5);
}

namespace {

/// Exponents by a search that closes in.
Fit best_fit(const std::vector<LossPoint>& points, const Sheet& sheet) {
    Table table(points, sheet);
    Fit best;
    double centre_a = 1.9, centre_b = 0.25, reach_a = 0.5, reach_b = 0.25;
    for (int level = 0; level < 6; ++level, reach_a /= 3, reach_b /= 3) {
        for (int i = -4; i <= 4; ++i)
            for (int j = -4; j <= 4; ++j) {
                const Fit fit = table.at(centre_a + reach_a * i / 4, std::max(0.0, centre_b + reach_b * j / 4));
                if (fit.squares < best.squares) best = fit;
            }
        centre_a = best.exponent;
        centre_b = best.bend;
    }
    return best;
}

/// Squares with the sheet's skin effect over those without, from which on a table speaks against it.
constexpr double contradiction = 2;

} // namespace

Result<IronLossLaw> fit_iron_loss(std::vector<LossPoint> points, const Sheet& given, LossLaw wanted) {
    if (auto problems = faults(points); !problems.empty()) return problems;
    if (wanted == LossLaw::Power) return fit_power(std::move(points));
    Sheet sheet = given;
    Fit best = best_fit(points, sheet);
    if (!sheet.corners.empty())
        if (const Fit plain = best_fit(points, sheet.classical); best.squares > contradiction * plain.squares) {
            best = plain;
            sheet.corners.clear();
        }
    if (!std::isfinite(best.squares))
        return Problem{"loss",
                       "The loss table lies below the eddy-current loss of a sheet of this thickness and "
                       "resistivity; correct one of them."};
    const double error = std::sqrt(best.squares / double(points.size()));
    return IronLossLaw{wanted, best.hysteresis, best.exponent,     best.bend,    best.classical, best.excess,
                       1,      error,           std::move(points), sheet.corners};
}

} // namespace mavlo
