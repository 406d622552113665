#include "heat/heat_system.h"

#include "quantity/dense.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

/// Of each entry once, in both directions where it has two.
template <typename Act>
void each_way(const std::vector<HeatSystem::Entry>& shape, const Act& act) {
    for (const HeatSystem::Entry& e : shape) {
        act(e.i, e.j, e.value);
        if (e.i != e.j) act(e.j, e.i, e.value);
    }
}

} // namespace

int HeatSystem::add_nodes(int count) {
    const int first = nodes();
    m_held.insert(m_held.end(), std::size_t(count), false);
    m_temperature.insert(m_temperature.end(), std::size_t(count), 0.0);
    m_is_body.insert(m_is_body.end(), std::size_t(count), false);
    m_numbered = false;
    return first;
}

int HeatSystem::add_body() {
    const int node = add_nodes();
    m_is_body[std::size_t(node)] = true;
    return node;
}

void HeatSystem::hold(int node, double kelvin) {
    if (!m_held[std::size_t(node)]) m_numbered = false;
    m_held[std::size_t(node)] = true;
    m_temperature[std::size_t(node)] = kelvin;
}

int HeatSystem::add_term(std::string name, std::vector<Entry> shape, double coefficient, double extent) {
    // Entries of one place stand together.
    std::sort(shape.begin(), shape.end(),
              [](const Entry& a, const Entry& b) { return std::pair(a.j, a.i) < std::pair(b.j, b.i); });
    std::vector<Entry> merged;
    for (const Entry& e : shape) {
        assert(e.i >= e.j);
        if (!merged.empty() && merged.back().i == e.i && merged.back().j == e.j)
            merged.back().value += e.value;
        else
            merged.push_back(e);
    }
    m_terms.push_back({std::move(name), std::move(merged), coefficient, extent});
    m_numbered = false;
    return int(m_terms.size()) - 1;
}

int HeatSystem::join(std::string name, int a, int b, double conductance) {
    const int high = std::max(a, b), low = std::min(a, b);
    return add_term(std::move(name), {{high, high, 1}, {low, low, 1}, {high, low, -1}}, conductance);
}

bool HeatSystem::touches_mesh(const Term& term) const {
    const auto of_mesh = [this](int node) {
        return !m_is_body[std::size_t(node)] && !m_held[std::size_t(node)];
    };
    return std::any_of(term.shape.begin(), term.shape.end(),
                       [&](const Entry& e) { return of_mesh(e.i) || of_mesh(e.j); });
}

void HeatSystem::set_coefficient(int term, double coefficient) {
    Term& own = m_terms[std::size_t(term)];
    if (own.is_given || own.coefficient == coefficient) return;
    own.coefficient = coefficient;
    m_joined = false;
    if (m_factored && touches_mesh(own)) m_factored = false;
}

bool HeatSystem::give(const std::string& name, double conductance) {
    double extent = 0;
    for (const Term& term : m_terms)
        if (term.name == name) extent += term.extent;
    if (!(extent > 0)) return false;
    for (std::size_t k = 0; k < m_terms.size(); ++k) {
        if (m_terms[k].name != name) continue;
        set_coefficient(int(k), conductance / extent);
        m_terms[k].is_given = true;
    }
    return true;
}

void HeatSystem::add_capacity(const std::vector<Entry>& shape, double factor) {
    for (Entry e : shape) {
        e.value *= factor;
        m_capacity.push_back(e);
    }
    m_numbered = false;
}

void HeatSystem::add_capacity(int node, double joules_per_kelvin) {
    add_capacity({{node, node, 1}}, joules_per_kelvin);
}

HeatSystem::Numbering HeatSystem::numbered(bool with_bodies) const {
    Numbering n;
    n.place.assign(m_held.size(), -1);
    for (std::size_t i = 0; i < m_held.size(); ++i)
        if (!m_held[i] && (with_bodies || !m_is_body[i])) n.place[i] = n.count++;
    const auto of = [&](const Entry& e) {
        const int a = n.place[std::size_t(e.i)], b = n.place[std::size_t(e.j)];
        return std::pair(std::min(a, b), std::max(a, b)); // column, row
    };
    std::vector<std::pair<int, int>> all;
    for (int j = 0; j < n.count; ++j) all.emplace_back(j, j);
    const auto note = [&](const std::vector<Entry>& shape) {
        for (const Entry& e : shape)
            if (const auto place = of(e); place.first >= 0) all.push_back(place);
    };
    for (const Term& term : m_terms) note(term.shape);
    note(m_capacity);
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end()), all.end());
    n.pattern = std::make_shared<SparsePattern>();
    n.pattern->size = n.count;
    n.pattern->column.assign(std::size_t(n.count) + 1, 0);
    for (const auto& [column, row] : all) {
        n.pattern->row.push_back(row);
        ++n.pattern->column[std::size_t(column) + 1];
    }
    for (std::size_t j = 0; j < std::size_t(n.count); ++j) n.pattern->column[j + 1] += n.pattern->column[j];
    const auto places = [&](const std::vector<Entry>& shape) {
        std::vector<int> place;
        for (const Entry& e : shape) {
            const auto [column, row] = of(e);
            place.push_back(column < 0 ? -1 : n.pattern->position(row, column));
        }
        return place;
    };
    for (const Term& term : m_terms) n.entries.push_back(places(term.shape));
    n.entries.push_back(places(m_capacity));
    return n;
}

