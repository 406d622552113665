#pragma once
// The cross-section of a machine as pieces of a drawing, one layer a role.

#include "machine/machine.h"
#include "shape/piece.h"

#include <string>
#include <vector>

namespace mavlo {

enum class Shown { Whole, Pitch, Computed }; ///< the turn; one slot and one pole; the sector that is computed

struct SectionPieces {
    std::vector<Piece> pieces; ///< m; the rotor at its zero
    std::vector<std::string> layers;
};

/// Every edge once, on the layer of the more particular of the two regions that it parts: magnets before
/// conductors before pockets before iron. Lines and circles that exist for the mesh alone are left out, and
/// what is less than the turn is closed by its cuts.
SectionPieces section_pieces(const Machine& machine, Shown shown);

} // namespace mavlo
