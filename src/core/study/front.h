#pragma once
// Which of many compromises are the best ones.

#include <cstddef>
#include <vector>

namespace mavlo {

/// Values that shall all be small; `beyond` is by how much limits are missed, 0 or less where they are kept.
struct Compromise {
    std::vector<double> values;
    double beyond = 0;
};

/// `a` is no worse in anything and better in something; what keeps the limits is better than what does not (K.
/// Deb, Comput. Methods Appl. Mech. Eng. 186, 2000).
bool dominates(const Compromise& a, const Compromise& b);

/// Indices of those that keep the limits and that no other dominates, in order.
std::vector<std::size_t> front_of(const std::vector<Compromise>& all);

} // namespace mavlo