std::vector<double> HeatSystem::values(const Numbering& of, double per_time) const {
    std::vector<double> all(of.pattern->row.size(), 0.0);
    const auto add = [&](const std::vector<Entry>& shape, const std::vector<int>& place, double factor) {
        if (factor == 0) return;
        for (std::size_t k = 0; k < shape.size(); ++k)
            if (place[k] >= 0) all[std::size_t(place[k])] += factor * shape[k].value;
    };
    for (std::size_t t = 0; t < m_terms.size(); ++t)
        add(m_terms[t].shape, of.entries[t], m_terms[t].coefficient);
    add(m_capacity, of.entries.back(), per_time);
    return all;
}

/// Of the numbered nodes alone; zero elsewhere.
Eigen::VectorXd HeatSystem::solve(Cholesky& factor, const Numbering& of, const Eigen::VectorXd& power) {
    std::vector<double> x(std::size_t(of.count), 0.0);
    for (std::size_t i = 0; i < of.place.size(); ++i)
        if (of.place[i] >= 0) x[std::size_t(of.place[i])] = power[Eigen::Index(i)];
    if (of.count > 0) factor.solve(x);
    Eigen::VectorXd all = Eigen::VectorXd::Zero(power.size());
    for (std::size_t i = 0; i < of.place.size(); ++i)
        if (of.place[i] >= 0) all[Eigen::Index(i)] = x[std::size_t(of.place[i])];
    return all;
}

/// The mesh's factor, and what it does where one body after the other is a degree warmer.
bool HeatSystem::prepare() {
    if (!m_numbered) {
        m_mesh = numbered(false);
        m_bodies.clear();
        for (int i = 0; i < nodes(); ++i)
            if (m_is_body[std::size_t(i)] && !m_held[std::size_t(i)]) m_bodies.push_back(i);
        m_of_bodies.clear();
        for (const Term& term : m_terms) m_of_bodies.push_back(touches_bodies(term));
        if (m_mesh.count > 0) m_factor = make_cholmod(m_mesh.pattern);
        m_numbered = true;
        m_factored = false;
    }
    if (!m_factored) {
        m_factored = m_mesh.count == 0 || m_factor->factorise(values(m_mesh, 0));
        if (!m_factored) return false;
        m_shapes.resize(nodes(), Eigen::Index(m_bodies.size()));
        m_by_mesh.setZero(Eigen::Index(m_bodies.size()), Eigen::Index(m_bodies.size()));
        for (std::size_t k = 0; k < m_bodies.size(); ++k) {
            Eigen::VectorXd one = Eigen::VectorXd::Zero(nodes());
            one[m_bodies[k]] = 1;
            const Eigen::VectorXd pulled = product(one, Which::BetweenBodiesAndMesh);
            m_shapes.col(Eigen::Index(k)) =
                m_factor ? Eigen::VectorXd(one - solve(*m_factor, m_mesh, pulled)) : one;
            const Eigen::VectorXd flows = product(m_shapes.col(Eigen::Index(k)), Which::BetweenBodiesAndMesh);
            for (std::size_t j = 0; j < m_bodies.size(); ++j)
                m_by_mesh(Eigen::Index(j), Eigen::Index(k)) = flows[m_bodies[j]];
        }
        m_joined = false;
    }
    return m_joined || join_bodies();
}

/// What the mesh joins stays while it does; what bodies have among themselves is added.
bool HeatSystem::join_bodies() {
    const auto n = Eigen::Index(m_bodies.size());
    Eigen::MatrixXd matrix = m_by_mesh;
    std::vector<Eigen::Index> place(m_held.size(), -1);
    for (Eigen::Index k = 0; k < n; ++k) place[std::size_t(m_bodies[std::size_t(k)])] = k;
    for (const Term& term : m_terms) {
        if (touches_mesh(term)) continue;
        each_way(term.shape, [&](int i, int j, double value) {
            const Eigen::Index a = place[std::size_t(i)], b = place[std::size_t(j)];
            if (a >= 0 && b >= 0) matrix(a, b) += term.coefficient * value;
        });
    }
    if (n > 0) m_inverse = solved(matrix, Eigen::MatrixXd(Eigen::MatrixXd::Identity(n, n)));
    m_joined = n == 0 || (m_inverse.allFinite() && m_inverse.diagonal().minCoeff() > 0);
    return m_joined;
}

