#include "question/field_history.h"

#include "quantity/dense.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>

namespace mavlo {
namespace {

constexpr std::size_t most_kept = 40, most_used = 20;
constexpr double most_amplified = 5; ///< sum of the weights' sizes: more would enlarge what fields lack

/// Exponents along and across the last step.
using Monomials = std::vector<std::array<int, 2>>;

/// From the richest polynomial to a plane; the last that fields determine is taken.
const std::vector<Monomials>& polynomials() {
    static const std::vector<Monomials> all{
        {{0, 0}, {1, 0}, {2, 0}, {3, 0}, {0, 1}, {1, 1}, {2, 1}, {0, 2}, {1, 2}, {0, 3}},
        {{0, 0}, {1, 0}, {2, 0}, {3, 0}, {0, 1}, {1, 1}, {2, 1}, {0, 2}},
        {{0, 0}, {1, 0}, {2, 0}, {3, 0}, {0, 1}, {1, 1}, {2, 1}},
        {{0, 0}, {1, 0}, {2, 0}, {0, 1}, {1, 1}, {0, 2}, {1, 2}},
        {{0, 0}, {1, 0}, {2, 0}, {0, 1}, {1, 1}, {0, 2}},
        {{0, 0}, {1, 0}, {0, 1}, {1, 1}, {0, 2}, {1, 2}},
        {{0, 0}, {1, 0}, {2, 0}, {0, 1}, {1, 1}},
        {{0, 0}, {1, 0}, {0, 1}, {1, 1}, {0, 2}},
        {{0, 0}, {1, 0}, {2, 0}, {3, 0}, {0, 1}},
        {{0, 0}, {1, 0}, {2, 0}, {0, 1}},
        {{0, 0}, {1, 0}, {0, 1}},
        {{0, 0}, {1, 0}, {2, 0}, {3, 0}},
        {{0, 0}, {1, 0}, {2, 0}},
        {{0, 0}, {1, 0}}};
    return all;
}

bool looks_across(const Monomials& monomials) {
    return std::any_of(monomials.begin(), monomials.end(), [](const auto& m) { return m[1] > 0; });
}

/// Weights of least size, each times its distance, with which values at `places` give the value at the
/// origin exactly for every monomial; empty where there are none.
std::vector<double> weights_of(const std::vector<std::array<double, 2>>& places, const Monomials& monomials) {
    if (places.size() < monomials.size()) return {};
    const auto rows = Eigen::Index(monomials.size()), columns = Eigen::Index(places.size());
    Eigen::MatrixXd system(rows, columns);
    for (Eigen::Index r = 0; r < rows; ++r)
        for (Eigen::Index c = 0; c < columns; ++c)
            system(r, c) = std::pow(places[std::size_t(c)][0], monomials[std::size_t(r)][0]) *
                           std::pow(places[std::size_t(c)][1], monomials[std::size_t(r)][1]);
    Eigen::VectorXd wanted = Eigen::VectorXd::Zero(rows), nearness(columns);
    wanted(0) = 1;
    for (Eigen::Index c = 0; c < columns; ++c)
        nearness(c) = 1 / std::hypot(places[std::size_t(c)][0], places[std::size_t(c)][1]);
    const Eigen::VectorXd weights =
        nearness.asDiagonal() * least_squares(system * nearness.asDiagonal(), wanted);
    if ((system * weights - wanted).cwiseAbs().maxCoeff() > 1e-9 || weights.cwiseAbs().sum() > most_amplified)
        return {};
    return {weights.data(), weights.data() + columns};
}

/// Currents of a field less those of the next, in the plane of the last step and one across.
class Plane {
  public:
    Plane(const Position& next, const FieldSolution& last)
        : m_next(next.current)
        , m_along(difference(last)) {
        m_length = norm(m_along);
        for (double& x : m_along) x /= m_length;
    }

    bool sound() const { return m_length > 0; }

    /// Empty where it lies off the plane.
    std::optional<std::array<double, 2>> place(const FieldSolution& field) {
        std::vector<double> d = difference(field);
        const double along = inner(d, m_along);
        for (std::size_t k = 0; k < d.size(); ++k) d[k] -= along * m_along[k];
        const double off = norm(d);
        if (off < 1e-9 * m_length) return std::array{along / m_length, 0.0};
        if (m_across.empty()) {
            m_across = d;
            for (double& x : m_across) x /= off;
        }
        const double across = inner(d, m_across);
        for (std::size_t k = 0; k < d.size(); ++k) d[k] -= across * m_across[k];
        if (norm(d) > 1e-6 * off) return std::nullopt;
        return std::array{along / m_length, across / m_length};
    }

