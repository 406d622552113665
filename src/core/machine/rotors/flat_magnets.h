#pragma once
// Magnets on a disc, as a flat section at some radius shows them.

#include "machine/tile_drawing.h"

namespace mavlo {

/// Blocks as wide as rotor.magnet.arc says of the section's radius, on back iron or, where the rotor has none,
/// reaching through to its middle plane.
Result<Tile> flat_magnets(const TileFrame& frame, const Values& values);
std::vector<DimensionMark> flat_magnet_marks(const TileFrame& frame, const Values& values);

} // namespace mavlo
