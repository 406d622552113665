#include "mesh/half_mesh.h"

#include "mesh/size_field.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_mesh_face_base_2.h>
#include <CGAL/Delaunay_mesh_vertex_base_2.h>
#include <CGAL/Delaunay_mesher_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numbers>
#include <queue>

namespace mavlo {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using VertexInfo = CGAL::Triangulation_vertex_base_with_info_2<int, Kernel>;
using VertexBase = CGAL::Delaunay_mesh_vertex_base_2<Kernel, VertexInfo>;
using FaceBase = CGAL::Delaunay_mesh_face_base_2<Kernel>;
using Structure = CGAL::Triangulation_data_structure_2<VertexBase, FaceBase>;
using Cdt = CGAL::Constrained_Delaunay_triangulation_2<Kernel, Structure>;

Point to_point(const Kernel::Point_2& p) {
    return {p.x(), p.y()};
}

/// Meshing criterion for CGAL: no angle below about 25 degrees and no edge longer than the size field asks.
class GradedCriteria {
  public:
    explicit GradedCriteria(const SizeField& field)
        : m_field(&field) {}

    struct Quality {
        double size = 0, sine2 = 1; ///< longest edge / wanted size; squared sine of the smallest angle
        bool operator<(const Quality& other) const {
            if (size > 1 || other.size > 1) return size > other.size;
            return sine2 < other.sine2;
        }
    };

    class Is_bad {
      public:
        explicit Is_bad(const SizeField* field)
            : m_field(field) {}
        CGAL::Mesh_2::Face_badness operator()(Quality q) const {
            if (q.size > 1) return CGAL::Mesh_2::IMPERATIVELY_BAD;
            return q.sine2 < 0.17 ? CGAL::Mesh_2::BAD : CGAL::Mesh_2::NOT_BAD;
        }
        CGAL::Mesh_2::Face_badness operator()(const Cdt::Face_handle& face, Quality& q) const {
            const Point a = to_point(face->vertex(0)->point()), b = to_point(face->vertex(1)->point()),
                        c = to_point(face->vertex(2)->point());
            double la = dot(b - c, b - c), lb = dot(c - a, c - a), lc = dot(a - b, a - b);
            if (la < lb) std::swap(la, lb);
            if (la < lc) std::swap(la, lc);
            if (lb < lc) std::swap(lb, lc); // la >= lb >= lc
            const double twice_area = cross(b - a, c - a);
            q.sine2 = twice_area * twice_area / (la * lb);
            q.size = std::sqrt(la) / (1.25 * (*m_field)((1.0 / 3) * (a + b + c)));
            return (*this)(q);
        }

      private:
        const SizeField* m_field;
    };

    Is_bad is_bad_object() const { return Is_bad(m_field); }

  private:
    const SizeField* m_field;
};

/// Parameters in [0, 1] that cut an edge into pieces as long as the size field asks.
std::vector<double> cuts(const Outline& outline, const Edge& edge, const SizeField& field) {
    const double length = length_of(outline, edge);
    constexpr int samples = 200;
    std::vector<double> sum(samples + 1, 0.0); // int ds / h
    for (int i = 0; i < samples; ++i)
        sum[std::size_t(i) + 1] =
            sum[std::size_t(i)] + length / samples / field(point_on(outline, edge, (i + 0.5) / samples));
    int pieces = std::max(1, int(std::ceil(sum.back() - 1e-6)));
    if (edge.centre) {
        const double radius = distance(outline.points[std::size_t(edge.from)], *edge.centre);
        pieces = std::max(pieces, int(std::ceil(length / radius / 0.45)));
    }
    std::vector<double> result{0};
    for (int k = 1; k < pieces; ++k) {
        const double wanted = sum.back() * k / pieces;
        const auto upper = std::lower_bound(sum.begin(), sum.end(), wanted) - sum.begin();
        const double low = sum[std::size_t(upper) - 1], high = sum[std::size_t(upper)];
        result.push_back((double(upper) - 1 + (wanted - low) / (high - low)) / samples);
    }
    result.push_back(1);
    return result;
}

double deviation(const Outline& outline, const Edge& edge, Point p) {
    const Point a = outline.points[std::size_t(edge.from)], b = outline.points[std::size_t(edge.to)];
    if (!edge.centre) {
        const double t = std::clamp(dot(p - a, b - a) / dot(b - a, b - a), 0.0, 1.0);
        return distance(p, a + t * (b - a));
    }
    const Point c = *edge.centre, along = 0.5 * (a + b) - c;
    // Off the ends of the arc the nearer end counts.
    if (dot(p - c, along) < dot(a - c, along) * (1 - 1e-3)) return std::min(distance(p, a), distance(p, b));
    return std::abs(distance(p, c) - distance(a, c));
}

class Mesher {
  public:
    Mesher(const Cell& cell, double factor)
        : m_cell(cell)
        , m_field(cell, factor) {}

