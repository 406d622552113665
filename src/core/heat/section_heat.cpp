#include "heat/section_heat.h"

#include "field/quadrature.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

using Entry = HeatSystem::Entry;

std::array<Point, 6> corners(const BodyMesh& mesh, std::size_t element) {
    std::array<Point, 6> points;
    for (std::size_t k = 0; k < 6; ++k) points[k] = mesh.nodes[std::size_t(mesh.elements[element].node[k])];
    return points;
}

template <typename Act>
void each_point(const BodyMesh& mesh, std::size_t element, const Act& act) {
    const auto points = corners(mesh, element);
    for (const RulePoint& p : curved_rule()) {
        const ShapeAt s = quadratic_shape(points, p.a, p.b);
        act(s, p.weight * s.jacobian);
    }
}

Entry lower(int i, int j, double value) {
    return {std::max(i, j), std::min(i, j), value};
}

} // namespace

SectionHeat::SectionHeat(HeatSystem& system, const BodyMesh& mesh, std::vector<HeatGroup> groups,
                         std::vector<int> group, double scale)
    : m_system(system)
    , m_mesh(mesh)
    , m_groups(std::move(groups))
    , m_group(std::move(group))
    , m_scale(scale) {
    assert(m_group.size() == mesh.elements.size());
    number();
    find_edges();
    for (int g = 0; g < int(m_groups.size()); ++g) add_conduction(g, scale);
}

/// The node at the sector's beginning that this one repeats.
int SectionHeat::first_of(int node) const {
    const int image = m_mesh.image[std::size_t(node)];
    return image >= 0 ? image : node;
}

void SectionHeat::number() {
    std::map<std::pair<int, int>, int> known; // by node and domain
    for (std::size_t e = 0; e < m_mesh.elements.size(); ++e) {
        std::array<int, 6> nodes{};
        for (std::size_t k = 0; k < 6; ++k) {
            const std::pair key(first_of(m_mesh.elements[e].node[k]), m_groups[std::size_t(m_group[e])].domain);
            const auto [at, is_new] = known.try_emplace(key, -1);
            if (is_new) at->second = m_system.add_nodes();
            nodes[k] = at->second;
        }
        m_nodes.push_back(nodes);
    }
}

void SectionHeat::find_edges() {
    std::map<std::pair<int, int>, Edge> open;
    for (std::size_t e = 0; e < m_mesh.elements.size(); ++e)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::array<std::size_t, 3> local{k, 3 + k, (k + 1) % 3};
            Edge edge{{}, {}, m_groups[std::size_t(m_group[e])].domain};
            for (std::size_t i = 0; i < 3; ++i) {
                edge.place[i] = m_mesh.elements[e].node[local[i]];
                edge.node[i] = m_nodes[e][local[i]];
            }
            const int a = first_of(edge.place[0]), b = first_of(edge.place[2]);
            const std::pair key(std::min(a, b), std::max(a, b));
            const auto found = open.find(key);
            if (found == open.end()) {
                open.emplace(key, edge);
                continue;
            }
            if (found->second.domain != edge.domain) {
                if (first_of(found->second.place[0]) != first_of(edge.place[0])) {
                    std::swap(edge.place[0], edge.place[2]);
                    std::swap(edge.node[0], edge.node[2]);
                }
                m_interfaces.emplace_back(found->second, edge);
            }
            open.erase(found);
        }
    for (const auto& [key, edge] : open) m_boundary.push_back(edge);
}

void SectionHeat::add_conduction(int group, double scale) {
    const HeatGroup& own = m_groups[std::size_t(group)];
    std::vector<Entry> shape, mass;
    for (std::size_t e = 0; e < m_nodes.size(); ++e) {
        if (m_group[e] != group) continue;
        std::array<double, 36> stiff{}, full{};
        each_point(m_mesh, e, [&](const ShapeAt& s, double weight) {
            const double r = norm(s.at), ux = s.at.x / r, uy = s.at.y / r, across = own.tangential / own.radial;
            for (std::size_t a = 0; a < 6; ++a)
                for (std::size_t b = 0; b <= a; ++b) {
                    const double radial = (s.gx[a] * ux + s.gy[a] * uy) * (s.gx[b] * ux + s.gy[b] * uy),
                                 tangential = (s.gy[a] * ux - s.gx[a] * uy) * (s.gy[b] * ux - s.gx[b] * uy);
                    stiff[6 * a + b] += weight * (radial + across * tangential);
                    full[6 * a + b] += weight * s.n[a] * s.n[b];
                }
        });
        for (std::size_t a = 0; a < 6; ++a)
            for (std::size_t b = 0; b <= a; ++b) {
                shape.push_back(lower(m_nodes[e][a], m_nodes[e][b], scale * stiff[6 * a + b]));
                mass.push_back(lower(m_nodes[e][a], m_nodes[e][b], scale * full[6 * a + b]));
            }
    }
    m_conduction.push_back(m_system.add_term(own.name, std::move(shape), own.radial));
    m_system.add_capacity(mass, own.capacity);
}

