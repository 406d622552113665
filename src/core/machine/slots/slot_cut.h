#pragma once
// What contour and drawing of a slot ask of it together.

#include "machine/slots/slot_form.h"

namespace mavlo {

/// Whether the mouth is dimensioned by an angle.
bool by_angle(const SlotValues& values);
bool has_notches(const SlotValues& values);

/// Where the cut begins that closes the conductors towards the mouth.
Point cut_from(const SlotContour& contour);
/// Where it meets the slot's axis; the gap where there is none.
double cut_x(const TileFrame& frame, const SlotContour& contour);

/// Depth of the deepest of all corners: a flat bottom reaches further at its corners than on its axis.
double deepest(const TileFrame& frame, const SlotContour& contour);

} // namespace mavlo
