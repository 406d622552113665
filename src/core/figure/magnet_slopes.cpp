#include "figure/magnet_slopes.h"

#include "field/quadrature.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

/// Of Gauss's rule with three points on 0 to 1.
struct LinePoint {
    double t, weight;
};
constexpr LinePoint line_rule[] = {
    {0.1127016653792583, 5.0 / 18}, {0.5, 8.0 / 18}, {0.8872983346207417, 5.0 / 18}};

/// Steel is in the way where an edge would go into it by more than this share of the move.
constexpr double in_the_way = 1e-3;

/// Place on the unit triangle's edge from its beginning (0) to its end (1).
RulePoint on_edge(int edge, double t) {
    return edge == 0 ? RulePoint{t, 0, 0} : edge == 1 ? RulePoint{1 - t, t, 0} : RulePoint{0, 1 - t, 0};
}

/// dx/dt of the curve through an edge's two ends and its middle.
Point tangent(const std::array<Point, 6>& nodes, int edge, double t) {
    const Point &from = nodes[std::size_t(edge)], &middle = nodes[std::size_t(edge + 3)],
                &to = nodes[(std::size_t(edge) + 1) % 3];
    return (4 * t - 3) * from + (4 - 8 * t) * middle + (4 * t - 1) * to;
}

/// V . n ds/dt on the edge of a counter-clockwise triangle, with V of a turn about the shaft by 1 rad.
double speed_out(Point at, Point along) {
    return -(at.x * along.x + at.y * along.y);
}

} // namespace

MagnetSlopes::MagnetSlopes(const FieldModel& model)
    : m_model(model) {
    find_edges();
}

std::array<Point, 6> MagnetSlopes::nodes_of(std::size_t element) const {
    const auto body = std::size_t(m_model.rotor);
    const BodyMesh& mesh = m_model.meshes[body];
    std::array<Point, 6> nodes;
    const auto& of = mesh.elements[element - m_model.first_element[body]].node;
    for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(of[k])];
    return nodes;
}

void MagnetSlopes::find_edges() {
    struct Side {
        std::size_t element;
        int edge;
    };
    const auto body = std::size_t(m_model.rotor);
    std::map<std::pair<int, int>, std::vector<Side>> sides; // by the unknowns at their ends
    for (std::size_t e = m_model.first_element[body]; e < m_model.first_element[body + 1]; ++e) {
        const auto& unknown = m_model.elements[e].unknown;
        for (int k = 0; k < 3; ++k) {
            const int a = unknown[std::size_t(k)], b = unknown[(std::size_t(k) + 1) % 3];
            sides[{std::min(a, b), std::max(a, b)}].push_back({e, k});
        }
    }
    const auto magnet_of = [this](const Side& side) {
        return m_model.part(m_model.elements[side.element]).magnet;
    };
    for (const auto& [ends, both] : sides) {
        if (both.size() != 2 || magnet_of(both[0]) == magnet_of(both[1])) continue;
        for (int k = 0; k < 2; ++k) {
            const Side &in = both[std::size_t(k)], &out = both[std::size_t(1 - k)];
            if (magnet_of(in) < 0) continue;
            m_edges.push_back({in.element, out.element, in.edge, out.edge});
            const auto nodes = nodes_of(in.element);
            const Point along = tangent(nodes, in.edge, 0.5), at = nodes[std::size_t(in.edge + 3)];
            const bool steel = m_model.part(m_model.elements[out.element]).use != Use::Air;
            if (steel && std::abs(speed_out(at, along)) > in_the_way * norm(at) * norm(along))
                m_may_move = false;
        }
    }
}

void MagnetSlopes::add_edge(const Edge& edge, const FieldSolution& field, const std::vector<double>& adjoint,
                            std::vector<MagnetSlope>& slopes) const {
    const auto &in = m_model.elements[edge.inside], &out = m_model.elements[edge.outside];
    const Part& part = m_model.part(in);
    const double nu_in = m_model.laws[std::size_t(in.law)].at(1).dh_db,
                 nu_out = m_model.laws[std::size_t(out.law)].at(1).dh_db,
                 remanence = m_model.substance(part)->remanence();
    const auto nodes = nodes_of(edge.inside), nodes_out = nodes_of(edge.outside);
    const auto a_in = local_values(in, field.potential), a_out = local_values(out, field.potential),
               adjoint_in = local_values(in, adjoint), adjoint_out = local_values(out, adjoint);
    for (const LinePoint& point : line_rule) {
        const RulePoint here = on_edge(edge.inside_edge, point.t),
                        there = on_edge(edge.outside_edge, 1 - point.t);
        const ShapeAt shape = quadratic_shape(nodes, here.a, here.b),
                      shape_out = quadratic_shape(nodes_out, there.a, there.b);
        const Point g_in = gradient(shape, adjoint_in), g_out = gradient(shape_out, adjoint_out),
                    b_in = gradient(shape, a_in), b_out = gradient(shape_out, a_out);
        const Point g = 0.5 * (g_in + g_out), br = polar(remanence, part.direction.at(angle_of(shape.at)));
        const double speed = point.weight * speed_out(shape.at, tangent(nodes, edge.inside_edge, point.t)),
                     together = (b_in.x * g_in.x + b_in.y * g_in.y + b_out.x * g_out.x + b_out.y * g_out.y) / 2;
        slopes[std::size_t(part.magnet)].place +=
            speed * (nu_in * (br.x * g.y - br.y * g.x) - (nu_in - nu_out) * together);
    }
}

std::vector<MagnetSlope> MagnetSlopes::operator()(const FieldSolution& field,
                                                  const std::vector<double>& adjoint) const {
    std::vector<MagnetSlope> slopes(std::size_t(m_model.rotor_mesh().magnets));
    for (const auto& e : m_model.elements) {
        const Part& part = m_model.part(e);
        if (part.magnet < 0) continue;
        MagnetSlope& slope = slopes[std::size_t(part.magnet)];
        const double nu = m_model.laws[std::size_t(e.law)].at(1).dh_db,
                     remanence = m_model.substance(part)->remanence();
        const auto values = local_values(e, adjoint);
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = m_model.points[std::size_t(q)];
            const Point g = gradient(p, values), br = polar(remanence, part.direction.at(angle_of(p.at)));
            const double turned = -nu * p.weight * (br.y * g.y + br.x * g.x); // by a quarter: (-B_ry, B_rx)
            slope.strength += nu * p.weight * (br.x * g.y - br.y * g.x);
            slope.direction += turned;
            slope.place +=
                (1 - part.direction.turn) * turned; // radial remanence looks the same where it comes to
        }
    }
    for (const Edge& edge : m_edges) add_edge(edge, field, adjoint, slopes);
    return slopes;
}

} // namespace mavlo
