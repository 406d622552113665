#pragma once
// The cross-section of a machine as pieces of a drawing, one layer a role.

#include "machine/machine.h"
#include "shape/piece.h"

#include <string>
#include <vector>

namespace mavlo {

/// The turn; one slot and one pole; the mirrored half of each; the sector that is computed.
enum class Shown { Whole, Pitch, Half, Computed };

struct SectionPieces {
    std::vector<Piece> pieces; ///< m; the rotor at its zero
    std::vector<std::string> layers;
};

/// Every edge once, on the layer of the more particular of the two regions that it parts: magnets before
/// conductors before pockets before iron. Lines and circles that exist for the mesh alone are left out, and
/// what is less than the turn is closed by its cuts. A pitch without a mirror line has no half and is drawn
/// whole.
SectionPieces section_pieces(const Machine& machine, Shown shown);

} // namespace mavlo
