#pragma once
// The step in which a drawing's dimension is changed, for telling slopes in.

#include "machine/parameter.h"

#include <numbers>

namespace mavlo {

struct DrawingStep {
    double si;         ///< 0.1 mm, 0.1 degrees, or a hundredth of the value
    const char* words; ///< "0.1 mm"
};

inline DrawingStep drawing_step(const Parameter& parameter, double value) {
    if (parameter.dimension() == dimension::length) return {1e-4, "0.1 mm"};
    if (parameter.dimension() == dimension::angle) return {std::numbers::pi / 1800, "0.1°"};
    return {0.01 * value, "1 %"};
}

} // namespace mavlo
