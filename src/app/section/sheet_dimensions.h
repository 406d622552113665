#pragma once
// Dimensions as they stand on an engineer's sheet: clear of the shape, with extension lines and arrows.

#include "section/dimension_layer.h"

namespace mavlo::app {

/// Places the labels round a shape that covers `shape` on the screen: radial lengths as nested dimension lines
/// on its right, lengths across with their value on the line where it fits, the others on a leader to the left.
void place_on_sheet(std::vector<DimensionLayer::Label>& labels, const ViewFrame& frame, const QRectF& shape,
                    const QRectF& room);

} // namespace mavlo::app
