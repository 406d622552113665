#pragma once
// Pieces as a DXF drawing that every program reads: release 12, millimetres, all digits.

#include "shape/piece.h"

#include <string>
#include <vector>

namespace mavlo {

/// Text of the file; a piece's layer is its number in `layers`. Lengths of the pieces in m.
std::string dxf_text(const std::vector<Piece>& pieces, const std::vector<std::string>& layers);

} // namespace mavlo
