#pragma once
// An outline's edges as pieces.

#include "shape/piece.h"

namespace mavlo {

Piece piece_of(const Outline& outline, const Edge& edge);

} // namespace mavlo
