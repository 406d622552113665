#pragma once
// The bounded faces of a plane graph with straight and circular edges, and their exact areas.

#include "shape/arrangement.h"
#include "shape/faces.h"

#include <vector>

namespace mavlo {

/// An edge of an arrangement, gone along (`forward`) or against its direction.
struct HalfEdge {
    int edge;
    bool forward;
    bool operator==(const HalfEdge&) const = default;
};

/// A closed walk with the face on its left.
using Walk = std::vector<HalfEdge>;

struct PlaneFace {
    Walk outer;              ///< counter-clockwise
    std::vector<Walk> holes; ///< clockwise: what lies inside and is not part of it
    double area = 0;         ///< m2, without the holes
    Polygon polygon;         ///< the outer walk, arcs in chords of 0.01 rad
    Point inside;            ///< a point of the face
    Point centroid;          ///< of its area, without the holes
    int component = 0;       ///< of the graph its outer walk belongs to
};

struct PlaneFaces {
    std::vector<PlaneFace> faces;
    std::vector<int> component; ///< of each edge
    std::vector<Walk> outlines; ///< of each component from without, clockwise
};

/// Traces every face by always turning as far right as possible (M. de Berg et al., Computational Geometry, 3rd
/// ed., ch. 2); areas by Green's theorem over chords and the arcs' segments.
PlaneFaces plane_faces(const Arrangement& graph);

/// Whether the point lies in the face: within its outer walk and in none of its holes.
bool holds(const Arrangement& graph, const PlaneFace& face, Point p);

Piece piece_of(const Arrangement& graph, HalfEdge side);
double area_of(const Arrangement& graph, const Walk& walk); ///< signed
Polygon polygon_of(const Arrangement& graph, const Walk& walk, double chord = 0.01);

} // namespace mavlo
