#pragma once
// Where the places of a cross-section lie: round about an axis, or flat, unrolled at a radius.

#include "shape/outline.h"

#include <cmath>

namespace mavlo {

/// A place is a height across the gap and an angle along it. Round: the height is the radius. Flat at a radius
/// r: x is the height, y = r angle, and heights count so that the gap's middle has the height r.
struct Chart {
    double flat = 0;       ///< radius at which it is unrolled, m; 0: round
    bool straight = false; ///< of a machine that moves along a line; the radius is its length over 2 pi

    bool is_flat() const { return flat > 0; }
    Point place(double height, double angle) const {
        return is_flat() ? Point{height, flat * angle} : polar(height, angle);
    }
    double height(Point p) const { return is_flat() ? p.x : norm(p); }
    double angle(Point p) const { return is_flat() ? p.y / flat : angle_of(p); }
    /// A place, and a direction, moved along by an angle.
    Point turned(Point p, double by) const { return is_flat() ? Point{p.x, p.y + flat * by} : rotated(p, by); }
    Point turned_direction(Point v, double by) const { return is_flat() ? v : rotated(v, by); }
    /// A flat section as it is drawn among round ones: rolled up round the axis, heights along radii.
    Point rolled(Point p) const { return is_flat() ? polar(p.x, p.y / flat) : p; }
    /// The mirror image beyond the line across the gap at this angle.
    Point mirrored(Point p, double at) const {
        return is_flat() ? Point{p.x, 2 * flat * at - p.y} : rotated(p, 2 * (at - angle_of(p)));
    }
    /// Length along the gap for an angle of 1 rad.
    double arm(double height) const { return is_flat() ? flat : height; }
    /// What the harmonics of the potential between two heights go by: order n is a combination of e^(n l) and
    /// e^(-n l), of the radii's logarithm in the annulus, of height over radius in a strip.
    double ratio(double upper, double lower) const {
        return is_flat() ? (upper - lower) / flat : std::log(upper / lower);
    }
    /// Whether a place stands on the line across the gap at this angle, within a nanometre.
    bool on_line(Point p, double angle) const {
        if (is_flat()) return std::abs(p.y - flat * angle) < 1e-9;
        const Point along = polar(1, angle);
        return std::abs(cross(along, p)) < 1e-9 && dot(along, p) > 0;
    }
    /// Area of all places between two heights over an angle.
    double area(double from, double to, double angle) const {
        return is_flat() ? angle * flat * std::abs(to - from) : angle * std::abs(to * to - from * from) / 2;
    }
    bool operator==(const Chart&) const = default;
};

} // namespace mavlo
