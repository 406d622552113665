#pragma once
// What a curve does between two instants.

#include "question/answer.h"

namespace mavlo::app {

struct Measured {
    double mean = 0, rms = 0, least = 0, most = 0;
};

/// Of the straight pieces between the curve's points, jumps included; from < to, both within it.
Measured measured(const Curve& curve, double from, double to);

/// Peak values of the waves that a stretch of time holds as one period, over their frequency (Hz) from its own
/// to `orders` times that. The mean is left out.
Curve spectrum_between(const Curve& curve, double from, double to, int orders);

} // namespace mavlo::app
