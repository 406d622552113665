#pragma once
// Poles shifted in pairs: every second pole stands a little further round, so that cogging waves of both kinds
// of poles cancel (N. Bianchi, S. Bolognani, IEEE Trans. Ind. Appl. 38(5), 2002).

#include "machine/parameter.h"
#include "machine/tile.h"

namespace mavlo {

/// `rotor.pole_shift`, for kinds whose poles are parted by plain rings of iron or air.
std::vector<Parameter> pole_shift_parameters();

/// A whole tile of two poles made of the mirrored half of one: the north poles stand shift/2 (rad) before their
/// place, the south poles as much behind it, so that the d axis of the pair stays where it was. Refuses a shift
/// for which there is no room between the poles.
Result<Tile> shifted_pair(const Tile& half, double shift);

} // namespace mavlo
