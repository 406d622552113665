#pragma once
// The one colour map of all field maps.

#include <array>
#include <cstdint>

namespace mavlo {

struct Rgb {
    std::uint8_t r = 0, g = 0, b = 0;
    bool operator==(const Rgb&) const = default;
};

/// Colour for t in 0 … 1 (clamped): pale to deep with lightness falling evenly in Oklab (B. Ottosson, A
/// perceptual color space for image processing, 2020), so that equal steps look equal and shades of grey or
/// missing cones keep the order.
Rgb field_colour(double t);

/// 256 steps of the same map.
const std::array<Rgb, 256>& field_colours();

} // namespace mavlo
