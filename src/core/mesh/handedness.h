#pragma once
// A tile and its mirror image get meshes that are mirror images of each other: one of the two is meshed.

#include "mesh/tile_mesh.h"

namespace mavlo {

/// The tile or its mirror image, whichever leans to negative angles, its points and edges in an order that does
/// not depend on how they were drawn.
struct Handed {
    Tile tile;
    bool mirrored; ///< it is the image
};
Handed to_one_hand(const Tile& whole);

/// Of a whole tile's mesh.
TileMesh mirror_image(TileMesh mesh);

} // namespace mavlo
