#include "figure/skew.h"

#include "field/transform.h"
#include "quantity/constants.h"

#include <cmath>
#include <complex>

namespace mavlo {
namespace {

template <typename Factor>
std::vector<double> filtered(const std::vector<double>& samples, Factor factor) {
    auto spectrum = forward_transform(samples);
    const double n = double(samples.size());
    for (std::size_t h = 0; h < spectrum.size(); ++h) spectrum[h] *= factor(double(h)) / n;
    // The harmonic at half the sampling rate has no phase to turn; only its even part is kept.
    if (samples.size() % 2 == 0) spectrum.back() = spectrum.back().real();
    return inverse_transform(std::move(spectrum), int(samples.size()));
}

} // namespace

std::vector<double> skewed(const std::vector<double>& samples, double period, const SkewedStack& stack) {
    if (stack.none()) return samples;
    constexpr int points = 24; // for twenty periods of a wave over the stack
    const auto slices = stack.slices(points);
    return filtered(samples, [&](double h) {
        std::complex<double> sum = 0;
        for (const Slice& slice : slices) sum += std::polar(slice.share, 2 * pi * h / period * slice.turn);
        return sum;
    });
}

std::vector<double> shifted(const std::vector<double>& samples, double period, double turn) {
    if (turn == 0) return samples;
    return filtered(samples, [&](double h) { return std::polar(1.0, 2 * pi * h * turn / period); });
}

} // namespace mavlo
