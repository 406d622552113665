#include "shape/plane_faces.h"

#include "shape/budget.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// First moments of the area between a walk's pieces and the origin (Green's theorem).
Point moment(const Piece& p) {
    const double triangle = cross(p.a, p.b) / 2;
    Point sum = (triangle / 3) * (p.a + p.b);
    if (p.straight()) return sum;
    // Plus the circular segment: area r^2 (s - sin s)/2, its centroid 4 r sin^3(s/2) / (3 (s - sin s)) off the
    // centre.
    const Circle c = circle_of(p);
    const double s = sweep_of(p), segment = c.radius * c.radius * (s - std::sin(s)) / 2;
    if (std::abs(segment) < 1e-300) return sum;
    const double off =
        4 * c.radius * std::pow(std::sin(std::abs(s) / 2), 3) / (3 * (std::abs(s) - std::sin(std::abs(s))));
    const Point out = (1 / c.radius) * (point_at(p, 0.5) - c.centre);
    return sum + segment * (c.centre + off * out);
}

class Tracer {
  public:
    explicit Tracer(const Arrangement& graph)
        : m_graph(graph)
        , m_at(graph.vertices.size()) {}

    PlaneFaces run() {
        find_components();
        sort_round_vertices();
        trace();
        lay_holes();
        for (PlaneFace& face : m_out.faces) finish(face);
        return std::move(m_out);
    }

  private:
    static std::size_t index(HalfEdge s) { return 2 * std::size_t(s.edge) + (s.forward ? 0 : 1); }
    int start(HalfEdge s) const {
        const auto& e = m_graph.edges[std::size_t(s.edge)];
        return s.forward ? e.from : e.to;
    }
    int end(HalfEdge s) const { return start({s.edge, !s.forward}); }

    void find_components() {
        const std::size_t n = m_graph.edges.size();
        std::vector<std::vector<int>> edges(m_graph.vertices.size());
        for (std::size_t i = 0; i < n; ++i)
            for (int v : {m_graph.edges[i].from, m_graph.edges[i].to}) edges[std::size_t(v)].push_back(int(i));
        m_out.component.assign(n, -1);
        for (std::size_t i = 0; i < n; ++i) {
            if (m_out.component[i] >= 0) continue;
            std::vector<int> open{int(i)};
            m_out.component[i] = m_components;
            while (!open.empty()) {
                const auto& e = m_graph.edges[std::size_t(open.back())];
                open.pop_back();
                for (int v : {e.from, e.to})
                    for (int next : edges[std::size_t(v)])
                        if (m_out.component[std::size_t(next)] < 0) {
                            m_out.component[std::size_t(next)] = m_components;
                            open.push_back(next);
                        }
            }
            ++m_components;
        }
    }

    /// Edges round each vertex by where they are a little away from it, so that those which leave it in one
    /// direction are told apart by how they bend.
    void sort_round_vertices() {
        for (std::size_t i = 0; i < m_graph.edges.size(); ++i) {
            m_at[std::size_t(m_graph.edges[i].from)].push_back({int(i), true});
            m_at[std::size_t(m_graph.edges[i].to)].push_back({int(i), false});
        }
        for (auto& sides : m_at) {
            double shortest = 1e300;
            for (HalfEdge s : sides) shortest = std::min(shortest, length_of(piece_of(m_graph, s)));
            std::vector<std::pair<double, HalfEdge>> by_angle;
            for (HalfEdge s : sides) {
                const Piece p = piece_of(m_graph, s);
                const double share = std::min(0.4 * shortest / length_of(p), 0.4);
                by_angle.emplace_back(angle_of(point_at(p, share) - p.a), s);
            }
            std::stable_sort(by_angle.begin(), by_angle.end(),
                             [](const auto& a, const auto& b) { return a.first < b.first; });
            for (std::size_t k = 0; k < sides.size(); ++k) sides[k] = by_angle[k].second;
        }
    }

    /// At the end of a side: the next one clockwise from the way back.
    HalfEdge next(HalfEdge s) const {
        const auto& sides = m_at[std::size_t(end(s))];
        const HalfEdge back{s.edge, !s.forward};
        spend(double(sides.size()));
        const auto at = std::find(sides.begin(), sides.end(), back);
        return at == sides.begin() ? sides.back() : *(at - 1);
    }