/// int N_i N_j along the edge, per metre of length, by Gauss's rule of three points on its parabola.
std::array<std::array<double, 3>, 3> SectionHeat::edge_mass(const Edge& edge) const {
    std::array<std::array<double, 3>, 3> mass{};
    static const double places[] = {-std::sqrt(0.6), 0, std::sqrt(0.6)},
                        weights[] = {5.0 / 9, 8.0 / 9, 5.0 / 9};
    const auto at = [&](std::size_t k) { return m_mesh.nodes[std::size_t(edge.place[k])]; };
    for (std::size_t q = 0; q < 3; ++q) {
        const double x = places[q];
        const std::array<double, 3> n{x * (x - 1) / 2, 1 - x * x, x * (x + 1) / 2},
            slope{x - 0.5, -2 * x, x + 0.5};
        Point along{};
        for (std::size_t k = 0; k < 3; ++k) along = along + slope[k] * at(k);
        for (std::size_t a = 0; a < 3; ++a)
            for (std::size_t b = 0; b < 3; ++b) mass[a][b] += weights[q] * norm(along) * n[a] * n[b];
    }
    return mass;
}

/// (T_a - T_b)^2 along the edge; `other` may be one node three times.
void SectionHeat::add_edge_mass(const Edge& edge, const std::array<int, 3>& other,
                                std::vector<Entry>& shape) const {
    const auto mass = edge_mass(edge);
    for (std::size_t a = 0; a < 3; ++a)
        for (std::size_t b = 0; b < 3; ++b) {
            const double value = m_scale * mass[a][b];
            // Both (a, b) and (b, a) come by, and an entry off the diagonal stands for both ways.
            if (edge.node[a] == edge.node[b] || a > b)
                shape.push_back(lower(edge.node[a], edge.node[b], value));
            if (other[a] == other[b])
                shape.push_back({other[a], other[a], value});
            else if (a > b)
                shape.push_back(lower(other[a], other[b], value));
            shape.push_back(lower(edge.node[a], other[b], -value));
        }
}

int SectionHeat::contact(const std::string& name, int domain, int other, double coefficient) {
    std::vector<Entry> shape;
    for (const auto& [a, b] : m_interfaces)
        if ((a.domain == domain && b.domain == other) || (a.domain == other && b.domain == domain))
            add_edge_mass(a, b.node, shape);
    if (shape.empty()) return -1;
    return m_system.add_term(name, std::move(shape), coefficient, contact_area(domain, other));
}

bool SectionHeat::on_circle(const Edge& edge, double radius) const {
    constexpr double near = 1e-6;
    return std::all_of(edge.place.begin(), edge.place.end(), [&](int place) {
        return std::abs(norm(m_mesh.nodes[std::size_t(place)]) - radius) < near * radius;
    });
}

int SectionHeat::film(const std::string& name, double radius, int node, double coefficient) {
    std::vector<Entry> shape;
    for (const Edge& edge : m_boundary)
        if (on_circle(edge, radius)) add_edge_mass(edge, {node, node, node}, shape);
    if (shape.empty()) return -1;
    return m_system.add_term(name, std::move(shape), coefficient, circle_area(radius));
}

double SectionHeat::circle_area(double radius) const {
    double area = 0;
    for (const Edge& edge : m_boundary) {
        if (!on_circle(edge, radius)) continue;
        for (const auto& row : edge_mass(edge))
            for (double value : row) area += m_scale * value;
    }
    return area;
}

double SectionHeat::contact_area(int domain, int other) const {
    double area = 0;
    for (const auto& [a, b] : m_interfaces) {
        if (!((a.domain == domain && b.domain == other) || (a.domain == other && b.domain == domain))) continue;
        for (const auto& row : edge_mass(a))
            for (double value : row) area += m_scale * value;
    }
    return area;
}

int SectionHeat::end_faces(const std::string& name, int group, int node, double depth, double coefficient) {
    std::vector<Entry> shape;
    double area = 0;
    for (std::size_t e = 0; e < m_nodes.size(); ++e) {
        if (m_group[e] != group) continue;
        each_point(m_mesh, e, [&](const ShapeAt& s, double weight) {
            const double value = 2 * m_scale / depth * weight;
            area += value;
            for (std::size_t a = 0; a < 6; ++a) {
                for (std::size_t b = 0; b <= a; ++b)
                    shape.push_back(lower(m_nodes[e][a], m_nodes[e][b], value * s.n[a] * s.n[b]));
                shape.push_back(lower(m_nodes[e][a], node, -value * s.n[a]));
            }
            shape.push_back({node, node, value});
        });
    }
    if (shape.empty()) return -1;
    return m_system.add_term(name, std::move(shape), coefficient, area);
}

