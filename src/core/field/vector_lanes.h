#pragma once

namespace mavlo {

/// Doubles side by side in the layouts made for vector units: the widest there are.
inline constexpr int vector_lanes = 8;

} // namespace mavlo
