#pragma once
// Machines whose rotor may lie beside the stator's axis.

#include "machine/machine.h"

namespace mavlo {

/// All round instead of its smallest sector, for what does not repeat.
Machine whole(Machine machine);

/// The same whose stator has a layer of air on its side of the gap, so that it can be moved by up to
/// `most_eccentricity` of the gap against the rotor (ModelOptions::displacement).
Machine whole_with_room(Machine machine);
inline constexpr double most_eccentricity = 0.5;

/// A tile with its gap circle so much further out of its face.
Tile with_air_layer(Tile tile, double layer);

} // namespace mavlo
