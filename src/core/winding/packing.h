#pragma once
// Where conductors lie in the space that a slot has for them.

#include "shape/faces.h"

#include <vector>

namespace mavlo {

/// Room for conductors: a polygon (either sense), and how far what lies in it stays off each edge (a liner's
/// thickness, half a separator's); edge i goes from point i to the next.
struct PackingSpace {
    Polygon polygon;
    std::vector<double> margin; ///< m; empty: none
    double free_area() const;   ///< m2, less the margins' strips
};

/// Centres of circles of this diameter (m) that lie in the space without
/// overlapping, as many as are found: hexagonal rows along the axes and along every long wall, pushed against
/// the walls, square rows, and rows packed one by one; what room is left is filled. Those farthest from `mouth`
/// come first.
std::vector<Point> pack_circles(const PackingSpace& space, double diameter, Point mouth);

/// The same by rows from the slot's bottom alone, in a hundredth of the time; never more than pack_circles().
std::vector<Point> pack_rows(const PackingSpace& space, double diameter, Point mouth);

/// The largest diameter (to 1e-4 of it) of which `count` circles fit as pack_circles() packs them.
double largest_circle(const PackingSpace& space, int count, Point mouth);

/// Rectangles square to the y axis: centres of those of this size along x and along y.
struct RectangleSize {
    double along_x = 0, along_y = 0;
};
/// Rows across the slot, stacked from the end of the polygon that is farthest from the mouth on; each row is
/// centred in the room it has, or begins at the polygon's largest y where `against_wall` says so. At most
/// `columns` of them lie in a row; 0: as many as have room.
std::vector<Point> pack_rectangles(const PackingSpace& space, RectangleSize size, Point mouth,
                                   bool against_wall, int columns = 0);

/// Shortest distance of the point to an edge less its margin, m.
double clearance(const PackingSpace& space, Point p);

} // namespace mavlo
