#include "draw/shapes/snap.h"

#include "quantity/constants.h"
#include "shape/outline_pieces.h"

#include <QObject>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double angle_step = pi / 12;
constexpr double pixels_of_grid = 4;

/// Points of a circle at which a line from outside touches it.
std::vector<Point> tangent_points(const Circle& circle, Point from) {
    const Point d = from - circle.centre;
    const double distance = norm(d);
    if (distance <= circle.radius) return {};
    const double half = std::acos(circle.radius / distance), to = angle_of(d);
    return {circle.centre + polar(circle.radius, to + half), circle.centre + polar(circle.radius, to - half)};
}

} // namespace

double grid_step(double scale) {
    const double wanted = pixels_of_grid / scale, power = std::pow(10, std::floor(std::log10(wanted)));
    for (double step : {1.0, 2.0, 5.0})
        if (step * power >= wanted) return step * power;
    return 10 * power;
}

Snapper::Snapper(const Machine& machine, const std::string& side) {
    const Tile& tile = side == "rotor" ? machine.section.rotor().tile : machine.section.stator().tile;
    m_half_pitch = tile.half_pitch();
    for (const Edge& edge : tile.outline.edges) {
        const Piece p = piece_of(tile.outline, edge);
        // The edges of the pitch are no lines of the drawing.
        const double angle = angle_of(p.b - p.a);
        const bool on_edge = p.straight() && std::abs(cross(p.a, p.b)) < 1e-9 * norm(p.a) * norm(p.b) &&
                             (std::abs(std::remainder(angle - tile.first_angle(), pi)) < 1e-9 ||
                              std::abs(std::remainder(angle - m_half_pitch, pi)) < 1e-9);
        if (on_edge) continue;
        m_pieces.push_back(p);
        if (tile.mirrored) m_pieces.push_back({{p.a.x, -p.a.y}, {p.b.x, -p.b.y}, -p.bulge});
    }
}

void Snapper::add(const std::vector<Piece>& pieces) {
    m_pieces.insert(m_pieces.end(), pieces.begin(), pieces.end());
}

std::optional<Snapped> Snapper::to_points(Point p, double reach, const std::optional<Point>& from) const {
    std::optional<Snapped> best;
    double nearest = reach;
    const auto offer = [&](Point at, const QString& what) {
        if (const double d = distance(p, at); d < nearest) best = Snapped{at, false, what}, nearest = d;
    };
    for (const Piece& piece : m_pieces) {
        offer(piece.a, QObject::tr("end"));
        offer(piece.b, QObject::tr("end"));
    }
    if (best) return best;
    for (const Piece& piece : m_pieces) {
        offer(point_at(piece, 0.5), QObject::tr("middle"));
        if (piece.straight()) continue;
        offer(circle_of(piece).centre, QObject::tr("centre"));
        if (!from) continue;
        for (Point at : tangent_points(circle_of(piece), *from))
            if (distance_to(piece, at) < 1e-7) offer(at, QObject::tr("tangent"));
    }
    return best;
}

Snapped Snapper::snap(Point p, double reach, double grid, const std::optional<Point>& from) const {
    if (const auto point = to_points(p, reach, from)) return *point;
    Snapped line{p};
    double nearest = reach * 0.7;
    for (const Piece& piece : m_pieces)
        if (const double d = distance_to(piece, p); d < nearest)
            line = {point_at(piece, nearest_share(piece, p)), false, QObject::tr("on the line")}, nearest = d;
    if (!line.what.isEmpty()) return line;
    if (std::abs(p.y) < reach * 0.7) return {{std::round(p.x / grid) * grid, 0}, true, QObject::tr("axis")};
    if (from && distance(*from, p) > 2 * reach) {
        const Point d = p - *from;
        const double angle = std::round(angle_of(d) / angle_step) * angle_step,
                     length = std::round(norm(d) / grid) * grid;
        const Point at = *from + polar(length, angle);
        if (distance(at, p) < reach)
            return {at, false, QStringLiteral("%1°").arg(std::lround(angle * 180 / pi))};
    }
    return {{std::round(p.x / grid) * grid, std::round(p.y / grid) * grid}, true, QObject::tr("grid")};
}

} // namespace mavlo::app
