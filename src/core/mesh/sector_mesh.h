#pragma once
// The mesh of one sector of the stator or rotor: half-pitch meshes mirrored and turned.

#include "machine/machine.h"
#include "mesh/half_mesh.h"

#include <array>
#include <cstdint>
#include <vector>

namespace mavlo {

/// A region of one half pitch in the sector.
struct Part {
    Role role = Role::Air;
    int index = 0; ///< slot or pole
    int layer = 0; ///< coil side within the slot
    Magnetisation magnetisation = Magnetisation::None;
    double axis = 0;  ///< angle of the slot's centre, or of a north pole's parallel remanence, rad
    int polarity = 0; ///< +1 north pole, -1 south pole; 0 elsewhere
};

struct SectorMesh {
    struct Element {
        std::array<int, 6> node;
        int part;
        bool curved;
    };
    /// Edge on the gap circle: nodes at the angles from < middle < to (rad).
    struct GapEdge {
        std::array<int, 3> node;
        double from, to;
    };
    std::vector<Point> nodes;
    std::vector<int> unknown;      ///< of each node; -1 where A = 0
    std::vector<std::int8_t> sign; ///< A(node) = sign * A(unknown); -1 only on the far end of a reversed sector
    int unknowns = 0;
    std::vector<Element> elements;
    std::vector<Part> parts;
    std::vector<GapEdge> gap;
    double smallest_angle = 0;
};

SectorMesh stator_mesh(const Machine& machine, const HalfMesh& half);
SectorMesh rotor_mesh(const Machine& machine, const HalfMesh& half);

} // namespace mavlo
