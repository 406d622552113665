#pragma once
// What a slot has for its conductors: the room of each coil side as it is drawn, and the slot's width over its
// depth.

#include "machine/machine.h"
#include "winding/packing.h"
#include "winding/strand_loss.h"

namespace mavlo {

/// Of slot 0 (centred on angle 0), one for each layer: the drawn region with the liner along the iron and half
/// a separator towards its neighbours. Empty without a winding.
std::vector<PackingSpace> slot_spaces(const Machine& machine);

/// m2 of a slot that liner, wedge and separators leave.
double free_area(const std::vector<PackingSpace>& spaces);

/// Width of slot and mouth between the teeth over the depth from the gap.
SlotProfile slot_profile(const Machine& machine);

/// Where the conductors of a slot lie, packed as pack_circles() or pack_rectangles() do.
struct SlotFilling {
    struct Place {
        Point at;
        int layer, turn, strand;
    };
    std::vector<Place> places; ///< as many as fit, from the slot's bottom
    bool round = true;
    double outer_width = 0, outer_height = 0; ///< over the insulation
    double bare_width = 0, bare_height = 0;   ///< a litz bundle's: of its copper as if it were solid
    std::vector<int> wanted, fit;             ///< by layer; `fit` counts all that would
    bool fits() const;
    /// The largest diameter over the insulation (of flat wire the largest height) of which all would fit; 0
    /// where it was not looked for.
    double largest = 0;
};
/// The first of those with the most turns.
int fullest_slot(const Machine& machine);

/// How carefully conductors are packed.
enum class Packing {
    Rows,    ///< by rows from the bottom: for where strands lie
    Densest, ///< as many as can be found: for whether they fit
    Measured ///< and by how much what does not fit is too thick
};
/// Of the given slot.
SlotFilling fill_slot(const Machine& machine, int slot, Packing care = Packing::Densest);

/// The strands of a slot for their loss: spread over each layer's room as they are packed, or evenly where they
/// do not fit; their shares by phase (`current`: of each phase over its peak, complex).
std::vector<PlacedStrand> placed_strands(const Machine& machine, int slot, const SlotFilling& filling,
                                         const std::vector<std::complex<double>>& currents);

} // namespace mavlo
