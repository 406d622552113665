#include "mesh/mesh_mover.h"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <map>

namespace mavlo {

/// Where a node stands on an edge of the outline: its share of the edge's length.
struct OutlinePlace {
    int edge = -1;
    double share = 0;
};

namespace {

constexpr double near = 1e-9;       ///< m: what lies so near a line lies on it
constexpr double least_angle = 0.1; ///< rad: a moved triangle that is thinner has moved too far
constexpr double least_share = 0.3; ///< of the angle before

Problem cannot_move() {
    return {"", "The mesh cannot follow this change; the section is drawn otherwise after it."};
}

double sweep_of(Point from, Point to) {
    return std::atan2(cross(from, to), dot(from, to));
}

/// The place of a point on an edge, if it lies on it.
std::optional<double> share_on(const Outline& outline, const Edge& edge, Point p) {
    const Point a = outline.points[std::size_t(edge.from)], b = outline.points[std::size_t(edge.to)];
    if (!edge.centre) {
        const double length = distance(a, b), t = dot(p - a, b - a) / (length * length);
        if (std::abs(cross(p - a, b - a)) > near * length || t < -near / length || t > 1 + near / length)
            return std::nullopt;
        return std::clamp(t, 0.0, 1.0);
    }
    const Point c = *edge.centre;
    if (std::abs(distance(p, c) - distance(a, c)) > near) return std::nullopt;
    const double t = sweep_of(a - c, p - c) / sweep_of(a - c, b - c), slack = near / distance(a, b);
    if (t < -slack || t > 1 + slack) return std::nullopt;
    return std::clamp(t, 0.0, 1.0);
}

OutlinePlace place_of(const Outline& outline, Point p) {
    for (std::size_t k = 0; k < outline.edges.size(); ++k)
        if (const auto share = share_on(outline, outline.edges[k], p)) return {int(k), *share};
    return {};
}

bool same_lines(const Tile& a, const Tile& b) {
    const auto same_edge = [](const Edge& x, const Edge& y) {
        return x.from == y.from && x.to == y.to && x.centre.has_value() == y.centre.has_value();
    };
    const auto same_region = [](const Region& x, const Region& y) {
        return x.use == y.use && x.path == y.path && x.part == y.part && x.spans == y.spans;
    };
    return a.mirrored == b.mirrored && a.outline.points.size() == b.outline.points.size() &&
           std::equal(a.outline.edges.begin(), a.outline.edges.end(), b.outline.edges.begin(),
                      b.outline.edges.end(), same_edge) &&
           std::equal(a.regions.begin(), a.regions.end(), b.regions.begin(), b.regions.end(), same_region);
}

/// Radii of the tile's two edges before and after: corners of either cut both alike.
class EdgeRadii {
  public:
    EdgeRadii(const Tile& from, const Tile& to) {
        for (std::size_t i = 0; i < from.outline.points.size(); ++i) {
            const Point before = from.outline.points[i], after = to.outline.points[i];
            for (const auto& [angle, later] : {std::pair(from.first_angle(), to.first_angle()),
                                               std::pair(from.half_pitch(), to.half_pitch())})
                if (from.chart.on_line(before, angle))
                    add(from.chart.height(before), to.chart.height(after), to.chart.on_line(after, later));
        }
        std::sort(m_radii.begin(), m_radii.end());
    }

    bool sound() const { return m_sound && m_radii.size() > 1; }

    double moved(double radius) const {
        auto after = std::lower_bound(m_radii.begin(), m_radii.end(), std::pair(radius - near, -1e300));
        if (after == m_radii.begin()) ++after;
        if (after == m_radii.end()) --after;
        const auto [r1, s1] = *after;
        const auto [r0, s0] = *std::prev(after);
        return s0 + (radius - r0) / (r1 - r0) * (s1 - s0);
    }

  private:
    void add(double before, double after, bool still_on_it) {
        m_sound = m_sound && still_on_it;
        for (const auto& [r, s] : m_radii)
            if (std::abs(r - before) < near) {
                m_sound = m_sound && std::abs(s - after) < near;
                return;
            }
        m_radii.emplace_back(before, after);
    }

    std::vector<std::pair<double, double>> m_radii;
    bool m_sound = true;
};

} // namespace

/// What of the mesh does not depend on where it moves.
struct MeshMover::Springs {
    Tile tile;
    TileMesh mesh;
    std::vector<bool> corner;        ///< nodes that are corners of triangles; the others are middles of edges
    std::vector<OutlinePlace> place; ///< of the corners on the outline, and of middles on arcs
    std::map<int, std::pair<int, int>> middles;
    std::vector<int> inner; ///< number among the nodes that springs move; -1: another
    int inner_count = 0;
    struct Spring {
        int a, b;
        double stiffness;
    };
    std::vector<Spring> springs;
    Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> factor;

    Springs(Tile t, TileMesh m)
        : tile(std::move(t))
        , mesh(std::move(m)) {
        find_middles();
        find_places();
        string_up();
    }

    void find_middles() {
        corner.assign(mesh.nodes.size(), false);
        for (const auto& t : mesh.triangles)
            for (std::size_t k = 0; k < 3; ++k) {
                corner[std::size_t(t.node[k])] = true;
                middles[t.node[3 + k]] = std::minmax(t.node[k], t.node[(k + 1) % 3]);
            }
    }

