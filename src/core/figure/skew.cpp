#include "figure/skew.h"

#include "field/transform.h"
#include "quantity/constants.h"

#include <cassert>
#include <cmath>

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

std::vector<Slice> skew_slices(double angle, int steps) {
    assert(steps >= 0);
    if (angle == 0) return {{0, 1}};
    std::vector<Slice> slices;
    if (steps > 0) {
        for (int k = 0; k < steps; ++k) slices.push_back({angle * ((k + 0.5) / steps - 0.5), 1.0 / steps});
        return slices;
    }
    const double inner = std::sqrt(5 - 2 * std::sqrt(10.0 / 7)) / 3,
                 outer = std::sqrt(5 + 2 * std::sqrt(10.0 / 7)) / 3;
    const double w_inner = (322 + 13 * std::sqrt(70.0)) / 1800, w_outer = (322 - 13 * std::sqrt(70.0)) / 1800;
    return {{-outer * angle / 2, w_outer},
            {-inner * angle / 2, w_inner},
            {0, 64.0 / 225},
            {inner * angle / 2, w_inner},
            {outer * angle / 2, w_outer}};
}

std::vector<double> skewed(const std::vector<double>& samples, double period, double angle, int steps) {
    if (angle == 0) return samples;
    return filtered(samples, [&](double h) {
        const double wave = 2 * pi * h / period, half = wave * angle / 2;
        if (h == 0) return 1.0;
        if (steps == 0) return std::sin(half) / half;
        double sum = 0;
        for (const Slice& slice : skew_slices(angle, steps)) sum += slice.share * std::cos(wave * slice.turn);
        return sum;
    });
}

std::vector<double> shifted(const std::vector<double>& samples, double period, double turn) {
    if (turn == 0) return samples;
    return filtered(samples, [&](double h) { return std::polar(1.0, 2 * pi * h * turn / period); });
}

} // namespace mavlo
