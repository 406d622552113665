#include "mesh/tile_mesh.h"

#include "mesh/handedness.h"
#include "mesh/size_field.h"
#include "quantity/stop_point.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_mesh_face_base_2.h>
#include <CGAL/Delaunay_mesh_vertex_base_2.h>
#include <CGAL/Delaunay_mesher_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <cassert>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <memory>
#include <new>
#include <numbers>
#include <optional>
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

/// Thrown where the sizes ask for more elements than any field is solved on.
struct TooFine {};
constexpr long most_looks = 20'000'000; ///< at faces, of one tile
constexpr double most_cuts = 200'000;   ///< of one line

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
        Is_bad(const SizeField* field, std::shared_ptr<long> looks)
            : m_field(field)
            , m_looks(std::move(looks)) {}
        CGAL::Mesh_2::Face_badness operator()(Quality q) const {
            // Beside sharp corners the refinement would leave thin triangles as they are: not before they are
            // small.
            const bool thin = q.sine2 < 0.14 && q.size > 0.02;
            if (q.size > 1 || thin) return CGAL::Mesh_2::IMPERATIVELY_BAD;
            return q.sine2 < 0.17 ? CGAL::Mesh_2::BAD : CGAL::Mesh_2::NOT_BAD;
        }
        CGAL::Mesh_2::Face_badness operator()(const Cdt::Face_handle& face, Quality& q) const {
            stop_point();
            if (++*m_looks > most_looks) throw TooFine{};
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
        std::shared_ptr<long> m_looks;
    };

    Is_bad is_bad_object() const { return Is_bad(m_field, m_looks); }

  private:
    const SizeField* m_field;
    std::shared_ptr<long> m_looks = std::make_shared<long>(0);
};

constexpr double widest_chord = 0.45; ///< rad
constexpr double area_error = 2.2e-7; ///< of the tile's area, that the curved edges of one arc may miss
constexpr double most_sagitta = 0.08; ///< of a chord, in element sizes
constexpr double least_angle = 0.353; ///< rad: something finer is tried for a mesh with a smaller one

/// Parameters in [0, 1] that cut a line of this length into pieces as long as `size` asks, at least `pieces`.
template <typename Size>
std::vector<double> cuts(double length, Size size, int pieces) {
    constexpr int samples = 200;
    std::vector<double> sum(samples + 1, 0.0); // int ds / h
    for (int i = 0; i < samples; ++i)
        sum[std::size_t(i) + 1] = sum[std::size_t(i)] + length / samples / size((i + 0.5) / samples);
    if (!(sum.back() < most_cuts)) throw TooFine{};
    pieces = std::max(pieces, int(std::ceil(sum.back() - 1e-6)));
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

/// How far the nearest corner that an arc does not touch is from it: its chords must stay clear of that.
double clearance(const Outline& outline, const Edge& edge) {
    double least = 1e300;
    for (const Point& p : outline.points)
        if (const double d = deviation(outline, edge, p); d > 1e-8) least = std::min(least, d);
    return least;
}

/// Chords of an arc so short that its parabolas miss no more than the allowed share of the tile's area: over a
/// sweep t the parabola through both ends and the middle of an arc of radius r misses r^2 t^5/960.
double chord_for_area(const Tile& tile, double radius, double sweep) {
    const double whole = tile.chart.area(tile.gap_radius, tile.far_radius, tile.pitch) / 2;
    return std::min(widest_chord, std::pow(960 * area_error * whole / (radius * radius * sweep), 0.25));
}

std::vector<double> cuts(const Tile& tile, const Edge& edge, const SizeField& field, double most) {
    const Outline& outline = tile.outline;
    const double length = length_of(outline, edge);
    int pieces = 1;
    if (edge.centre) {
        const double radius = distance(outline.points[std::size_t(edge.from)], *edge.centre),
                     sweep = length / radius;
        pieces = int(std::ceil(sweep / chord_for_area(tile, radius, sweep)));
        // What the refinement puts on a chord moves to the arc afterwards: by little beside the elements there.
        double least = field(point_on(outline, edge, 0.5));
        for (double t : {0.0, 0.25, 0.75, 1.0}) least = std::min(least, field(point_on(outline, edge, t)));
        const double sagitta = std::min(most * least, 0.3 * clearance(outline, edge));
        while (radius * (1 - std::cos(sweep / pieces / 2)) > sagitta && pieces < 4096) pieces *= 2;
    }
    return cuts(
        length, [&](double t) { return field(point_on(outline, edge, t)); }, pieces);
}

/// Whether an edge of the outline lies on one of a whole tile's two edges.
bool on_edge_of_tile(const Tile& tile, const Edge& edge) {
    const Point a = tile.outline.points[std::size_t(edge.from)], b = tile.outline.points[std::size_t(edge.to)];
    for (double angle : {-tile.half_pitch(), tile.half_pitch()})
        if (!edge.centre && tile.chart.on_line(a, angle) && tile.chart.on_line(b, angle)) return true;
    return false;
}

void keep_apart(std::vector<double>& radii) {
    std::sort(radii.begin(), radii.end());
    radii.erase(std::unique(radii.begin(), radii.end(), [](double a, double b) { return b - a < 1e-9; }),
                radii.end());
}

/// Radii that cut both edges of a whole tile, as fine as either side asks.
std::vector<double> edge_radii(const Tile& tile, double factor) {
    const double g = tile.half_pitch();
    const SizeField field(tile, factor);
    std::vector<double> corners, radii;
    for (const Point& p : tile.outline.points)
        if (tile.chart.on_line(p, -g) || tile.chart.on_line(p, g)) corners.push_back(tile.chart.height(p));
    keep_apart(corners);
    for (std::size_t i = 0; i + 1 < corners.size(); ++i) {
        const double from = corners[i], length = corners[i + 1] - from;
        const auto size = [&](double t) {
            return std::min(field(tile.place(from + t * length, -g)), field(tile.place(from + t * length, g)));
        };
        for (double t : cuts(length, size, 1)) radii.push_back(from + t * length);
    }
    keep_apart(radii);
    return radii;
}

/// Radii of the corners on both edges; true in `alike` when both have the same.
std::vector<double> corner_radii(const Chart& chart, const TileMesh& mesh, bool& alike) {
    std::vector<double> first, second;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const auto node = std::size_t(t.node[k]);
            if (mesh.on_first[node]) first.push_back(chart.height(mesh.nodes[node]));
            if (mesh.on_second[node]) second.push_back(chart.height(mesh.nodes[node]));
        }
    keep_apart(first);
    keep_apart(second);
    alike = std::equal(first.begin(), first.end(), second.begin(), second.end(),
                       [](double a, double b) { return std::abs(a - b) < 5e-9; });
    first.insert(first.end(), second.begin(), second.end());
    keep_apart(first);
    return first;
}

