#pragma once
// Planar outlines: points joined by straight edges and circular arcs.

#include <optional>
#include <vector>

namespace mavlo {

struct Point {
    double x = 0, y = 0; ///< m
    bool operator==(const Point&) const = default;
};

inline Point operator+(Point a, Point b) {
    return {a.x + b.x, a.y + b.y};
}
inline Point operator-(Point a, Point b) {
    return {a.x - b.x, a.y - b.y};
}
inline Point operator*(double s, Point a) {
    return {s * a.x, s * a.y};
}
inline double dot(Point a, Point b) {
    return a.x * b.x + a.y * b.y;
}
inline double cross(Point a, Point b) {
    return a.x * b.y - a.y * b.x;
}
double norm(Point a);
double distance(Point a, Point b);
Point polar(double radius, double angle); ///< angle in rad from +x
double angle_of(Point a);                 ///< in (-pi, pi]
Point rotated(Point a, double angle);     ///< about the origin, counter-clockwise

/// A straight edge, or the shorter arc between two points about `centre`.
struct Edge {
    int from = 0, to = 0;
    std::optional<Point> centre{};
    bool operator==(const Edge&) const = default;
};

struct Outline {
    std::vector<Point> points;
    std::vector<Edge> edges;

    int add(Point point); ///< index of a new point, or of the one that lies there already (within 1 nm)
    void line(int from, int to) { edges.push_back({from, to, {}}); }
    void arc(int from, int to, Point centre = {}) { edges.push_back({from, to, centre}); }
    /// Straight edges through the given points in turn.
    void chain(const std::vector<int>& points);
    bool operator==(const Outline&) const = default;
};

/// The point at parameter t in [0, 1] along an edge, by arc length.
Point point_on(const Outline& outline, const Edge& edge, double t);
double length_of(const Outline& outline, const Edge& edge);

} // namespace mavlo
