#include "map/position_map.h"

#include "map/mirrored.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double felt = 1e-6;      ///< of the largest linkage or torque: a harmonic that is less is left away
constexpr int highest_order = 120; ///< that is kept

std::size_t place_of(int order, bool sine) {
    return order == 0 ? 0 : std::size_t(2 * order - (sine ? 0 : 1));
}

std::vector<PositionWaves> constant_waves(const FluxMap& map) {
    std::vector<PositionWaves> waves;
    for (const FluxPoint& p : map.points())
        waves.push_back({p.current, {p.flux_linkage.d}, {p.flux_linkage.q}, {0}, {p.torque}});
    return waves;
}

double size_of(const std::vector<double>& wave) {
    double most = 0;
    for (double v : wave) most = std::max(most, std::abs(v));
    return most;
}

} // namespace

int orders_of(int points) {
    return std::min((points - 1) / 2, highest_order);
}

std::vector<double> harmonics_over_position(const std::vector<double>& values, double start, int orders) {
    const auto n = values.size();
    assert(2 * std::size_t(orders) < n);
    std::vector<double> out(1 + 2 * std::size_t(orders), 0.0);
    for (std::size_t i = 0; i < n; ++i) {
        const double angle = start + 2 * std::numbers::pi * double(i) / double(n);
        out[0] += values[i] / double(n);
        for (int k = 1; k <= orders; ++k) {
            out[place_of(k, false)] += 2 * values[i] * std::cos(k * angle) / double(n);
            out[place_of(k, true)] += 2 * values[i] * std::sin(k * angle) / double(n);
        }
    }
    return out;
}

std::vector<double> PositionWaves::row() const {
    std::vector<double> out{current.d, current.q};
    for (const auto* wave : {&d, &q, &zero, &torque}) out.insert(out.end(), wave->begin(), wave->end());
    return out;
}

PositionWaves PositionWaves::from_row(const std::vector<double>& row) {
    const auto n = std::ptrdiff_t(row.size() - 2) / 4;
    const auto part = [&](int k) {
        return std::vector<double>(row.begin() + 2 + k * n, row.begin() + 2 + (k + 1) * n);
    };
    return {{row[0], row[1]}, part(0), part(1), part(2), part(3)};
}

PositionMap::PositionMap(const FluxMap& map)
    : PositionMap(map.id(), map.iq(), constant_waves(map)) {}

PositionMap::PositionMap(std::vector<double> id, const std::vector<double>& iq,
                         const std::vector<PositionWaves>& waves)
    : m_id(std::move(id)) {
    assert(waves.size() == m_id.size() * iq.size());
    const std::vector<MirroredRow> rows = with_mirror_image(iq);
    m_iq = currents_of(rows);
    const auto functions_of = [&](const std::vector<Term>& terms) {
        Eigen::MatrixXd values(Eigen::Index(rows.size() * m_id.size()), Eigen::Index(terms.size()));
        for (std::size_t j = 0; j < rows.size(); ++j)
            for (std::size_t i = 0; i < m_id.size(); ++i)
                for (std::size_t t = 0; t < terms.size(); ++t) {
                    const bool odd = (terms[t].quantity == Q || terms[t].quantity == Torque) != terms[t].sine;
                    values(Eigen::Index(j * m_id.size() + i), Eigen::Index(t)) =
                        (rows[j].mirrored && odd ? -1 : 1) *
                        part(waves[rows[j].from * m_id.size() + i], terms[t]);
                }
        return GridFunctions(m_id, m_iq, values);
    };
    m_means = functions_of({{D, 0, false}, {Q, 0, false}, {Zero, 0, false}, {Torque, 0, false}});
    m_terms = felt_terms(waves);
    m_waves = functions_of(m_terms);
}

double PositionMap::part(const PositionWaves& waves, const Term& term) {
    const std::array<const std::vector<double>*, quantities> all{&waves.d, &waves.q, &waves.zero,
                                                                 &waves.torque};
    return (*all[term.quantity])[place_of(term.order, term.sine)];
}

std::vector<PositionMap::Term> PositionMap::felt_terms(const std::vector<PositionWaves>& waves) {
    double linkage = 0, torque = 0;
    for (const PositionWaves& w : waves) {
        linkage = std::max({linkage, size_of(w.d), size_of(w.q)});
        torque = std::max(torque, size_of(w.torque));
    }
    std::vector<Term> terms;
    for (Quantity quantity : {D, Q, Zero, Torque})
        for (int order = 1; order <= waves.front().orders(); ++order)
            for (bool sine : {false, true}) {
                const Term term{quantity, order, sine};
                double most = 0;
                for (const PositionWaves& w : waves) most = std::max(most, std::abs(part(w, term)));
                if (most > felt * (quantity == Torque ? torque : linkage)) terms.push_back(term);
            }
    return terms;
}

PositionMap::Point PositionMap::at(double angle, Dq current) const {
    Point out;
    const std::array<Value*, quantities> all{&out.d, &out.q, &out.zero, &out.torque};
    const Eigen::MatrixX3d means = m_means.at(current.d, current.q);
    for (Eigen::Index k = 0; k < quantities; ++k)
        *all[std::size_t(k)] = {means(k, 0), means(k, 1), means(k, 2), 0};
    if (m_terms.empty()) return out;
    const Dq within{std::clamp(current.d, m_id.front(), m_id.back()),
                    std::clamp(current.q, m_iq.front(), m_iq.back())};
    Eigen::MatrixX3d waves = m_waves.at(within.d, within.q);
    if (within.d != current.d) waves.col(1).setZero();
    if (within.q != current.q) waves.col(2).setZero();
    for (std::size_t t = 0; t < m_terms.size(); ++t) {
        const auto [quantity, order, sine] = m_terms[t];
        const double c = std::cos(order * angle), s = std::sin(order * angle);
        const double wave = sine ? s : c, slope = order * (sine ? c : -s);
        const auto v = waves.row(Eigen::Index(t));
        Value& to = *all[quantity];
        to.value += v[0] * wave;
        to.over_id += v[1] * wave;
        to.over_iq += v[2] * wave;
        to.over_angle += v[0] * slope;
    }
    return out;
}

} // namespace mavlo
