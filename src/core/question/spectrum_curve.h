#pragma once
// The spectrum of an evenly sampled period as a curve.

#include "figure/spectrum.h"
#include "question/answer.h"

#include <cmath>
#include <limits>
#include <string>
#include <vector>

namespace mavlo {

struct SpectrumAxis {
    std::string name, unit = "1";
    double step = 1;                                                       ///< between two orders
    std::size_t first = 0, last = std::numeric_limits<std::size_t>::max(); ///< orders shown
};

/// "NAME_spectrum": peak values of the waves, of order 0 the mean.
inline Curve spectrum_curve(const std::string& name, const std::string& unit,
                            const std::vector<double>& samples, const SpectrumAxis& axis) {
    Curve curve{name + "_spectrum", unit, axis.name, axis.unit, {}, {}};
    const auto waves = harmonics(samples);
    for (std::size_t h = axis.first; h < waves.size() && h <= axis.last; ++h) {
        curve.x.push_back(double(h) * axis.step);
        curve.y.push_back(std::abs(waves[h]));
    }
    return curve;
}

} // namespace mavlo
