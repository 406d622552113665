#include "winding/slot_pole_pair.h"

#include <complex>
#include <numeric>

namespace mavlo {

std::optional<SlotPolePair> judge_pair(int slots, int poles, int phases, int layers) {
    const auto layout = propose_winding({slots, poles, phases, layers, 0});
    if (!layout) return std::nullopt;
    SlotPolePair pair{slots, poles};
    pair.winding_factor = std::abs(winding_factor(*layout, poles / 2));
    pair.span = layout->input.span;
    pair.cogging_per_turn = std::lcm(slots, poles);
    pair.unbalanced_pull = std::gcd(slots, poles) == 1;
    return pair;
}

} // namespace mavlo
