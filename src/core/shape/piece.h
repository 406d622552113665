#pragma once
// Straight pieces and circular arcs between two points, as drawings from elsewhere bring them: by their bulge.

#include "shape/outline.h"

#include <optional>
#include <vector>

namespace mavlo {

/// From a to b, straight (bulge 0) or as an arc that sweeps 4 atan(bulge), counter-clockwise when positive: the
/// way light-weight polylines give arcs. `layer` is the number of the layer it was drawn on.
struct Piece {
    Point a, b;
    double bulge = 0;
    int layer = 0;
    bool straight() const { return bulge == 0; }
    bool operator==(const Piece&) const = default;
};

struct Circle {
    Point centre;
    double radius = 0;
};

double sweep_of(const Piece& piece);  ///< rad, signed; 0 for a straight one
Circle circle_of(const Piece& piece); ///< of an arc
double length_of(const Piece& piece);
Point point_at(const Piece& piece, double t);   ///< t in [0, 1], by arc length
Point tangent_at(const Piece& piece, double t); ///< of unit length, from a to b
Piece reversed(const Piece& piece);
Piece part_of(const Piece& piece, double from, double to); ///< between two shares of its length

/// The same moved to its right by `distance` (to its left when negative); empty when an arc has no radius left.
std::optional<Piece> beside(const Piece& piece, double distance);

/// The place nearest to p: its share of the length, in [0, 1].
double nearest_share(const Piece& piece, Point p);
double distance_to(const Piece& piece, Point p);

/// Shares of both lengths at which the pieces cross or touch; overlaps are not among them.
struct Crossing {
    double on_first, on_second;
};
std::vector<Crossing> crossings(const Piece& first, const Piece& second, double tolerance);

/// An arc by its circle, from one angle counter-clockwise through `sweep` (rad), in pieces of at most a
/// quarter.
void add_arc(std::vector<Piece>& to, const Circle& circle, double from, double sweep, int layer);
/// Arcs through a, the middle and b for each pair of neighbouring samples (odd number of points).
void add_smooth(std::vector<Piece>& to, const std::vector<Point>& samples, int layer);
/// The bulge of the arc from a through `middle` to b.
double bulge_through(Point a, Point middle, Point b);

/// Area between the piece and the origin's rays to its ends, signed (Green's theorem).
double swept_area(const Piece& piece);

struct Box {
    double left = 1e300, bottom = 1e300, right = -1e300, top = -1e300;
    void add(Point p);
    bool near(const Box& other, double distance) const;
};
Box box_of(const Piece& piece);

} // namespace mavlo
