#pragma once
// How the stator may be displaced against the machine's axis, or out of its own shape.

#include "machine/machine.h"

#include <functional>
#include <optional>

namespace mavlo {

/// Where a point of the stator goes to, against where it is drawn, m.
using Displacement = std::function<Point(Point)>;

/// The rotor's axis lies `by` beside the stator's: what the stator moves by, and what a rotor in its own frame.
Displacement off_centre(Point by);
Displacement beside_axis(Point by);

/// The first slot's mouth is wider by this length along the gap, its tooth tips with it; nothing else moves.
Displacement wider_mouth(const Machine& machine, double by);
/// The first slot stands further along the gap by this length, the middles of the teeth beside it do not.
Displacement moved_slot(const Machine& machine, double by);
/// The bore's radius is larger by this length where the angle is `towards` (rad) and opposite, and smaller
/// across; the outside stays round.
Displacement oval_bore(const Machine& machine, double by, double towards);

/// Width of a slot's mouth along the gap, m; empty where no dimension says it.
std::optional<double> mouth_width(const Machine& machine);

} // namespace mavlo
