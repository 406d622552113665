#pragma once
// Ellipses and splines of a drawing as chains of arcs.

#include "shape/piece.h"

#include <functional>

namespace mavlo {

/// A smooth curve over [from, to] as arcs through its points, halved until none lies off the curve by more than
/// 1e-6 of the curve's size. What an arc is off on one side of its middle it is off the other way on the other,
/// so that areas are right to higher order still.
void add_curve(std::vector<Piece>& to, const std::function<Point(double)>& at, double from, double till,
               int layer);

/// Non-uniform rational B-spline (L. Piegl, W. Tiller, The NURBS Book, 2nd ed., ch. 4).
struct Nurbs {
    int degree = 3;
    std::vector<double> knots;
    std::vector<Point> control;
    std::vector<double> weights; ///< one a control point; empty: all 1
    bool closed = false;
    /// Whether knots and points fit together.
    bool is_sound() const;
    Point at(double t) const; ///< de Boor's algorithm
};
void add_nurbs(std::vector<Piece>& to, const Nurbs& spline, int layer);

/// The cubic through given points, with chord lengths as parameter and no curvature at open ends (C. de Boor, A
/// Practical Guide to Splines, ch. 4).
void add_fitted(std::vector<Piece>& to, const std::vector<Point>& points, bool closed, int layer);

} // namespace mavlo