    Result<HalfMesh> run() {
        insert();
        CGAL::Delaunay_mesher_2<Cdt, GradedCriteria> mesher(m_cdt, GradedCriteria(m_field));
        mesher.refine_mesh();
        number_vertices();
        round_arcs();
        if (!classify())
            return Problem{"stator",
                           "The drawing's regions do not close; check the slot and magnet dimensions."};
        collect();
        mark_lines();
        return std::move(m_out);
    }

  private:
    using FacePair = std::pair<int, int>;

    void insert() {
        std::vector<Cdt::Vertex_handle> corners;
        for (const Point& p : m_cell.outline.points) corners.push_back(m_cdt.insert({p.x, p.y}));
        for (const Edge& edge : m_cell.outline.edges) {
            const auto t = cuts(m_cell.outline, edge, m_field);
            auto last = corners[std::size_t(edge.from)];
            for (std::size_t k = 1; k < t.size(); ++k) {
                auto next = corners[std::size_t(edge.to)];
                if (k + 1 < t.size()) {
                    const Point p = point_on(m_cell.outline, edge, t[k]);
                    next = m_cdt.insert({p.x, p.y});
                }
                m_cdt.insert_constraint(last, next);
                last = next;
            }
        }
    }

    void number_vertices() {
        for (auto v : m_cdt.finite_vertex_handles()) {
            v->info() = int(m_out.nodes.size());
            m_out.nodes.push_back(to_point(v->point()));
        }
    }

    /// Vertices that the refinement put on chords move to their arcs; each arc edge gets its middle.
    void round_arcs() {
        const Outline& outline = m_cell.outline;
        const auto original = m_out.nodes;
        for (const auto& edge : m_cdt.finite_edges()) {
            if (!m_cdt.is_constrained(edge)) continue;
            const int i = edge.first->vertex(Cdt::ccw(edge.second))->info(),
                      j = edge.first->vertex(Cdt::cw(edge.second))->info();
            const Point a = original[std::size_t(i)], b = original[std::size_t(j)];
            const Edge* best = nullptr;
            double least = 1e300;
            for (const Edge& candidate : outline.edges) {
                const double d = std::max({deviation(outline, candidate, a), deviation(outline, candidate, b),
                                           deviation(outline, candidate, 0.5 * (a + b))});
                if (d < least) least = d, best = &candidate;
            }
            if (!best || !best->centre) continue;
            const Point c = *best->centre;
            const double radius = distance(outline.points[std::size_t(best->from)], c);
            auto onto = [&](Point p) { return c + (radius / distance(p, c)) * (p - c); };
            m_out.nodes[std::size_t(i)] = onto(a);
            m_out.nodes[std::size_t(j)] = onto(b);
            m_arcs[key(i, j)] = {c, radius};
        }
    }

    bool classify() {
        for (auto face : m_cdt.finite_face_handles()) m_region[face] = -1;
        for (std::size_t r = 0; r < m_cell.regions.size(); ++r) {
            const Point s = m_cell.regions[r].seed;
            auto start = m_cdt.locate({s.x, s.y});
            if (m_cdt.is_infinite(start)) return false;
            std::queue<Cdt::Face_handle> open;
            auto reach = [&](Cdt::Face_handle face) {
                if (m_cdt.is_infinite(face)) return false;
                int& region = m_region[face];
                if (region >= 0) return region == int(r);
                region = int(r);
                open.push(face);
                return true;
            };
            if (!reach(start)) return false;
            for (; !open.empty(); open.pop())
                for (int k = 0; k < 3; ++k)
                    if (!m_cdt.is_constrained({open.front(), k}) && !reach(open.front()->neighbor(k)))
                        return false;
        }
        return true;
    }

