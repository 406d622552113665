#pragma once
// What of a cage no section shows.

#include "machine/end_ring.h"

namespace mavlo {

/// The rings of a rotor of the kind "cage", with the resistivities (Ohm.m) of bars and rings at their
/// temperature; what is given in the design instead of dimensions is taken as it is.
Result<EndRing> end_ring_of(const TileFrame& frame, const Values& values, double bar_resistivity,
                            double ring_resistivity);

} // namespace mavlo
