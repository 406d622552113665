#include "shape/piece.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

/// Share of an arc's length at this angle about its centre; outside [0, 1] beyond the ends, nearest end first.
double share_at(const Piece& piece, const Circle& circle, double angle) {
    const double sweep = sweep_of(piece);
    double turned = std::remainder(angle - angle_of(piece.a - circle.centre), 2 * pi) * (sweep < 0 ? -1 : 1);
    const double size = std::abs(sweep);
    if (turned < 0 && turned + 2 * pi - size < -turned) turned += 2 * pi; // nearer to the end than to the start
    return turned / size;
}

bool within(double share, double slack) {
    return share >= -slack && share <= 1 + slack;
}

void cross_lines(std::vector<Crossing>& out, const Piece& p, const Piece& q) {
    const Point u = p.b - p.a, v = q.b - q.a;
    const double across = cross(u, v);
    if (std::abs(across) < 1e-12 * norm(u) * norm(v)) return;
    out.push_back({cross(q.a - p.a, v) / across, cross(q.a - p.a, u) / across});
}

void cross_line_arc(std::vector<Crossing>& out, const Piece& line, const Piece& arc, bool swapped,
                    double tolerance) {
    const Circle c = circle_of(arc);
    const double length = distance(line.a, line.b);
    if (length == 0) return;
    const Point u = (1 / length) * (line.b - line.a);
    const double foot = dot(c.centre - line.a, u), off = std::abs(cross(u, c.centre - line.a));
    // A line that all but touches meets the circle at its nearest point.
    if (off > c.radius + tolerance) return;
    const double half = std::sqrt(std::max(0.0, c.radius * c.radius - off * off));
    for (double along : {foot - half, foot + half}) {
        const double on_arc = share_at(arc, c, angle_of(line.a + along * u - c.centre));
        out.push_back(swapped ? Crossing{on_arc, along / length} : Crossing{along / length, on_arc});
        if (half == 0) break;
    }
}

void cross_arcs(std::vector<Crossing>& out, const Piece& p, const Piece& q, double tolerance) {
    const Circle a = circle_of(p), b = circle_of(q);
    const double d = distance(a.centre, b.centre);
    if (d < tolerance || d > a.radius + b.radius + tolerance) return;
    if (d < std::abs(a.radius - b.radius) - tolerance) return;
    const double along = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d);
    const double half = std::sqrt(std::max(0.0, a.radius * a.radius - along * along));
    const Point u = (1 / d) * (b.centre - a.centre), v{-u.y, u.x};
    for (double side : {half, -half}) {
        const Point at = a.centre + along * u + side * v;
        out.push_back({share_at(p, a, angle_of(at - a.centre)), share_at(q, b, angle_of(at - b.centre))});
        if (half == 0) break;
    }
}

} // namespace

double sweep_of(const Piece& piece) {
    return 4 * std::atan(piece.bulge);
}

Circle circle_of(const Piece& piece) {
    assert(!piece.straight());
    // The centre lies on the chord's bisector, (1 - b^2)/(4 b) chords to its left.
    const Point chord = piece.b - piece.a;
    const double k = (1 - piece.bulge * piece.bulge) / (4 * piece.bulge);
    const Point centre = 0.5 * (piece.a + piece.b) + k * Point{-chord.y, chord.x};
    const double radius = norm(chord) * (1 + piece.bulge * piece.bulge) / (4 * std::abs(piece.bulge));
    return {centre, radius};
}

double length_of(const Piece& piece) {
    return piece.straight() ? distance(piece.a, piece.b) : circle_of(piece).radius * std::abs(sweep_of(piece));
}

Point point_at(const Piece& piece, double t) {
    if (piece.straight()) return piece.a + t * (piece.b - piece.a);
    const Circle c = circle_of(piece);
    return c.centre + rotated(piece.a - c.centre, t * sweep_of(piece));
}

Point tangent_at(const Piece& piece, double t) {
    if (piece.straight()) return (1 / distance(piece.a, piece.b)) * (piece.b - piece.a);
    const Circle c = circle_of(piece);
    const Point out = (1 / c.radius) * rotated(piece.a - c.centre, t * sweep_of(piece));
    return piece.bulge > 0 ? Point{-out.y, out.x} : Point{out.y, -out.x};
}

Piece reversed(const Piece& piece) {
    return {piece.b, piece.a, -piece.bulge, piece.layer};
}

Piece part_of(const Piece& piece, double from, double to) {
    Piece part{from <= 0 ? piece.a : point_at(piece, from), to >= 1 ? piece.b : point_at(piece, to), 0,
               piece.layer};
    if (!piece.straight()) part.bulge = std::tan((to - from) * sweep_of(piece) / 4);
    return part;
}

