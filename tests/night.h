#pragma once
// Tests that have more rows by night.

#include <algorithm>
#include <cstdlib>
#include <iterator>
#include <string_view>

namespace mavlo {

/// The longer form of a test: scripts/test --all.
inline bool by_night() {
    return std::getenv("MAVLO_NIGHTLY") != nullptr;
}

/// Of the starting shapes all by night, by day one of each sort of machine.
inline bool is_tried(std::string_view shape) {
    constexpr std::string_view sorts[] = {
        "surface", "vee",   "spoke",  "reluctance-magnets", "salient",  "cage",
        "smooth",  "axial", "linear", "axial-coreless",     "outer-vee"};
    return by_night() || std::find(std::begin(sorts), std::end(sorts), shape) != std::end(sorts);
}

} // namespace mavlo
