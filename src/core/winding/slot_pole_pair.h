#pragma once
// What a number of slots and poles means for a machine, before anything else is chosen.

#include "winding/proposal.h"

#include <optional>

namespace mavlo {

struct SlotPolePair {
    int slots = 0, poles = 0;
    double winding_factor = 0; ///< of the fundamental, of the proposed layout
    int span = 0;              ///< slots between the sides of a coil
    /// Periods of the cogging torque a turn, the least common multiple of slots and poles: the more, the
    /// smaller it is (N. Bianchi, S. Bolognani, IEEE Trans. Ind. Appl. 38(5), 2002).
    int cogging_per_turn = 0;
    /// Nothing in slots and poles repeats within a turn, so that the radial forces of the magnets do not cancel
    /// under load (Z. Q. Zhu et al., IEEE Trans. Ind. Appl. 43(6), 2007).
    bool unbalanced_pull = false;
};

/// Of the layout that propose_winding() gives; empty where there is no balanced one.
std::optional<SlotPolePair> judge_pair(int slots, int poles, int phases, int layers);

} // namespace mavlo
