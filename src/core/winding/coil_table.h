#pragma once
// A winding made by hand: its coils as a table, read from text, written, and as a layout.

#include "quantity/problem.h"
#include "winding/layout.h"

#include <string>
#include <vector>

namespace mavlo {

/// A row for each coil: coil, go slot, layer, return slot, layer, turns, phase ("U", "-V", "W2"). Slots and
/// layers count from 0, as the drawing numbers them; an empty return slot is a coil round the yoke. Columns are
/// separated by commas, semicolons, tabs or blanks, in the order of a header's words where it has one; a first
/// column of the coil's number may be left out. Fails with the line and what is wrong with it.
Result<std::vector<Coil>> coils_from_table(const std::string& text, int phases);
std::string table_of_coils(const std::vector<Coil>& coils, int phases);

/// As a layout; `layers` and sharing as the coils use them. Fails with "coils" or "coils[N]" where a slot does
/// not exist, two sides lie in one place, or no coil is there.
Result<WindingLayout> layout_by_hand(const std::vector<Coil>& coils, const WindingInput& input);

/// The coil side in a place of a slot: which coil, and whether it is its go side.
struct PlacedSide {
    int coil = -1;
    bool go = true;
};
PlacedSide side_at(const std::vector<Coil>& coils, CoilSide place);
/// The coils with what lies in two places exchanged; a coil keeps its turns and its phase.
std::vector<Coil> swapped(std::vector<Coil> coils, CoilSide a, CoilSide b);

} // namespace mavlo
