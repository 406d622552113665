#pragma once
// From a plane graph to a tile: its outline, and what lies on the pitch's edges.

#include "machine/tile.h"
#include "shape/plane_faces.h"

namespace mavlo {

/// The two edges of a tile that is being made: its axis and its boundary, or both boundaries.
struct TileEdges {
    double first = 0, second = 0; ///< rad
    bool mirrored = true;
    /// What a face's touching them makes of a magnet in it.
    Spans spans(const Arrangement& graph, const PlaneFace& face) const;
};

/// Elements at a line's ends shall follow its length.
void add_hints(Tile& tile, const Piece& line);

/// Points on the edges lie there to the last digit, since images must meet.
Outline outline_of(const Arrangement& graph, const TileEdges& edges);

} // namespace mavlo
