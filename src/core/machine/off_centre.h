#pragma once
// Machines whose rotor may lie beside the stator's axis.

#include "machine/machine.h"

namespace mavlo {

/// All round instead of its smallest sector, for what does not repeat.
Machine whole(Machine machine);

/// What lies off the other's axis: the stator in the resting frame (a rotor that turns about its own axis
/// beside the stator's: static eccentricity), or the rotor in its own (it turns about the stator's axis beside
/// its own: dynamic eccentricity).
enum class Eccentricity { Static, Dynamic };

/// The same whose stator (whose rotor) has a layer of air on its side of the gap, so that it can be moved by up
/// to `most_eccentricity` of the gap (ModelOptions::displacement).
Machine whole_with_room(Machine machine, Eccentricity kind = Eccentricity::Static);
inline constexpr double most_eccentricity = 0.5;

/// A tile with its gap circle so much further out of its face.
Tile with_air_layer(Tile tile, double layer);

} // namespace mavlo
