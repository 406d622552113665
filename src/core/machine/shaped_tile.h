#pragma once
// Shapes drawn onto a pitch that a kind or a drawing has made.

#include "machine/free_shape.h"

namespace mavlo {

/// The tile with these shapes, each repeated in every pitch and mirrored where it says so; a mirrored tile is
/// taken whole where one does not. What sticks out of the tile is cut off. A later shape covers an earlier one.
/// Fails when a shape overlaps a conductor, a magnet or the shaft (with the area), or changes nothing.
Result<Tile> with_shapes(Tile tile, const std::vector<ShapeOutline>& shapes, const std::string& side);

} // namespace mavlo
