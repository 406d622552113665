#pragma once
// On which side of a drawn lamination its gap lies.

#include "shape/plane_faces.h"

#include <optional>

namespace mavlo {

/// Radii between which a polygon's corners lie, m.
struct Span {
    double inner = 1e300, outer = 0;
};
Span span_of(const Polygon& polygon);

/// Share of a circle's turn, of what the face spans at most, that its own edges lie on.
double edge_share(const Arrangement& graph, const PlaneFace& iron, double radius, double other_radius);

/// True: outside. By the side on which the iron's own edge is interrupted (mouths, salient poles, notches),
/// where something stands on it, or else the one that pockets and slots are nearer to. Nothing where neither
/// speaks. `iron` is the lamination's face, between these radii (m).
std::optional<bool> gap_lies_outside(const Arrangement& graph, const PlaneFaces& faces, int iron, double inner,
                                     double outer);

} // namespace mavlo
