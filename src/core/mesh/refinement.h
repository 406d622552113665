#pragma once
// A tile's element sizes after what its elements got wrong.

#include "machine/tile.h"
#include "mesh/body_mesh.h"

#include <vector>

namespace mavlo {

/// A triangle of a tile's mesh, in any of its copies: corners in the tile's frame.
struct SizedTriangle {
    std::array<Point, 3> corner;
    double size = 0; ///< longest edge, m
};
std::vector<SizedTriangle> tile_triangles(const Body& body, const BodyMesh& mesh);

/// Factors on the size of every triangle so that the sum of all `errors` becomes `wanted` with the fewest
/// triangles: an error falls as h^4 (second-order elements, figures of an adjoint field) while triangles grow
/// as h^-2, so each new triangle shall err by the same amount. Within `least` and 1.
std::vector<std::vector<double>> size_factors(const std::vector<std::vector<double>>& errors, double wanted,
                                              double least);

/// The tile with size hints for triangles that shall be smaller; hints that others include are left out.
Tile refined(const Tile& tile, const std::vector<SizedTriangle>& triangles, const std::vector<double>& factors,
             double size_factor);

} // namespace mavlo
