#pragma once
// The mesh of one sector of a body: its tile's mesh turned, and mirrored where the tile is.

#include "machine/symmetry.h"
#include "mesh/tile_mesh.h"

#include <array>
#include <cstdint>
#include <functional>
#include <vector>

namespace mavlo {

/// A region of one tile, or of one half of it, in the sector.
struct Part {
    Use use = Use::Air;
    int body = 0;          ///< of the section
    int region = 0;        ///< of the tile
    int pitch = 0;         ///< slot or pole
    int layer = 0;         ///< conductors: coil side within the slot
    int substance = -1;    ///< -1: air
    int magnet = -1;       ///< number of the magnet's body in the sector, the same for what belongs together
    int magnet_sign = 1;   ///< -1: this piece of it lies beyond the end of a reversed sector
    Remanence direction{}; ///< of a magnet's remanence, in the body's frame, its polarity with it
};

struct BodyMesh {
    struct Element {
        std::array<int, 6> node;
        int part;
        bool curved;
    };
    /// Edge on a circle round the axis: nodes at the angles from < middle < to (rad).
    struct CircleEdge {
        std::array<int, 3> node;
        double from, to;
    };
    std::vector<Point> nodes;
    std::vector<int> image;        ///< of each node: the one at the sector's beginning that it repeats; -1
    std::vector<int> unknown;      ///< of each node; -1 where A = 0
    std::vector<std::int8_t> sign; ///< A(node) = sign * A(unknown); -1 only on the far end of a reversed sector
    int unknowns = 0;
    std::vector<Element> elements;
    std::vector<Part> parts;
    int magnets = 0;             ///< bodies of magnet in the sector
    int copies = 0;              ///< of the tile's triangles, one after the other (each in the tile's order)
    std::vector<CircleEdge> gap; ///< on the gap circle
    std::vector<CircleEdge> outside; ///< on the machine's outside, where the field goes on beyond it
    double smallest_angle = 0;
};

/// `pitches` of the body side by side. `side_by_side`: coil sides of a slot are parted by its axis.
BodyMesh body_mesh(const Body& body, int number, const TileMesh& mesh, int pitches, int sign,
                   bool side_by_side);

/// Moves a body against its gap circle, which stays: all that lies beyond the tile's face by what `by` says of
/// its place, the air between the less the nearer it is to the circle. `by` must be shorter than that layer of
/// air.
void displace(BodyMesh& mesh, const Tile& tile, const std::function<Point(Point)>& by);

} // namespace mavlo
