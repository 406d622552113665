// Numbers that every floor needs.

#pragma once

#include <numbers>

namespace mavlo {

inline constexpr double pi = std::numbers::pi;
inline constexpr double degree = pi / 180; ///< rad
inline constexpr double rpm = pi / 30;     ///< rad/s
inline constexpr double mm = 1e-3;         ///< m
/// 0 degC, K.
inline constexpr double zero_celsius = 273.15;

} // namespace mavlo
