#include "machine/section.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

constexpr double tolerance = 1e-8;

bool on_axis(Point p) {
    return std::abs(p.y) < tolerance;
}

Point mirrored(Point p) {
    return {p.x, -p.y};
}

/// The face with its mirror image, where it touches the first mirror line along one run; empty otherwise.
Polygon joined(const Polygon& half) {
    const std::size_t n = half.size();
    for (std::size_t i = 0; i < n; ++i) {
        // a boundary piece on the axis starts at i and ends at i+1; the rest of the face is one chain
        if (!on_axis(half[i]) || !on_axis(half[(i + 1) % n])) continue;
        Polygon whole;
        for (std::size_t k = 1; k <= n; ++k) whole.push_back(half[(i + k) % n]);
        Polygon back(whole.rbegin(), whole.rend());
        for (Point& p : back) p = mirrored(p);
        // first and last points lie on the axis and would stand twice
        whole.insert(whole.end(), back.begin() + 1, back.end() - 1);
        return whole;
    }
    return {};
}

Polygon turned(Polygon polygon, double angle) {
    for (Point& p : polygon) p = rotated(p, angle);
    return polygon;
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
    Painter(const Cell& cell, int pitches)
        : m_cell(cell)
        , m_pitches(pitches) {}

    std::vector<SectionRegion> regions(bool split_at_axis) const {
        std::vector<SectionRegion> list;
        const auto all = faces(m_cell.outline);
        for (const Region& region : m_cell.regions) {
            if (region.role == Role::StatorIron || region.role == Role::RotorIron) continue;
            const Polygon* found = innermost(all, region.seed);
            if (!found) continue;
            const Polygon& face = *found;
            const bool apart = split_at_axis && region.role == Role::Conductor;
            const Polygon whole = apart ? Polygon{} : joined(face);
            for (int pitch = 0; pitch < m_pitches; ++pitch) {
                const double axis = 2 * pitch * m_cell.half_pitch;
                SectionRegion out{region.role, pitch, region.layer, 0, region.magnetisation, axis, {}, {}};
                out.direction = axis;
                if (!whole.empty()) {
                    out.polygon = turned(whole, axis);
                    list.push_back(out);
                    continue;
                }
                Polygon lower = face;
                for (Point& p : lower) p = mirrored(p);
                std::reverse(lower.begin(), lower.end());
                out.polygon = turned(lower, axis);
                out.direction = axis - region.direction;
                list.push_back(out);
                out.direction = axis + region.direction;
                out.polygon = turned(face, axis);
                if (apart) out.layer = 1;
                list.push_back(out);
            }
        }
        return list;
    }

    /// All edges but those on the mirror lines, which exist in the cell alone.
    std::vector<std::vector<Point>> lines() const {
        std::vector<std::vector<Point>> list;
        const Point second = polar(1, m_cell.half_pitch);
        for (const Edge& edge : m_cell.outline.edges) {
            const auto points = points_along(m_cell.outline, edge);
            const bool first_line = on_axis(points.front()) && on_axis(points.back());
            const bool second_line = std::abs(cross(second, points.front())) < tolerance &&
                                     std::abs(cross(second, points.back())) < tolerance;
            const bool hole = edge.centre && std::abs(norm(points.front()) - m_cell.other_radius) < tolerance &&
                              m_cell.other_radius < m_cell.gap_radius;
            if (first_line || second_line || hole) continue;
            for (int pitch = 0; pitch < m_pitches; ++pitch) {
                std::vector<Point> upper = points, lower = points;
                for (Point& p : lower) p = mirrored(p);
                for (auto* half : {&upper, &lower})
                    list.push_back(turned(*half, 2 * pitch * m_cell.half_pitch));
            }
        }
        return list;
    }

  private:
    const Cell& m_cell;
    int m_pitches;
};

} // namespace

Section make_section(const Machine& m) {
    Section s;
    const Painter stator(m.stator, int(std::lround(std::numbers::pi / m.stator.half_pitch)));
    const Painter rotor(m.rotor, m.poles);
    s.stator = stator.regions(m.winding.sharing == SlotSharing::SideBySide);
    s.stator_lines = stator.lines();
    s.rotor = rotor.regions(false);
    for (auto& region : s.rotor)
        region.polarity = region.role == Role::Magnet ? (region.index % 2 ? -1 : 1) : 0;
    s.rotor_lines = rotor.lines();
    s.outer_radius = m.outer_radius;
    s.bore_radius = m.bore_radius;
    s.rotor_radius = m.rotor_radius();
    s.shaft_radius = m.values.number("rotor.shaft_diameter") / 2;
    s.rotor_iron_radius = m.rotor.iron_radius;
    return s;
}

} // namespace mavlo
