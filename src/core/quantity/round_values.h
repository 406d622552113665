#pragma once
// Where an axis is marked.

#include <cmath>
#include <vector>

namespace mavlo {

/// Multiples of 1, 2 or 5 times a power of ten between the two, about five.
inline std::vector<double> round_values(double low, double high) {
    const double raw = (high - low) / 5, power = std::pow(10, std::floor(std::log10(raw))), m = raw / power;
    const double step = power * (m < 1.5 ? 1 : m < 3.5 ? 2 : m < 7.5 ? 5 : 10);
    std::vector<double> list;
    for (double k = std::ceil(low / step - 1e-9); k * step <= high + 1e-9 * step; ++k) list.push_back(k * step);
    return list;
}

} // namespace mavlo
