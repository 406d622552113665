#include "shape/fillet.h"

#include <cmath>

namespace mavlo {
namespace {

Point unit(Point p) {
    return (1 / norm(p)) * p;
}
Point left_of(Point p) {
    return {-p.y, p.x};
}

std::optional<Point> crossing(Point a, Point b, double radius, Point centre, double sign) {
    const Point d = unit(b - a);
    const double p = dot(a - centre, d), q = dot(a - centre, a - centre) - radius * radius;
    if (p * p < q) return std::nullopt;
    return a + (-p + sign * std::sqrt(p * p - q)) * d;
}

} // namespace

Fillet fillet(Point before, Point corner, Point after, double radius) {
    if (radius <= 0) return {corner, corner, corner};
    const Point in = unit(before - corner), out = unit(after - corner);
    const double half = std::atan2(std::abs(cross(in, out)), dot(in, out)) / 2; // of the corner's angle
    if (std::cos(half) < 1e-9) return {corner, corner, corner};
    const double back = radius / std::tan(half);
    return {corner + back * in, corner + back * out, corner + (radius / std::sin(half)) * unit(in + out)};
}

std::optional<Fillet> fillet_on_circle(Point a, Point b, double circle, double radius, int side, bool inside) {
    const Point d = unit(b - a), n = double(side) * left_of(d);
    const double reach = inside ? circle - radius : circle + radius;
    const auto centre = inside ? crossing(a + radius * n, b + radius * n, reach, {}, 1)
                               : crossing(a + radius * n, b + radius * n, reach, {}, -1);
    if (!centre) return std::nullopt;
    return Fillet{*centre - radius * n, (circle / norm(*centre)) * *centre, *centre};
}

std::optional<Point> far_crossing(Point a, Point b, double radius, Point centre) {
    return crossing(a, b, radius, centre, 1);
}
std::optional<Point> near_crossing(Point a, Point b, double radius, Point centre) {
    return crossing(a, b, radius, centre, -1);
}

std::optional<Point> meeting(Point a, Point b, Point c, Point d) {
    const double turn = cross(b - a, d - c);
    if (std::abs(turn) < 1e-14 * norm(b - a) * norm(d - c)) return std::nullopt;
    return a + (cross(c - a, d - c) / turn) * (b - a);
}

} // namespace mavlo
