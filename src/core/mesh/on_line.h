#pragma once
// Whether a point lies on an edge of a tile.

#include "shape/outline.h"

#include <cmath>

namespace mavlo {

/// On the ray from the centre at this angle, within a nanometre.
inline bool on_line(Point p, double angle) {
    const Point along = polar(1, angle);
    return std::abs(cross(along, p)) < 1e-9 && dot(along, p) > 0;
}

} // namespace mavlo
