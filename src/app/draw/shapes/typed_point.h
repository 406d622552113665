#pragma once
// A point typed while drawing: a length, a length at an angle, or two coordinates.

#include "quantity/problem.h"
#include "shape/outline.h"

#include <QString>

namespace mavlo::app {

/// "8": that far from `from` towards `pointed`; "8<30": at 30 degrees to the pitch's axis; "12, 3": at these
/// coordinates; "@4, 2": that much further. Millimetres and degrees where no unit is written.
Result<Point> typed_point(const QString& text, Point from, Point pointed);

/// A length, in millimetres where no unit is written.
Result<double> typed_length(const QString& text);

} // namespace mavlo::app
