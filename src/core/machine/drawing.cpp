#include "machine/drawing.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double same_length = 1e-8;

bool on_line(const Chart& chart, Point p, double angle) {
    if (chart.is_flat()) return std::abs(p.y - chart.flat * angle) < same_length;
    return std::abs(cross(polar(1, angle), p)) < same_length;
}

/// The face with its image beyond the line at this angle, where it touches the line along one run; empty
/// otherwise.
Polygon whole_of(const Chart& chart, const Polygon& half, double angle) {
    const std::size_t n = half.size();
    for (std::size_t i = 0; i < n; ++i) {
        // a boundary piece on the line starts at i and ends at i+1; the rest of the face is one chain
        if (!on_line(chart, half[i], angle) || !on_line(chart, half[(i + 1) % n], angle)) continue;
        Polygon whole;
        for (std::size_t k = 1; k <= n; ++k) whole.push_back(half[(i + k) % n]);
        Polygon back(whole.rbegin(), whole.rend());
        for (Point& p : back) p = chart.mirrored(p, angle);
        // first and last points lie on the line and would stand twice
        whole.insert(whole.end(), back.begin() + 1, back.end() - 1);
        return whole;
    }
    return {};
}

/// Turned on the chart, and rolled up with so many points that lines along the gap become arcs.
Polygon turned(const Chart& chart, const Polygon& polygon, double angle, bool closed = true) {
    Polygon out;
    if (!chart.is_flat()) {
        for (Point p : polygon) out.push_back(rotated(p, angle));
        return out;
    }
    constexpr double chord = 0.02; // rad
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
        const bool last = !closed && i + 1 == polygon.size();
        const int parts = last ? 1 : std::max(1, int(std::ceil(std::abs(b.y - a.y) / chart.flat / chord)));
        for (int k = 0; k < parts; ++k)
            out.push_back(chart.rolled(chart.turned(a + (double(k) / parts) * (b - a), angle)));
    }
    return out;
}

/// The smallest face round a point: iron goes round the pockets in it.
const Polygon* innermost(const std::vector<Polygon>& all, Point seed) {
    const Polygon* best = nullptr;
    for (const Polygon& face : all)
        if (contains(face, seed) && (!best || area(face) < area(*best))) best = &face;
    return best;
}

class Painter {
  public:
    Painter(const Body& body, bool side_by_side)
        : m_body(body)
        , m_tile(body.tile)
        , m_side_by_side(side_by_side)
        , m_faces(faces(body.tile.outline)) {}

    std::vector<DrawnRegion> regions() const {
        std::vector<DrawnRegion> list;
        for (const Region& region : m_tile.regions) {
            if (region.use == Use::Iron) continue;
            const Polygon* face = innermost(m_faces, region.seed);
            if (!face) continue;
            for (int pitch = 0; pitch < m_body.pitches; ++pitch) add(list, region, *face, pitch);
        }
        return list;
    }

    /// All edges but those that exist in the tile alone: its own edges, and the circles round what is computed.
    std::vector<std::vector<Point>> lines() const {
        std::vector<std::vector<Point>> list;
        for (const Chain& chain : chains())
            for (int pitch = 0; pitch < m_body.pitches; ++pitch) {
                list.push_back(turned(m_tile.chart, chain.points, axis_of(pitch), false));
                if (!m_tile.mirrored) continue;
                auto image = chain.points;
                for (Point& p : image) p = m_tile.chart.mirrored(p, 0);
                list.push_back(turned(m_tile.chart, image, axis_of(pitch), false));
            }
        return list;
    }

  private:
    /// Edges one after the other.
    struct Chain {
        int from, to;
        std::vector<Point> points;
    };

    /// Drawn in one go where they follow each other: a pen costs by the line.
    std::vector<Chain> chains() const {
        std::vector<Chain> list;
        for (const Edge& edge : m_tile.outline.edges) {
            auto points = points_along(m_tile.outline, edge);
            if (is_inner_line(edge, points)) continue;
            const auto before = std::find_if(list.begin(), list.end(), [&](const Chain& chain) {
                return chain.to == edge.from || chain.to == edge.to;
            });
            if (before == list.end()) {
                list.push_back({edge.from, edge.to, std::move(points)});
                continue;
            }
            const bool back = before->to != edge.from;
            if (back) std::reverse(points.begin(), points.end());
            before->points.insert(before->points.end(), points.begin() + 1, points.end());
            before->to = back ? edge.from : edge.to;
        }
        return list;
    }

    double axis_of(int pitch) const { return m_tile.turn + pitch * m_tile.pitch; }