std::optional<Piece> beside(const Piece& p, double distance) {
    constexpr double least_radius = 1e-9; // m
    if (p.straight()) {
        const Point t = tangent_at(p, 0), right{t.y, -t.x};
        return Piece{p.a + distance * right, p.b + distance * right, 0, p.layer};
    }
    const Circle c = circle_of(p);
    const double radius = c.radius + (p.bulge > 0 ? distance : -distance);
    if (radius < least_radius) return std::nullopt;
    const double scale = radius / c.radius;
    return Piece{c.centre + scale * (p.a - c.centre), c.centre + scale * (p.b - c.centre), p.bulge, p.layer};
}

double nearest_share(const Piece& piece, Point p) {
    if (piece.straight()) {
        const Point u = piece.b - piece.a;
        const double square = dot(u, u);
        return square == 0 ? 0 : std::clamp(dot(p - piece.a, u) / square, 0.0, 1.0);
    }
    const Circle c = circle_of(piece);
    return std::clamp(share_at(piece, c, angle_of(p - c.centre)), 0.0, 1.0);
}

double distance_to(const Piece& piece, Point p) {
    return distance(point_at(piece, nearest_share(piece, p)), p);
}

std::vector<Crossing> crossings(const Piece& first, const Piece& second, double tolerance) {
    std::vector<Crossing> all, kept;
    if (first.straight() && second.straight())
        cross_lines(all, first, second);
    else if (first.straight())
        cross_line_arc(all, first, second, false, tolerance);
    else if (second.straight())
        cross_line_arc(all, second, first, true, tolerance);
    else
        cross_arcs(all, first, second, tolerance);
    const double slack_first = tolerance / length_of(first), slack_second = tolerance / length_of(second);
    for (const Crossing& c : all)
        if (within(c.on_first, slack_first) && within(c.on_second, slack_second)) kept.push_back(c);
    return kept;
}

void add_arc(std::vector<Piece>& to, const Circle& circle, double from, double sweep, int layer) {
    const int parts = std::max(1, int(std::ceil(std::abs(sweep) / (pi / 2) - 1e-9)));
    const double bulge = std::tan(sweep / parts / 4);
    const bool whole = std::abs(std::abs(sweep) - 2 * pi) < 1e-12;
    const Point start = circle.centre + polar(circle.radius, from);
    Point a = start;
    for (int i = 1; i <= parts; ++i) {
        const Point b =
            whole && i == parts ? start : circle.centre + polar(circle.radius, from + sweep * i / parts);
        to.push_back({a, b, bulge, layer});
        a = b;
    }
}

double bulge_through(Point a, Point middle, Point b) {
    // Half the sweep is the angle between chord and tangent: from a, twice the angle at a between b and middle.
    const double at_a = std::atan2(cross(b - a, middle - a), dot(b - a, middle - a)),
                 at_b = std::atan2(cross(middle - b, a - b), dot(middle - b, a - b));
    return -std::tan((at_a + at_b) / 2);
}

void add_smooth(std::vector<Piece>& to, const std::vector<Point>& samples, int layer) {
    for (std::size_t i = 0; i + 2 < samples.size(); i += 2) {
        double bulge = bulge_through(samples[i], samples[i + 1], samples[i + 2]);
        if (std::abs(bulge) < 1e-9) bulge = 0;
        to.push_back({samples[i], samples[i + 2], bulge, layer});
    }
}

double swept_area(const Piece& piece) {
    const double triangle = cross(piece.a, piece.b) / 2;
    if (piece.straight()) return triangle;
    const double sweep = sweep_of(piece), r = circle_of(piece).radius;
    return triangle + r * r * (sweep - std::sin(sweep)) / 2;
}

void Box::add(Point p) {
    left = std::min(left, p.x);
    right = std::max(right, p.x);
    bottom = std::min(bottom, p.y);
    top = std::max(top, p.y);
}

bool Box::near(const Box& o, double d) const {
    return left <= o.right + d && o.left <= right + d && bottom <= o.top + d && o.bottom <= top + d;
}

Box box_of(const Piece& piece) {
    Box box;
    box.add(piece.a);
    box.add(piece.b);
    if (piece.straight()) return box;
    const Circle c = circle_of(piece);
    for (int quarter = 0; quarter < 4; ++quarter) {
        const double share = share_at(piece, c, quarter * pi / 2);
        if (share > 0 && share < 1) box.add(c.centre + polar(c.radius, quarter * pi / 2));
    }
    return box;
}

} // namespace mavlo
