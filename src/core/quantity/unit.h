#pragma once
// Units of measurement and their dimensions (SI brochure, 9th edition, BIPM 2019; inch and oersted by
// definition).

#include <array>
#include <cstdint>
#include <span>
#include <string>
#include <string_view>

namespace mavlo {

/// Exponents of length, mass, time, current, temperature and angle. The angle counts as a dimension of its
/// own so that a number without unit is never taken for radians or degrees.
struct Dimension {
    std::array<std::int8_t, 6> exponent{};
    bool operator==(const Dimension&) const = default;
    bool plain() const { return *this == Dimension{}; }
};

namespace dimension {
inline constexpr Dimension none{};
inline constexpr Dimension length{{1, 0, 0, 0, 0, 0}};
inline constexpr Dimension angle{{0, 0, 0, 0, 0, 1}};
inline constexpr Dimension time{{0, 0, 1, 0, 0, 0}};
inline constexpr Dimension speed{{0, 0, -1, 0, 0, 1}};
inline constexpr Dimension current{{0, 0, 0, 1, 0, 0}};
inline constexpr Dimension voltage{{2, 1, -3, -1, 0, 0}};
inline constexpr Dimension resistance{{2, 1, -3, -2, 0, 0}};
inline constexpr Dimension power{{2, 1, -3, 0, 0, 0}};
inline constexpr Dimension torque{{2, 1, -2, 0, 0, 0}};
inline constexpr Dimension force{{1, 1, -2, 0, 0, 0}};
inline constexpr Dimension flux_density{{0, 1, -2, -1, 0, 0}};
inline constexpr Dimension field_strength{{-1, 0, 0, 1, 0, 0}};
inline constexpr Dimension flux{{2, 1, -2, -1, 0, 0}};
inline constexpr Dimension density{{-3, 1, 0, 0, 0, 0}};
inline constexpr Dimension mass{{0, 1, 0, 0, 0, 0}};
inline constexpr Dimension temperature{{0, 0, 0, 0, 1, 0}};
inline constexpr Dimension frequency{{0, 0, -1, 0, 0, 0}};
} // namespace dimension

/// SI value = number * factor + offset (the offset is used by degC only).
struct Unit {
    std::string_view name;
    double factor;
    double offset;
    Dimension dimension;
};

std::span<const Unit> units();
/// As files write it ("degC", "N.m") or as screens do ("°C", "N·m"); nullptr when there is no such unit.
const Unit* find_unit(std::string_view name);
/// A word for the dimension ("a length", "an angle"); its exponents where it has no name.
std::string describe(const Dimension& dimension);

} // namespace mavlo