class Mesher {
  public:
    /// `radii` cut both edges of a whole tile; empty for a mirrored one. `sagitta` of chords, in element sizes.
    Mesher(const Tile& tile, double factor, const std::vector<double>& radii, double sagitta)
        : m_tile(tile)
        , m_field(tile, factor)
        , m_radii(radii)
        , m_sagitta(sagitta) {}

    Result<TileMesh> run() {
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
        if (!m_tile.mirrored) pair_edges();
        return std::move(m_out);
    }

  private:
    using FacePair = std::pair<int, int>;

    void insert() {
        std::vector<Cdt::Vertex_handle> corners;
        for (const Point& p : m_tile.outline.points) corners.push_back(m_cdt.insert({p.x, p.y}));
        for (const Edge& edge : m_tile.outline.edges) {
            if (!m_tile.mirrored && on_edge_of_tile(m_tile, edge)) continue;
            const auto t = cuts(m_tile, edge, m_field, m_sagitta);
            auto last = corners[std::size_t(edge.from)];
            for (std::size_t k = 1; k < t.size(); ++k) {
                auto next = corners[std::size_t(edge.to)];
                if (k + 1 < t.size()) {
                    const Point p = point_on(m_tile.outline, edge, t[k]);
                    next = m_cdt.insert({p.x, p.y});
                }
                m_cdt.insert_constraint(last, next);
                last = next;
            }
        }
        for (double angle : {-m_tile.half_pitch(), m_tile.half_pitch()}) insert_line(angle);
    }

