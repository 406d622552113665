#pragma once
// A drawn shape with numbers for its texts.

#include "machine/free_shape.h"
#include "quantity/unit.h"

#include <functional>

namespace mavlo {

/// The value of a text of this dimension, in SI.
using TextValue = std::function<Result<double>(const std::string& text, const Dimension& wanted)>;

/// Fails with a sentence that names the corner where a text has no value, a fillet does not fit, or the outline
/// crosses itself. Paths are "drawings.shapes.NAME".
Result<ShapeOutline> outline_of(const FreeShape& shape, const TextValue& value);

} // namespace mavlo
