#include "figure/palette.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {
namespace {

std::uint8_t encode(double linear) { // sRGB transfer, IEC 61966-2-1
    const double x = std::clamp(linear, 0.0, 1.0);
    const double y = x <= 0.0031308 ? 12.92 * x : 1.055 * std::pow(x, 1 / 2.4) - 0.055;
    return std::uint8_t(std::lround(255 * y));
}

Rgb from_oklab(double lightness, double a, double b) {
    const double l = std::pow(lightness + 0.3963377774 * a + 0.2158037573 * b, 3);
    const double m = std::pow(lightness - 0.1055613458 * a - 0.0638541728 * b, 3);
    const double s = std::pow(lightness - 0.0894841775 * a - 1.2914855480 * b, 3);
    return {encode(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
            encode(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
            encode(-0.0041960863 * l - 0.7034186147 * m + 1.7076147010 * s)};
}

Rgb make(double t) {
    // From pale straw over copper and plum to deep indigo: hue turns evenly, chroma is largest in the middle.
    const double lightness = 0.965 - 0.735 * t;
    const double hue = (95 - 185 * t) * std::numbers::pi / 180;
    const double chroma = 0.03 + 0.115 * std::sin(std::numbers::pi * std::pow(t, 0.85));
    return from_oklab(lightness, chroma * std::cos(hue), chroma * std::sin(hue));
}

} // namespace

const std::array<Rgb, 256>& field_colours() {
    static const auto table = [] {
        std::array<Rgb, 256> colours;
        for (std::size_t i = 0; i < 256; ++i) colours[i] = make(double(i) / 255);
        return colours;
    }();
    return table;
}

Rgb field_colour(double t) {
    return field_colours()[std::size_t(std::lround(255 * std::clamp(std::isnan(t) ? 0.0 : t, 0.0, 1.0)))];
}

} // namespace mavlo
