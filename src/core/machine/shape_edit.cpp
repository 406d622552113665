#include "machine/shape_edit.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

constexpr double pi = std::numbers::pi;
constexpr double joined = 1e-9; ///< m

/// The piece moved to its right; empty when an arc has no radius left.
std::optional<Piece> moved_out(const Piece& p, double distance) {
    if (p.straight()) {
        const Point t = tangent_at(p, 0), right{t.y, -t.x};
        return Piece{p.a + distance * right, p.b + distance * right, 0, p.layer};
    }
    const Circle c = circle_of(p);
    const double radius = c.radius + (p.bulge > 0 ? distance : -distance);
    if (radius < joined) return std::nullopt;
    const double scale = radius / c.radius;
    return Piece{c.centre + scale * (p.a - c.centre), c.centre + scale * (p.b - c.centre), p.bulge, p.layer};
}

/// Where two straight pieces, made as long as need be, meet.
std::optional<Point> meeting_of(const Piece& p, const Piece& q) {
    const Point u = p.b - p.a, v = q.b - q.a;
    const double det = cross(u, v);
    if (std::abs(det) < 1e-9 * norm(u) * norm(v)) return std::nullopt;
    return p.a + (cross(q.a - p.a, v) / det) * u;
}

} // namespace

PitchPlace pitch_at(const Machine& machine, Point p, double rotor_angle) {
    const double middle = machine.middle_of_gap();
    const bool rotor = (norm(p) < middle) == machine.section.bodies.front().turns;
    const Tile& tile = rotor ? machine.section.rotor().tile : machine.section.stator().tile;
    // A pair of shifted poles is one tile; shapes are drawn on one pole.
    const double pitch = rotor ? 2 * pi / machine.poles : tile.pitch;
    const double angle = angle_of(p) - tile.turn - (rotor ? rotor_angle : 0);
    return {rotor ? "rotor" : "stator", tile.turn + std::round(angle / pitch) * pitch};
}

std::string coordinate_text(double metres) {
    const double rounded = std::round(metres * 1e9) / 1e6;
    return number_text(rounded == 0 ? 0 : rounded, 12) + " mm";
}

FreeShape::Corner corner_at(Point p) {
    return {coordinate_text(p.x), coordinate_text(p.y), 0, "0 mm"};
}

std::string free_shape_name(const Design& design, Use use) {
    const std::string word = use == Use::Magnet ? "magnet" : use == Use::Iron ? "rib" : "pocket";
    for (int i = 1;; ++i) {
        const std::string name = fmt::format("{} {}", word, i);
        if (std::none_of(design.shapes.begin(), design.shapes.end(),
                         [&](const FreeShape& s) { return s.name == name; }))
            return name;
    }
}

Result<std::vector<FreeShape::Corner>> offset_corners(const ShapeOutline& shape, double distance) {
    std::vector<Piece> pieces;
    for (const Piece& p : shape.pieces)
        if (const auto moved = moved_out(p, distance)) pieces.push_back(*moved);
    const std::size_t n = pieces.size();
    const Problem nothing{"drawings.shapes." + shape.name,
                          "An offset of this size leaves nothing of the shape."};
    if (n < 2) return nothing;
    for (std::size_t i = 0; i < n; ++i) {
        Piece &p = pieces[i], &q = pieces[(i + 1) % n];
        if (norm(q.a - p.b) < joined || !p.straight() || !q.straight()) continue;
        if (const auto at = meeting_of(p, q)) p.b = q.a = *at;
    }
    std::vector<FreeShape::Corner> corners;
    double area = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const Piece& p = pieces[i];
        const Point old = shape.pieces[i].b - shape.pieces[i].a;
        if (p.straight() && n == shape.pieces.size() && dot(p.b - p.a, old) <= 0) return nothing;
        corners.push_back(corner_at(p.a));
        corners.back().bulge = p.bulge;
        if (norm(pieces[(i + 1) % n].a - p.b) > joined) corners.push_back(corner_at(p.b));
        area += swept_area(p);
    }
    if (area <= 0) return nothing;
    return corners;
}

} // namespace mavlo