  private:
    static double inner(const std::vector<double>& a, const std::vector<double>& b) {
        double sum = 0;
        for (std::size_t k = 0; k < a.size(); ++k) sum += a[k] * b[k];
        return sum;
    }
    static double norm(const std::vector<double>& a) { return std::sqrt(inner(a, a)); }
    std::vector<double> difference(const FieldSolution& field) const {
        std::vector<double> d(m_next.size());
        for (std::size_t k = 0; k < d.size(); ++k) d[k] = field.current[k] - m_next[k];
        return d;
    }

    const PortValues& m_next;
    std::vector<double> m_along, m_across;
    double m_length = 0;
};

} // namespace

void FieldHistory::add(FieldSolution solution) {
    if (m_fields.size() == most_kept) m_fields.pop_back();
    m_fields.push_front(std::move(solution));
}

const FieldSolution* FieldHistory::guess(const Position& next) {
    if (m_fields.empty()) return nullptr;
    std::vector<Share> shares = over_currents(next);
    if (shares.empty()) shares = turning(next);
    if (shares.size() < 2) return shares.empty() ? &m_fields.front() : shares.front().field;
    m_guess = m_fields.front();
    std::fill(m_guess.potential.begin(), m_guess.potential.end(), 0.0);
    for (const Share& share : shares)
        for (std::size_t i = 0; i < m_guess.potential.size(); ++i)
            m_guess.potential[i] += share.weight * share.field->potential[i];
    return &m_guess;
}

/// By the nearest fields at this angle.
std::vector<FieldHistory::Share> FieldHistory::over_currents(const Position& next) const {
    if (m_fields.front().angle != next.angle) return {};
    Plane plane(next, m_fields.front());
    if (!plane.sound()) return {};
    struct Near {
        const FieldSolution* field;
        std::array<double, 2> place;
        double distance;
    };
    std::vector<Near> near;
    for (const FieldSolution& field : m_fields) {
        if (field.angle != next.angle) break;
        if (const auto place = plane.place(field))
            near.push_back({&field, *place, std::hypot((*place)[0], (*place)[1])});
    }
    std::stable_sort(near.begin(), near.end(),
                     [](const Near& a, const Near& b) { return a.distance < b.distance; });
    if (near.size() > most_used) near.resize(most_used);
    for (const Monomials& monomials : polynomials()) {
        // Fields that lie across tell nothing where a polynomial does not look there.
        std::vector<Near> used;
        std::vector<std::array<double, 2>> places;
        for (const Near& n : near)
            if (looks_across(monomials) || std::abs(n.place[1]) < 1e-9) {
                used.push_back(n);
                places.push_back(n.place);
            }
        const auto weights = weights_of(places, monomials);
        if (weights.empty()) continue;
        std::vector<Share> shares;
        for (std::size_t k = 0; k < weights.size(); ++k) shares.push_back({used[k].field, weights[k]});
        return shares;
    }
    return {{near.front().field, 1}};
}

/// Lagrange's polynomial over the last fields, as long as steps are equal.
std::vector<FieldHistory::Share> FieldHistory::turning(const Position& next) const {
    std::size_t count = 1;
    while (count < std::min<std::size_t>(m_fields.size(), 3) && equal_step(count - 1, next)) ++count;
    std::vector<Share> shares;
    for (std::size_t k = 0; k < count; ++k) {
        double weight = 1;
        for (std::size_t j = 0; j < count; ++j)
            if (j != k) weight *= double(j + 1) / (double(j) - double(k));
        shares.push_back({&m_fields[k], weight});
    }
    return shares;
}

/// Whether the turn to field i was the one wanted next, with currents that flow on without a jump.
bool FieldHistory::equal_step(std::size_t i, const Position& next) const {
    const FieldSolution &from = m_fields[i + 1], &to = m_fields[i], &last = m_fields.front();
    const double turn = to.angle - from.angle;
    double jump = 0, size = 0;
    for (std::size_t k = 0; k < next.current.size(); ++k) {
        jump = std::max(jump, std::abs(to.current[k] - from.current[k]));
        size = std::max(size, std::abs(next.current[k]));
    }
    return turn != 0 && std::abs(turn - (next.angle - last.angle)) < 1e-9 && jump <= 0.3 * size;
}

} // namespace mavlo
