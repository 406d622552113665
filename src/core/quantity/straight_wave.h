#pragma once
// Waves of what goes straight from one instant to the next.

#include <array>
#include <complex>

namespace mavlo {

/// int_0^1 e^{-jxs} ds and int_0^1 s e^{-jxs} ds.
inline std::array<std::complex<double>, 2> turned_weights(double x) {
    const std::complex<double> i(0, 1);
    if (std::abs(x) < 1e-3) return {1.0 - i * x / 2.0 - x * x / 6, 0.5 - i * x / 3.0 - x * x / 8};
    const std::complex<double> turn = std::polar(1.0, -x);
    return {i * (turn - 1.0) / x, (turn * (1.0 + i * x) - 1.0) / (x * x)};
}

/// What a value that goes straight from `before` to `after` while the angle does from `from` to `to` (rad),
/// over `dt` seconds, adds to its integral with e^{-j angle}: (1 - s) and s times these two.
inline std::array<std::complex<double>, 2> straight_wave(double from, double to, double dt) {
    const auto [one, rising] = turned_weights(to - from);
    const std::complex<double> turn = dt * std::polar(1.0, -from);
    return {turn * (one - rising), turn * rising};
}

} // namespace mavlo
