#pragma once
// Curves in the units that read best.

#include "question/answer.h"

namespace mavlo {

/// The answer with its curves in milli or kilo, and times in ms, min or h, where their numbers read better so:
/// alike for all that share a plot. For screens and reports; files keep SI.
Answer in_reading_units(const Answer& answer);
/// A curve in SI in the units of another one of its kind that in_reading_units() made.
Curve in_units_of(const Curve& shown, Curve curve);

} // namespace mavlo