    /// One edge of a whole tile. Outline points on it were inserted with their own rounding: they are found
    /// again.
    void insert_line(double angle) {
        Cdt::Vertex_handle last{};
        for (std::size_t i = 0; i < m_radii.size(); ++i) {
            Point p = m_tile.place(m_radii[i], angle);
            for (const Point& corner : m_tile.outline.points)
                if (distance(corner, p) < 1e-9) p = corner;
            const auto next = m_cdt.insert({p.x, p.y});
            if (i > 0) m_cdt.insert_constraint(last, next);
            last = next;
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
        const Outline& outline = m_tile.outline;
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
        for (std::size_t r = 0; r < m_tile.regions.size(); ++r) {
            const Point s = m_tile.regions[r].seed;
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

    /// Whether an edge runs along at this height: of round tiles on the circle about the machine's centre.
    bool along_gap(int i, int j, double height) const {
        if (!m_tile.chart.is_flat()) {
            const auto arc = m_arcs.find(key(i, j));
            return arc != m_arcs.end() && arc->second.first == Point{} &&
                   std::abs(arc->second.second - height) < 1e-9;
        }
        const auto at = [&](int node) { return std::abs(m_out.nodes[std::size_t(node)].x - height) < 1e-9; };
        return at(i) && at(j);
    }

    int middle(int i, int j, bool& curved) {
        const auto arc = m_arcs.find(key(i, j));
        if (arc != m_arcs.end()) curved = true;
        if (const auto known = m_middles.find(key(i, j)); known != m_middles.end()) return known->second;
        const Point a = m_out.nodes[std::size_t(i)], b = m_out.nodes[std::size_t(j)];
        Point m = 0.5 * (a + b);
        if (arc != m_arcs.end()) {
            const auto [c, radius] = arc->second;
            m = c + (radius / distance(m, c)) * (m - c);
        }
        if (along_gap(i, j, m_tile.gap_radius)) m_out.gap_edges.push_back({i, int(m_out.nodes.size()), j});
        if (m_tile.outside() && along_gap(i, j, m_tile.far_radius))
            m_out.outside_edges.push_back({i, int(m_out.nodes.size()), j});
        m_out.nodes.push_back(m);
        return m_middles[key(i, j)] = int(m_out.nodes.size()) - 1;
    }

    void collect() {
        double smallest = 1;
        for (auto face : m_cdt.finite_face_handles()) {
            const int region = m_region[face];
            if (region < 0) continue; // outside, in the hollow of the gap circle
            TileMesh::Triangle t{{}, region, false};
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
        const Chart& chart = m_tile.chart;
        for (std::size_t i = 0; i < n; ++i) {
            const Point& p = m_out.nodes[i];
            m_out.on_first[i] = chart.on_line(p, m_tile.first_angle());
            m_out.on_second[i] = chart.on_line(p, m_tile.half_pitch());
            m_out.on_outside[i] = m_tile.bounded() && std::abs(chart.height(p) - m_tile.far_radius) < 1e-9;
        }
    }

    void pair_edges() {
        m_out.image.assign(m_out.nodes.size(), -1);
        std::vector<std::pair<double, int>> first;
        for (std::size_t i = 0; i < m_out.nodes.size(); ++i)
            if (m_out.on_first[i]) first.emplace_back(m_tile.chart.height(m_out.nodes[i]), int(i));
        std::sort(first.begin(), first.end());
        for (std::size_t i = 0; i < m_out.nodes.size(); ++i) {
            if (!m_out.on_second[i]) continue;
            const double radius = m_tile.chart.height(m_out.nodes[i]);
            const auto at = std::lower_bound(first.begin(), first.end(), std::pair(radius - 1e-8, -1));
            if (at != first.end() && at->first < radius + 1e-8) m_out.image[i] = at->second;
        }
    }

    const Tile& m_tile;
    SizeField m_field;
    std::vector<double> m_radii;
    double m_sagitta;
    Cdt m_cdt;
    TileMesh m_out;
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

namespace {

constexpr int most_rounds = 12;

Result<TileMesh> triangulate_whole(const Tile& tile, double factor, double sagitta) {
    const Handed handed = to_one_hand(tile);
    std::vector<double> radii = edge_radii(handed.tile, factor);
    for (int round = 0; round < most_rounds; ++round) {
        auto mesh = Mesher(handed.tile, factor, radii, sagitta).run();
        if (!mesh) return mesh;
        bool alike = false;
        radii = corner_radii(tile.chart, *mesh, alike);
        if (alike) return handed.mirrored ? mirror_image(std::move(*mesh)) : std::move(mesh);
    }
    return Problem{"stator", "The two edges of a pitch cannot be meshed alike; move what lies near them."};
}

} // namespace

Result<TileMesh> triangulate(const Tile& tile, double factor) {
    assert(tile.pitch > 0 && tile.gap_radius > 0 && factor > 0);
    try {
        // A corner that the refinement put on a chord is moved to its arc, and the refinement gives a few
        // triangles up: finer chords and smaller elements are tried where an angle suffers.
        std::optional<TileMesh> best;
        for (double finer : {1.0, 0.85, 0.7, 0.55, 0.4, 0.62, 0.3}) {
            const double sagitta = most_sagitta * finer * finer, finer_factor = factor * finer;
            auto mesh = tile.mirrored ? Mesher(tile, finer_factor, {}, sagitta).run()
                                      : triangulate_whole(tile, finer_factor, sagitta);
            if (!mesh) return mesh;
            if (!best || mesh->smallest_angle > best->smallest_angle) best = std::move(*mesh);
            if (best->smallest_angle > least_angle) break;
        }
        return std::move(*best);
    } catch (const TooFine&) {
        return Problem{"field",
                       "The mesh would need more elements than can be solved on; are the sizes that it was "
                       "to have, or a dimension, far too small?"};
    } catch (const std::bad_alloc&) {
        throw;
    } catch (const std::exception&) { // CGAL throws when two edges cross
        return Problem{"stator",
                       "Lines of the drawing cross each other; check the slot and magnet dimensions."};
    }
}

} // namespace mavlo
