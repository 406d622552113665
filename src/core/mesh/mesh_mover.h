#pragma once
// A tile's mesh moved along when the tile's dimensions change a little: the same triangles, so that what a
// figure changes by is the shape's doing and not the mesh's.

#include "mesh/tile_mesh.h"

#include <memory>

namespace mavlo {

class MeshMover {
  public:
    /// Of a tile and its mesh, which are kept.
    MeshMover(Tile tile, TileMesh mesh);
    MeshMover(MeshMover&&) noexcept;
    ~MeshMover();

    /// The mesh in the same tile drawn with other dimensions. Nodes on lines and arcs keep their share of them;
    /// those between follow a discrete harmonic field, springs between neighbours that are the stiffer the
    /// shorter they are (J. Batina, AIAA J. 28, 1990). Fails when the other tile is not drawn of the same lines
    /// and arcs, or when a triangle would be turned over.
    Result<TileMesh> moved(const Tile& to) const;

  private:
    struct Springs;
    std::unique_ptr<Springs> m_springs;
};

} // namespace mavlo
