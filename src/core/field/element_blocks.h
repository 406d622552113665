#pragma once
// The elements in saturable steel, arranged for vector units: eight side by side.

#include "field/loops/element_loops.h"

#include <vector>

namespace mavlo {

struct FieldModel;

/// Eight elements of one law with the same number of points; where fewer are left the last lanes are empty:
/// weights, signs and places are zero there, so that no loop need know.
struct ElementBlock {
    int law = 0;   ///< in the model's list
    int count = 0; ///< points of quadrature in each element
    int first = 0; ///< where they begin among all the blocks' points
    int unknown[6][vector_lanes]{};
    Lanes sign[6]{};
    int entry[21][vector_lanes]{}; ///< places in the matrix values, as ElementData's
    Lanes entry_sign[21]{};
};

struct ElementBlocks {
    std::vector<ElementBlock> blocks;
    std::vector<BlockPoint> points;
};

/// Blocks of the model's nonlinear elements.
ElementBlocks make_element_blocks(const FieldModel& model);

} // namespace mavlo