    void find_places() {
        place.resize(mesh.nodes.size());
        inner.assign(mesh.nodes.size(), -1);
        for (std::size_t i = 0; i < mesh.nodes.size(); ++i) {
            const Point p = mesh.nodes[i];
            if (!corner[i]) {
                const auto [a, b] = middles.at(int(i));
                const Point straight = 0.5 * (mesh.nodes[std::size_t(a)] + mesh.nodes[std::size_t(b)]);
                if (distance(p, straight) < 1e-14) continue;
            }
            place[i] = place_of(tile.outline, p);
            if (corner[i] && place[i].edge < 0 && !mesh.on_first[i] && !mesh.on_second[i])
                inner[i] = inner_count++;
        }
    }

    void string_up() {
        std::vector<Eigen::Triplet<double>> entries;
        const auto add = [&](int row, int column, double value) {
            if (row >= 0 && column >= 0 && row >= column) entries.emplace_back(row, column, value);
        };
        for (const auto& [middle, ends] : middles) {
            const auto [a, b] = ends;
            const int i = inner[std::size_t(a)], j = inner[std::size_t(b)];
            if (i < 0 && j < 0) continue;
            const double stiffness = 1 / distance(mesh.nodes[std::size_t(a)], mesh.nodes[std::size_t(b)]);
            springs.push_back({a, b, stiffness});
            add(i, i, stiffness);
            add(j, j, stiffness);
            add(i, j, -stiffness);
            add(j, i, -stiffness);
        }
        Eigen::SparseMatrix<double> matrix(inner_count, inner_count);
        matrix.setFromTriplets(entries.begin(), entries.end());
        factor.compute(matrix);
    }

    /// Displacement of every corner; those on the outline by their places.
    std::optional<std::vector<Point>> displaced(const Tile& to) const {
        const EdgeRadii radii(tile, to);
        if (!radii.sound()) return std::nullopt;
        std::vector<Point> shift(mesh.nodes.size());
        for (std::size_t i = 0; i < mesh.nodes.size(); ++i) {
            if (!corner[i] || inner[i] >= 0) continue;
            const Point before = mesh.nodes[i];
            Point after;
            if (mesh.on_first[i])
                after = to.place(radii.moved(to.chart.height(before)), to.first_angle());
            else if (mesh.on_second[i])
                after = to.place(radii.moved(to.chart.height(before)), to.half_pitch());
            else
                after = point_on(to.outline, to.outline.edges[std::size_t(place[i].edge)], place[i].share);
            shift[i] = after - before;
        }
        follow(shift);
        return shift;
    }

    void follow(std::vector<Point>& shift) const {
        Eigen::MatrixXd load = Eigen::MatrixXd::Zero(inner_count, 2);
        const auto pull = [&](int moved, int fixed, double stiffness) {
            const int i = inner[std::size_t(moved)];
            if (i < 0 || inner[std::size_t(fixed)] >= 0) return;
            load(i, 0) += stiffness * shift[std::size_t(fixed)].x;
            load(i, 1) += stiffness * shift[std::size_t(fixed)].y;
        };
        for (const Spring& s : springs) {
            pull(s.a, s.b, s.stiffness);
            pull(s.b, s.a, s.stiffness);
        }
        const Eigen::MatrixXd found = factor.solve(load);
        for (std::size_t i = 0; i < shift.size(); ++i)
            if (inner[i] >= 0) shift[i] = {found(inner[i], 0), found(inner[i], 1)};
    }
};

namespace {

double smallest_angle(const TileMesh& mesh) {
    double smallest = 4;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const Point a = mesh.nodes[std::size_t(t.node[k])],
                        b = mesh.nodes[std::size_t(t.node[(k + 1) % 3])],
                        c = mesh.nodes[std::size_t(t.node[(k + 2) % 3])];
            smallest = std::min(smallest, sweep_of(b - a, c - a));
        }
    return smallest;
}

} // namespace

MeshMover::MeshMover(Tile tile, TileMesh mesh)
    : m_springs(std::make_unique<Springs>(std::move(tile), std::move(mesh))) {}
MeshMover::MeshMover(MeshMover&&) noexcept = default;
MeshMover::~MeshMover() = default;

Result<TileMesh> MeshMover::moved(const Tile& to) const {
    const Springs& s = *m_springs;
    if (!same_lines(s.tile, to)) return cannot_move();
    const auto shift = s.displaced(to);
    if (!shift) return cannot_move();
    TileMesh out = s.mesh;
    for (std::size_t i = 0; i < out.nodes.size(); ++i)
        if (s.corner[i]) out.nodes[i] = s.mesh.nodes[i] + (*shift)[i];
    for (const auto& [middle, ends] : s.middles) {
        const auto m = std::size_t(middle);
        out.nodes[m] = 0.5 * (out.nodes[std::size_t(ends.first)] + out.nodes[std::size_t(ends.second)]);
        if (s.place[m].edge < 0) continue;
        const Edge& arc = to.outline.edges[std::size_t(s.place[m].edge)];
        const double radius = distance(to.outline.points[std::size_t(arc.from)], *arc.centre);
        out.nodes[m] =
            *arc.centre + (radius / distance(out.nodes[m], *arc.centre)) * (out.nodes[m] - *arc.centre);
    }
    out.smallest_angle = smallest_angle(out);
    if (out.smallest_angle < std::min(least_angle, least_share * s.mesh.smallest_angle)) return cannot_move();
    return out;
}

} // namespace mavlo
