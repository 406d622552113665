#pragma once
// Triangles of second order in a tile.

#include "machine/tile.h"
#include "quantity/problem.h"

#include <array>
#include <vector>

namespace mavlo {

/// How fine a mesh is: every element size is multiplied by `factor`.
enum class Quality { Draft, Normal, Fine };

std::string to_string(Quality quality);
double size_factor(Quality quality);

struct TileMesh {
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
    std::vector<std::array<int, 3>> outside_edges; ///< likewise, on the circle round the whole machine
    /// Nodes on the edge where the tile begins (a mirrored one's axis), on that to the next pitch, and on the
    /// machine's outside.
    std::vector<bool> on_first, on_second, on_outside;
    /// Of a whole tile's node on the second edge: the one on the first edge that it stands on when the tile is
    /// turned by a pitch; -1 for others.
    std::vector<int> image;
    double smallest_angle = 0; ///< rad, over all triangles
};

/// Triangulates a tile with CGAL's Delaunay refinement (J. Ruppert, J. Algorithms 18, 1995; J. Shewchuk,
/// Comput. Geom. 22, 2002), graded by the tile's hints. The two edges of a whole tile get the same nodes: both
/// are cut alike and what the refinement adds on one is given to the other, until neither gains. Fails with a
/// sentence when the outline does not close a region.
Result<TileMesh> triangulate(const Tile& tile, double factor);

} // namespace mavlo
