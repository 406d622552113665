#pragma once
// Triangles of second order in half a pitch.

#include "machine/cell.h"
#include "quantity/problem.h"

#include <array>
#include <vector>

namespace mavlo {

/// How fine a mesh is: every element size is multiplied by `factor`.
enum class Quality { Draft, Normal, Fine };

std::string to_string(Quality quality);
double size_factor(Quality quality);

struct HalfMesh {
    /// Corners first in each triangle, then the middles of the edges 0-1, 1-2, 2-0 (on the arc where the edge
    /// is one).
    struct Triangle {
        std::array<int, 6> node;
        int region;
        bool curved;
    };
    std::vector<Point> nodes;
    std::vector<Triangle> triangles;
    /// Edges on the gap circle as (end, middle, end) node indices.
    std::vector<std::array<int, 3>> gap_edges;
    /// Nodes on the first mirror line (angle 0), on the second (half pitch), on the stator's outside.
    std::vector<bool> on_first, on_second, on_outside;
    double smallest_angle = 0; ///< rad, over all triangles
};

/// Triangulates a cell with CGAL's Delaunay refinement (J. Ruppert, J. Algorithms 18, 1995; J. Shewchuk,
/// Comput. Geom. 22, 2002), graded by the cell's hints. Fails with a sentence when the outline does not close a
/// region.
Result<HalfMesh> triangulate(const Cell& cell, double factor);

} // namespace mavlo
