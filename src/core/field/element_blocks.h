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
    int force[6]
             [vector_lanes]{}; ///< places of what they are given, as the unknowns but for ElementBlocks::Shared
    Lanes sign[6]{};
    int entry[21][vector_lanes]{}; ///< places in the matrix values, as ElementData's but for Shared
    Lanes entry_sign[21]{};
};

/// In two halves of about equal work. Places that both would add to the second has again behind all others, in
/// the order of `again`, so that neither writes where the other does.
struct ElementBlocks {
    struct Shared {
        int places = 0;         ///< without those that are there again
        std::vector<int> again; ///< what the places behind them belong to
        std::size_t size() const { return std::size_t(places) + again.size(); }
        /// Adds what stands behind to where it belongs.
        void fold(std::vector<double>& values) const {
            for (std::size_t k = 0; k < again.size(); ++k)
                values[std::size_t(again[k])] += values[std::size_t(places) + k];
        }
    };
    std::vector<ElementBlock> blocks;
    std::vector<BlockPoint> points;
    std::size_t second = 0; ///< first block of the second half
    Shared forces, entries;
};

/// Blocks of the model's nonlinear elements.
ElementBlocks make_element_blocks(const FieldModel& model);

} // namespace mavlo
