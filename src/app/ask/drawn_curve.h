#pragma once
// Curves over one period as they are drawn: the band-limited wave through the positions that were solved.

#include "question/answer.h"

#include <optional>

namespace mavlo::app {

/// Closed by its first value so that the whole period shows; smooth ones by the trigonometric polynomial
/// through their points, finer than these (one that jumps would ring, and stays as it is).
Curve drawn_curve(const Curve& curve);

/// The solved points of a curve that is drawn finer than they stand, as long as they do not crowd.
std::optional<Curve> solved_points(const Curve& curve);

} // namespace mavlo::app
