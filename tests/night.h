#pragma once
// Tests that have more rows by night.

#include <cstdlib>

namespace mavlo {

/// The longer form of a test: scripts/test --all.
inline bool by_night() {
    return std::getenv("MAVLO_NIGHTLY") != nullptr;
}

} // namespace mavlo