    void add(std::vector<DrawnRegion>& list, const Region& region, const Polygon& face, int pitch) const {
        const double axis = axis_of(pitch);
        DrawnRegion out{region.use, region.path, region.material, pitch, region.part, 0, 0, {}};
        const bool apart = m_side_by_side && region.use == Use::Conductor;
        if (!m_tile.mirrored) {
            if (apart) out.layer = region.seed.y > 0;
            const bool cut =
                region.spans == Spans::Boundary; // its other half is its mirror image beyond the edge
            if (cut && region.seed.y < 0) return;
            return push(
                list, out,
                turned(m_tile.chart, cut ? whole_of(m_tile.chart, face, m_tile.half_pitch()) : face, axis),
                region, axis, false);
        }
        const Polygon whole =
            apart || region.spans == Spans::Boundary ? Polygon{} : whole_of(m_tile.chart, face, 0);
        if (!whole.empty()) return push(list, out, turned(m_tile.chart, whole, axis), region, axis, false);
        if (region.spans == Spans::Boundary)
            if (const Polygon both = whole_of(m_tile.chart, face, m_tile.half_pitch()); !both.empty())
                return push(list, out, turned(m_tile.chart, both, axis), region, axis, false);
        Polygon lower = face;
        for (Point& p : lower) p = m_tile.chart.mirrored(p, 0);
        std::reverse(lower.begin(), lower.end());
        push(list, out, turned(m_tile.chart, lower, axis), region, axis, true);
        if (apart) out.layer = 1;
        push(list, out, turned(m_tile.chart, face, axis), region, axis, false);
    }

    void push(std::vector<DrawnRegion>& list, DrawnRegion out, Polygon polygon, const Region& region,
              double axis, bool image) const {
        out.polygon = std::move(polygon);
        if (region.magnet) {
            const Point middle = centroid(out.polygon);
            const double local = angle_of(rotated(middle, -axis)), sign = image ? -1 : 1;
            const double flip = m_body.alternates && out.pitch % 2 ? std::numbers::pi : 0;
            out.direction = axis + sign * region.magnet->at(sign * local) + flip;
            if (m_tile.chart.is_flat()) out.direction += local; // across the gap is along the radius
            const Point m = polar(1, out.direction), r = (1 / norm(middle)) * middle;
            out.polarity = std::abs(dot(m, r)) > 0.3 ? (dot(m, r) > 0 ? 1 : -1) : (cross(r, m) > 0 ? 1 : -1);
        }
        list.push_back(std::move(out));
    }

    bool is_inner_line(const Edge& edge, const std::vector<Point>& points) const {
        const auto both_on = [&](double angle) {
            return on_line(m_tile.chart, points.front(), angle) && on_line(m_tile.chart, points.back(), angle);
        };
        if (!edge.centre)
            return both_on(m_tile.half_pitch()) || both_on(m_tile.first_angle()) ||
                   (m_tile.mirrored && both_on(0));
        const double radius = norm(points.front());
        const auto is_ring = [&](double r) {
            return *edge.centre == Point{} && std::abs(radius - r) < same_length;
        };
        if (!m_tile.outside() && is_ring(m_tile.far_radius)) return true;
        return m_tile.gap_radius != m_tile.face_radius && is_ring(m_tile.gap_radius);
    }

    const Body& m_body;
    const Tile& m_tile;
    bool m_side_by_side;
    std::vector<Polygon> m_faces;
};

DrawnBody drawn(const Machine& m, const Body& body) {
    const Painter painter(body, !body.turns && m.winding.layout.sharing == SlotSharing::SideBySide);
    DrawnBody out;
    out.turns = body.turns;
    out.steel = body.turns ? "rotor.steel" : "stator.steel";
    const Values& v = m.values;
    const bool flat = body.tile.chart.is_flat();
    const double hole = flat              ? m.section.inner().tile.far_radius
                        : m.outer_rotor() ? v.number("stator.bore_diameter") / 2
                                          : v.number("rotor.shaft_diameter") / 2;
    out.inner_radius = body.tile.outside() ? body.tile.iron_radius : hole;
    out.outer_radius = body.tile.outside() ? body.tile.far_radius : body.tile.iron_radius;
    out.hole_radius = body.tile.outside() ? 0 : hole;
    out.shaft = body.turns && !flat;
    out.regions = painter.regions();
    out.lines = painter.lines();
    return out;
}

} // namespace

Point centroid(const Polygon& polygon) {
    Point sum{};
    double twice = 0;
    const Point origin = polygon.front();
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Point a = polygon[i] - origin, b = polygon[(i + 1) % polygon.size()] - origin;
        const double c = cross(a, b);
        twice += c;
        sum = sum + c * (a + b);
    }
    return twice == 0 ? origin : origin + (1 / (3 * twice)) * sum;
}

const DrawnRegion* region_at(const DrawnBody& body, Point at) {
    for (const DrawnRegion& region : body.regions)
        if (contains(region.polygon, at)) return &region;
    return nullptr;
}

Drawing make_drawing(const Machine& m) {
    Drawing drawing;
    for (const Body& body : m.section.bodies) drawing.bodies.push_back(drawn(m, body));
    drawing.outer_radius = m.section.outer_radius();
    return drawing;
}

} // namespace mavlo
