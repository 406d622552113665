#include "figure/spectrum.h"

#include "field/transform.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>
#include <numeric>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

} // namespace

std::vector<Complex> harmonics(const std::vector<double>& samples) {
    assert(!samples.empty());
    if (samples.empty()) return {};
    auto c = forward_transform(samples);
    const double n = double(samples.size());
    for (std::size_t h = 0; h < c.size(); ++h) {
        const bool once = h == 0 || 2 * h == samples.size();
        c[h] *= (once ? 1.0 : 2.0) / n;
    }
    return c;
}

std::vector<double> derivative(const std::vector<double>& samples, double period) {
    assert(!samples.empty() && period > 0);
    if (samples.empty()) return {};
    auto c = forward_transform(samples);
    const double n = double(samples.size());
    for (std::size_t h = 0; h < c.size(); ++h)
        c[h] *=
            2 * h == samples.size() ? Complex(0) : Complex(0, 2 * std::numbers::pi * double(h) / period / n);
    return inverse_transform(std::move(c), int(samples.size()));
}

std::vector<double> resampled(const std::vector<double>& samples, int times) {
    assert(!samples.empty() && times > 0);
    if (samples.size() < 2 || times < 2) return samples;
    auto c = forward_transform(samples);
    const int n = int(samples.size()), fine = n * times;
    if (n % 2 == 0) c.back() /= 2; // the half-rate harmonic is shared by both signs
    c.resize(std::size_t(fine / 2 + 1), 0.0);
    for (auto& value : c) value /= n;
    return inverse_transform(std::move(c), fine);
}

double mean(const std::vector<double>& samples) {
    assert(!samples.empty());
    return samples.empty() ? 0 : std::accumulate(samples.begin(), samples.end(), 0.0) / double(samples.size());
}

double rms(const std::vector<double>& samples) {
    assert(!samples.empty());
    double sum = 0;
    for (double y : samples) sum += y * y;
    return samples.empty() ? 0 : std::sqrt(sum / double(samples.size()));
}

double standard_deviation(const std::vector<double>& samples) {
    const double centre = mean(samples);
    double sum = 0;
    for (double y : samples) sum += (y - centre) * (y - centre);
    return samples.empty() ? 0 : std::sqrt(sum / double(samples.size()));
}

double peak_to_peak(const std::vector<double>& samples) {
    assert(!samples.empty());
    if (samples.empty()) return 0;
    const auto fine = resampled(samples, 8);
    const auto [low, high] = std::minmax_element(fine.begin(), fine.end());
    return *high - *low;
}

} // namespace mavlo
