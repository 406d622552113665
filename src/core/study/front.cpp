#include "study/front.h"

#include <algorithm>

namespace mavlo {

bool dominates(const Compromise& a, const Compromise& b) {
    if (a.beyond > 0 || b.beyond > 0) return a.beyond < b.beyond;
    bool better = false;
    for (std::size_t k = 0; k < a.values.size(); ++k) {
        if (a.values[k] > b.values[k]) return false;
        better = better || a.values[k] < b.values[k];
    }
    return better;
}

std::vector<std::size_t> front_of(const std::vector<Compromise>& all) {
    std::vector<std::size_t> front;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto beats = [&](const Compromise& other) { return dominates(other, all[i]); };
        if (all[i].beyond <= 0 && std::none_of(all.begin(), all.end(), beats)) front.push_back(i);
    }
    return front;
}

} // namespace mavlo