NodeShares SectionHeat::normalised(std::map<int, double> weight) const {
    double sum = 0;
    for (const auto& [node, value] : weight) sum += value;
    if (!(sum > 0)) return {};
    NodeShares shares;
    for (const auto& [node, value] : weight) shares.emplace_back(node, value / sum);
    return shares;
}

NodeShares SectionHeat::mean_of(int group, const std::function<bool(std::size_t)>& wanted) const {
    std::map<int, double> weight;
    for (std::size_t e = 0; e < m_nodes.size(); ++e)
        if (m_group[e] == group && (!wanted || wanted(e)))
            each_point(m_mesh, e, [&](const ShapeAt& s, double w) {
                for (std::size_t a = 0; a < 6; ++a) weight[m_nodes[e][a]] += w * s.n[a];
            });
    return normalised(std::move(weight));
}

NodeShares SectionHeat::on_circle(double radius) const {
    std::map<int, double> weight;
    for (const Edge& edge : m_boundary) {
        if (!on_circle(edge, radius)) continue;
        const auto mass = edge_mass(edge);
        for (std::size_t a = 0; a < 3; ++a)
            for (std::size_t b = 0; b < 3; ++b) weight[edge.node[a]] += mass[a][b];
    }
    return normalised(std::move(weight));
}

NodeShares SectionHeat::by_density(const std::vector<double>& density, const std::vector<int>& groups) const {
    std::map<int, double> weight;
    for (std::size_t e = 0; e < m_nodes.size(); ++e)
        if (density[e] > 0 && std::find(groups.begin(), groups.end(), m_group[e]) != groups.end())
            each_point(m_mesh, e, [&](const ShapeAt& s, double w) {
                for (std::size_t a = 0; a < 6; ++a) weight[m_nodes[e][a]] += density[e] * w * s.n[a];
            });
    return normalised(std::move(weight));
}

std::vector<int> SectionHeat::nodes_of(int group) const {
    std::vector<int> nodes;
    for (std::size_t e = 0; e < m_nodes.size(); ++e)
        if (m_group[e] == group) nodes.insert(nodes.end(), m_nodes[e].begin(), m_nodes[e].end());
    std::sort(nodes.begin(), nodes.end());
    nodes.erase(std::unique(nodes.begin(), nodes.end()), nodes.end());
    return nodes;
}

double SectionHeat::highest(int group, const Eigen::VectorXd& temperature) const {
    double most = -1e300;
    for (int node : nodes_of(group)) most = std::max(most, temperature[node]);
    return most;
}

double SectionHeat::volume(int group) const {
    double sum = 0;
    for (std::size_t e = 0; e < m_nodes.size(); ++e)
        if (m_group[e] == group)
            each_point(m_mesh, e, [&](const ShapeAt&, double weight) { sum += m_scale * weight; });
    return sum;
}

std::array<double, 6> SectionHeat::at(std::size_t element, const Eigen::VectorXd& temperature) const {
    std::array<double, 6> values{};
    for (std::size_t k = 0; k < 6; ++k) values[k] = temperature[m_nodes[element][k]];
    return values;
}

std::array<Point, 6> SectionHeat::flux(std::size_t element, const Eigen::VectorXd& temperature) const {
    static constexpr std::array<std::pair<double, double>, 6> places{
        {{0, 0}, {1, 0}, {0, 1}, {0.5, 0}, {0.5, 0.5}, {0, 0.5}}};
    const auto points = corners(m_mesh, element);
    const auto values = at(element, temperature);
    const auto group = std::size_t(m_group[element]);
    // What the term conducts now; of the gap's air as it turns.
    const double radial = m_system.terms()[std::size_t(m_conduction[group])].coefficient,
                 tangential = radial * m_groups[group].tangential / m_groups[group].radial;
    std::array<Point, 6> out;
    for (std::size_t k = 0; k < 6; ++k) {
        const ShapeAt s = quadratic_shape(points, places[k].first, places[k].second);
        const Point slope = gradient(s, values), r = (1 / norm(s.at)) * s.at, t{-r.y, r.x};
        const double along = -radial * (slope.x * r.x + slope.y * r.y),
                     round = -tangential * (slope.x * t.x + slope.y * t.y);
        out[k] = along * r + round * t;
    }
    return out;
}

} // namespace mavlo
