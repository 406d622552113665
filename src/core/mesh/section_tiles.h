#pragma once
// The meshes of all tiles of a stack of sections.

#include "machine/tile.h"
#include "mesh/tile_mesh.h"

#include <span>
#include <vector>

namespace mavlo {

/// Whether this body is the other half of the same one in the section before, which the middle plane cuts:
/// their far sides are one.
bool is_joined(const Section& section, const Body& body);

/// Of every body, section by section. Two halves of one body have the same mesh, so that its nodes meet on the
/// middle plane. Fails with the body's side as path.
Result<std::vector<TileMesh>> tile_meshes(std::span<const Section> sections, double factor);

} // namespace mavlo
