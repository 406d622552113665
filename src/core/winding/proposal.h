#pragma once
// Layouts found from the star of slots.

#include "quantity/problem.h"
#include "winding/layout.h"

namespace mavlo {

/// The balanced layout with one phase belt for each half turn's share of a phase, found from the star of slots
/// (J. Pyrhönen, T. Jokinen, V. Hrabovcová, Design of Rotating Electrical Machines, 2nd ed., ch. 2;
/// N. Bianchi, M. Dai Pré, IEE Proc. Electr. Power Appl. 153, 2006, for fractional slots). Coils have one turn.
///
/// A single layer whose coils cannot lie in every slot leaves some empty. Four, six or eight layers are
/// two-layer windings on top of each other. Sets that coincide (0 or 60 degrees apart) share the coil groups of
/// a three-phase winding evenly.
///
/// Fails with a path under "winding." or "stator.slots" when no balanced layout exists; the sentence names the
/// nearest slots that have one.
Result<WindingLayout> propose_winding(const WindingInput& input);

/// The span nearest to a pole pitch; the shorter coil where two are as near.
int full_pitch_span(int slots, int poles);

} // namespace mavlo
