#include "shape/outline.h"

#include <cmath>

namespace mavlo {
namespace {

/// Signed angle swept by the shorter arc from a to b about c.
double sweep(Point a, Point b, Point c) {
    return std::atan2(cross(a - c, b - c), dot(a - c, b - c));
}

} // namespace

double norm(Point a) {
    return std::hypot(a.x, a.y);
}
double distance(Point a, Point b) {
    return norm(a - b);
}
Point polar(double radius, double angle) {
    return {radius * std::cos(angle), radius * std::sin(angle)};
}
double angle_of(Point a) {
    return std::atan2(a.y, a.x);
}
Point rotated(Point a, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {c * a.x - s * a.y, s * a.x + c * a.y};
}

int Outline::add(Point point) {
    for (std::size_t i = 0; i < points.size(); ++i)
        if (distance(points[i], point) < 1e-9) return int(i);
    points.push_back(point);
    return int(points.size()) - 1;
}

void Outline::chain(const std::vector<int>& ids) {
    for (std::size_t i = 0; i + 1 < ids.size(); ++i)
        if (ids[i] != ids[i + 1]) line(ids[i], ids[i + 1]);
}

Point point_on(const Outline& outline, const Edge& edge, double t) {
    const Point a = outline.points[std::size_t(edge.from)], b = outline.points[std::size_t(edge.to)];
    if (!edge.centre) return a + t * (b - a);
    const Point c = *edge.centre;
    return c + rotated(a - c, t * sweep(a, b, c));
}

double length_of(const Outline& outline, const Edge& edge) {
    const Point a = outline.points[std::size_t(edge.from)], b = outline.points[std::size_t(edge.to)];
    if (!edge.centre) return distance(a, b);
    return distance(a, *edge.centre) * std::abs(sweep(a, b, *edge.centre));
}

} // namespace mavlo
