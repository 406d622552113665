#pragma once
// The regions that an outline closes, as polygons.

#include "shape/outline.h"

#include <vector>

namespace mavlo {

/// A closed region: its boundary as a polygon (arcs cut into chords of at most `chord` radians),
/// counter-clockwise.
using Polygon = std::vector<Point>;

/// All bounded faces of a connected outline whose edges meet only at its points (the planar graph is traced by
/// always taking the next edge clockwise; M. de Berg et al., Computational Geometry, 3rd ed., ch. 2).
std::vector<Polygon> faces(const Outline& outline, double chord = 0.02);

bool contains(const Polygon& polygon, Point p); ///< even-odd rule
double area(const Polygon& polygon);            ///< positive when counter-clockwise

/// The edge's points from `from` to `to`, both ends included.
std::vector<Point> points_along(const Outline& outline, const Edge& edge, double chord = 0.02);

} // namespace mavlo