    void trace() {
        std::vector<bool> seen(2 * m_graph.edges.size(), false);
        m_out.outlines.resize(std::size_t(m_components));
        std::vector<double> outermost(std::size_t(m_components), 0);
        for (std::size_t i = 0; i < seen.size(); ++i) {
            HalfEdge s{int(i / 2), i % 2 == 0};
            if (seen[i]) continue;
            Walk walk;
            for (; !seen[index(s)]; s = next(s)) {
                seen[index(s)] = true;
                walk.push_back(s);
            }
            const double area = area_of(m_graph, walk);
            const auto component = std::size_t(m_out.component[std::size_t(walk.front().edge)]);
            if (area > 0) {
                m_out.faces.push_back({walk, {}, area, polygon_of(m_graph, walk), {}, {}, int(component)});
            } else if (area <= outermost[component] || m_out.outlines[component].empty()) {
                outermost[component] = area;
                m_out.outlines[component] = walk;
            }
        }
    }

    /// Each component lies as a hole in the smallest face of another that is round it.
    void lay_holes() {
        for (int c = 0; c < m_components; ++c) {
            const Walk& outline = m_out.outlines[std::size_t(c)];
            if (outline.empty()) continue;
            const Point at = piece_of(m_graph, outline.front()).a;
            PlaneFace* round = nullptr;
            for (PlaneFace& face : m_out.faces) {
                spend(double(face.polygon.size()));
                if (face.component != c && contains(face.polygon, at) &&
                    (!round || area(face.polygon) < area(round->polygon)))
                    round = &face;
            }
            if (!round) continue;
            round->holes.push_back(outline);
            round->area += area_of(m_graph, outline); // negative
        }
    }

    void finish(PlaneFace& face) const {
        Point sum{};
        const auto add = [&](const Walk& walk) {
            for (HalfEdge s : walk) sum = sum + moment(piece_of(m_graph, s));
        };
        add(face.outer);
        for (const Walk& hole : face.holes) add(hole);
        if (face.area > 0) face.centroid = (1 / face.area) * sum;
        face.inside = inner_point(face);
    }

    /// Beside the middle of its longest edge, as far in as there is room.
    Point inner_point(const PlaneFace& face) const {
        std::vector<Polygon> holes; // made once for all the trials
        for (const Walk& hole : face.holes) holes.push_back(polygon_of(m_graph, hole));
        const auto is_in = [&](Point p) {
            spend(double(face.polygon.size() + holes.size()));
            return contains(face.polygon, p) &&
                   std::none_of(holes.begin(), holes.end(),
                                [&](const Polygon& hole) { return contains(hole, p); });
        };
        if (is_in(face.centroid)) return face.centroid;
        std::vector<Piece> pieces;
        for (HalfEdge s : face.outer) pieces.push_back(piece_of(m_graph, s));
        std::sort(pieces.begin(), pieces.end(),
                  [](const Piece& a, const Piece& b) { return length_of(a) > length_of(b); });
        constexpr int halvings = 24;
        for (int halved = 0; halved < halvings; ++halved) {
            const double depth = std::ldexp(std::sqrt(face.area) / 4, -halved);
            for (std::size_t k = 0; k < std::min<std::size_t>(pieces.size(), 8); ++k) {
                const Point along = tangent_at(pieces[k], 0.5);
                const Point p = point_at(pieces[k], 0.5) + depth * Point{-along.y, along.x};
                if (is_in(p)) return p;
            }
        }
        return face.centroid;
    }

    const Arrangement& m_graph;
    std::vector<std::vector<HalfEdge>> m_at; ///< sides that leave each vertex, counter-clockwise
    int m_components = 0;
    PlaneFaces m_out;
};

} // namespace

bool holds(const Arrangement& graph, const PlaneFace& face, Point p) {
    return contains(face.polygon, p) &&
           std::none_of(face.holes.begin(), face.holes.end(),
                        [&](const Walk& hole) { return contains(polygon_of(graph, hole), p); });
}

Piece piece_of(const Arrangement& graph, HalfEdge side) {
    const Piece piece = graph.piece(graph.edges[std::size_t(side.edge)]);
    return side.forward ? piece : reversed(piece);
}

double area_of(const Arrangement& graph, const Walk& walk) {
    // About its own first point, so that a drawing far off the origin loses no digits.
    const Point origin = piece_of(graph, walk.front()).a;
    double sum = 0;
    for (HalfEdge s : walk) {
        Piece p = piece_of(graph, s);
        p.a = p.a - origin;
        p.b = p.b - origin;
        sum += swept_area(p);
    }
    return sum;
}

Polygon polygon_of(const Arrangement& graph, const Walk& walk, double chord) {
    Polygon polygon;
    for (HalfEdge s : walk) {
        const Piece p = piece_of(graph, s);
        const int parts = p.straight() ? 1 : std::max(1, int(std::ceil(std::abs(sweep_of(p)) / chord)));
        for (int k = 0; k < parts; ++k) polygon.push_back(point_at(p, double(k) / parts));
    }
    return polygon;
}

PlaneFaces plane_faces(const Arrangement& graph) {
    return Tracer(graph).run();
}

} // namespace mavlo
