#pragma once
// One pitch of an imported part, as a design keeps it.

#include "drawing/import.h"
#include "machine/design.h"

namespace mavlo {

/// Cuts one pitch out of the drawing, or half of one where it is its own mirror image, and turns its axis to
/// angle 0. Refuses what shows less than that.
Result<DrawnPart> one_pitch(const ImportedDrawing& drawing, DrawnSide side);

/// The design with the part in it: its kind, count and diameters follow the drawing.
Result<Design> with_part(Design design, const ImportedDrawing& drawing, DrawnSide side);

/// The design's own number of poles, for what a drawing does not tell; 2 where it has none.
int poles_of(const Design& design);

} // namespace mavlo