    static FacePair key(int i, int j) { return {std::min(i, j), std::max(i, j)}; }

    int middle(int i, int j, bool& curved) {
        const auto arc = m_arcs.find(key(i, j));
        if (arc != m_arcs.end()) curved = true;
        if (const auto known = m_middles.find(key(i, j)); known != m_middles.end()) return known->second;
        const Point a = m_out.nodes[std::size_t(i)], b = m_out.nodes[std::size_t(j)];
        Point m = 0.5 * (a + b);
        if (arc != m_arcs.end()) {
            const auto [c, radius] = arc->second;
            m = c + (radius / distance(m, c)) * (m - c);
            if (c == Point{} && std::abs(radius - m_cell.gap_radius) < 1e-9) {
                m_out.gap_edges.push_back({i, int(m_out.nodes.size()), j});
            }
        }
        m_out.nodes.push_back(m);
        return m_middles[key(i, j)] = int(m_out.nodes.size()) - 1;
    }

    void collect() {
        double smallest = 1;
        for (auto face : m_cdt.finite_face_handles()) {
            const int region = m_region[face];
            if (region < 0) continue; // outside, in the hollow of the gap circle
            HalfMesh::Triangle t{{}, region, false};
            for (int k = 0; k < 3; ++k) t.node[std::size_t(k)] = face->vertex(k)->info();
            for (int k = 0; k < 3; ++k)
                t.node[std::size_t(3 + k)] =
                    middle(t.node[std::size_t(k)], t.node[std::size_t((k + 1) % 3)], t.curved);
            m_out.triangles.push_back(t);
            for (int k = 0; k < 3; ++k) {
                const Point a = m_out.nodes[std::size_t(t.node[std::size_t(k)])],
                            b = m_out.nodes[std::size_t(t.node[std::size_t((k + 1) % 3)])],
                            c = m_out.nodes[std::size_t(t.node[std::size_t((k + 2) % 3)])];
                smallest = std::min(smallest, std::atan2(cross(b - a, c - a), dot(b - a, c - a)));
            }
        }
        m_out.smallest_angle = smallest;
    }

    void mark_lines() {
        const std::size_t n = m_out.nodes.size();
        m_out.on_first.assign(n, false);
        m_out.on_second.assign(n, false);
        m_out.on_outside.assign(n, false);
        const double tolerance = 1e-9;
        const Point second = polar(1, m_cell.half_pitch);
        for (std::size_t i = 0; i < n; ++i) {
            Point& p = m_out.nodes[i];
            if (std::abs(p.y) < tolerance && p.x > 0) m_out.on_first[i] = true;
            if (std::abs(cross(second, p)) < tolerance && dot(second, p) > 0) m_out.on_second[i] = true;
            if (std::abs(norm(p) - m_cell.other_radius) < tolerance && m_cell.other_radius > m_cell.gap_radius)
                m_out.on_outside[i] = true;
        }
    }

    const Cell& m_cell;
    SizeField m_field;
    Cdt m_cdt;
    HalfMesh m_out;
    std::map<FacePair, std::pair<Point, double>> m_arcs;
    std::map<FacePair, int> m_middles;
    std::map<Cdt::Face_handle, int> m_region;
};

} // namespace

std::string to_string(Quality quality) {
    return quality == Quality::Draft ? "draft" : quality == Quality::Normal ? "normal" : "fine";
}

double size_factor(Quality quality) {
    return quality == Quality::Draft ? 1.6 : quality == Quality::Normal ? 1.0 : 0.5;
}

Result<HalfMesh> triangulate(const Cell& cell, double factor) {
    try {
        return Mesher(cell, factor).run();
    } catch (const std::exception&) { // CGAL throws when two edges cross
        return Problem{"stator",
                       "Lines of the drawing cross each other; check the slot and magnet dimensions."};
    }
}

} // namespace mavlo
