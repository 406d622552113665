#pragma once
// Quadrature and shape functions of the six-node triangle.

#include "shape/outline.h"

#include <array>
#include <span>

namespace mavlo {

/// A point in barycentric-like coordinates (a, b) of the unit triangle; weights sum to 1/2.
struct RulePoint {
    double a, b, weight;
};

/// Exact to degree 2 (3 points) and to degree 4 (6 points; D.A. Dunavant, Int. J. Numer. Methods Eng. 21,
/// 1985).
std::span<const RulePoint> straight_rule();
std::span<const RulePoint> curved_rule();

/// Shape functions and their gradients in x and y at a point of the (possibly curved) triangle.
struct ShapeAt {
    std::array<double, 6> n, gx, gy;
    double jacobian; ///< positive for counter-clockwise triangles
    Point at;
};
ShapeAt quadratic_shape(const std::array<Point, 6>& nodes, double a, double b);

/// Of what has these values at the six nodes, from the shape functions' gradients at a point.
template <typename Shape>
Point gradient(const Shape& shape, const std::array<double, 6>& values) {
    Point g{0, 0};
    for (std::size_t k = 0; k < 6; ++k) {
        g.x += shape.gx[k] * values[k];
        g.y += shape.gy[k] * values[k];
    }
    return g;
}

} // namespace mavlo