Problem HeatSystem::nowhere() const {
    return {
        "cooling.kind",
        "Some part has no way to give its heat to ambient or coolant; look at cooling, contacts and materials "
        "(a conductivity or coefficient of zero lets nothing through)."};
}

bool HeatSystem::touches_bodies(const Term& term) const {
    return std::any_of(term.shape.begin(), term.shape.end(), [this](const Entry& e) {
        return m_is_body[std::size_t(e.i)] || m_is_body[std::size_t(e.j)];
    });
}

Eigen::VectorXd HeatSystem::product(const Eigen::VectorXd& x, Which which) const {
    Eigen::VectorXd y = Eigen::VectorXd::Zero(x.size());
    for (std::size_t t = 0; t < m_terms.size(); ++t)
        if (const Term& term = m_terms[t];
            which == Which::All || (m_of_bodies[t] && (which == Which::OfBodies || touches_mesh(term))))
            each_way(term.shape, [&](int i, int j, double value) { y[i] += term.coefficient * value * x[j]; });
    return y;
}

Result<Eigen::VectorXd> HeatSystem::answer(const Eigen::VectorXd& power) {
    if (!prepare()) return nowhere();
    Eigen::VectorXd found =
        m_factor ? solve(*m_factor, m_mesh, power) : Eigen::VectorXd(Eigen::VectorXd::Zero(power.size()));
    if (!m_bodies.empty()) {
        const Eigen::VectorXd flows = product(found, Which::OfBodies);
        Eigen::VectorXd left{Eigen::Index(m_bodies.size())};
        for (std::size_t k = 0; k < m_bodies.size(); ++k)
            left[Eigen::Index(k)] = power[m_bodies[k]] - flows[m_bodies[k]];
        found += m_shapes * (m_inverse * left);
    }
    if (!found.allFinite() || found.cwiseAbs().maxCoeff() > 1e12) return nowhere();
    return found;
}

Result<Eigen::VectorXd> HeatSystem::steady(const Eigen::VectorXd& power) {
    Eigen::VectorXd held = Eigen::VectorXd::Zero(nodes());
    for (int i = 0; i < nodes(); ++i)
        if (is_held(i)) held[i] = held_at(i);
    auto rise = answer(power - product(held));
    if (!rise) return rise;
    Eigen::VectorXd all = held + *rise;
    // A refinement, so that powers balance to the last digits.
    const auto more = answer(power - product(all));
    if (!more) return more;
    return Eigen::VectorXd(all + *more);
}

Eigen::VectorXd HeatSystem::spread(const NodeShares& shares, double watts) const {
    Eigen::VectorXd power = Eigen::VectorXd::Zero(nodes());
    for (const auto& [node, share] : shares) power[node] += share * watts;
    return power;
}

double HeatSystem::mean(const NodeShares& shares, const Eigen::VectorXd& temperature) {
    double sum = 0;
    for (const auto& [node, share] : shares) sum += share * temperature[node];
    return sum;
}

double HeatSystem::between(int term, const Eigen::VectorXd& y, const Eigen::VectorXd& x) const {
    const Term& t = m_terms[std::size_t(term)];
    double sum = 0;
    each_way(t.shape, [&](int i, int j, double value) { sum += y[i] * value * x[j]; });
    return t.coefficient * sum;
}

Eigen::VectorXd HeatSystem::flow(int term, const Eigen::VectorXd& temperature) const {
    const Term& t = m_terms[std::size_t(term)];
    Eigen::VectorXd out = Eigen::VectorXd::Zero(temperature.size());
    each_way(t.shape, [&](int i, int j, double value) { out[i] += t.coefficient * value * temperature[j]; });
    return out;
}

double HeatSystem::into(int held, const Eigen::VectorXd& temperature) const {
    return -product(temperature)[held];
}

HeatSystem::Run::Run(HeatSystem& system, Eigen::VectorXd temperature, double step)
    : m_system(system)
    , m_numbering(system.numbered(true))
    , m_temperature(std::move(temperature))
    , m_step(step) {}

std::optional<Problem> HeatSystem::Run::go(const Eigen::VectorXd& power) {
    static const double gamma = 1 - 1 / std::sqrt(2.0);
    const double stage = gamma * m_step;
    if (!m_factor) {
        m_factor = make_cholmod(m_numbering.pattern);
        if (!m_factor->factorise(m_system.values(m_numbering, 1 / stage))) return m_system.nowhere();
    }
    const Eigen::VectorXd load = power - m_system.product(m_temperature),
                          first = solve(*m_factor, m_numbering, load) / stage, // rates
        between = (1 - gamma) * m_step * first,
                          second = solve(*m_factor, m_numbering, load - m_system.product(between)) / stage;
    m_temperature += between + stage * second;
    m_time += m_step;
    return std::nullopt;
}

} // namespace mavlo
