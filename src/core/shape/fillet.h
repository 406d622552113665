#pragma once
// Corners rounded by an arc.

#include "shape/outline.h"

#include <optional>

namespace mavlo {

struct Fillet {
    Point from, to, centre; ///< where the arc begins and ends, and its centre
};

/// The arc of this radius that touches the straight lines from `before` to `corner` and on to `after`. Radius
/// 0, or no corner: the corner itself.
Fillet fillet(Point before, Point corner, Point after, double radius);

/// The arc of this radius that touches the straight line from `a` towards `b`, and the circle of radius
/// `circle` about the origin from within (`inside`) or from without. `side` = +1: the arc's centre lies left of
/// the line. Empty where they do not come near enough.
std::optional<Fillet> fillet_on_circle(Point a, Point b, double circle, double radius, int side, bool inside);

/// Where the line from a through b meets the circle of this radius about `centre`, the crossing further along;
/// nothing when it passes by.
std::optional<Point> far_crossing(Point a, Point b, double radius, Point centre = {});
/// The nearer one.
std::optional<Point> near_crossing(Point a, Point b, double radius, Point centre = {});
/// Where two straight lines through (a, b) and (c, d) meet; nothing when they are parallel.
std::optional<Point> meeting(Point a, Point b, Point c, Point d);

} // namespace mavlo
