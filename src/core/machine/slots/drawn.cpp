// A slot pitch from a drawing.

#include "machine/drawn_part.h"
#include "machine/tile_drawing.h"

#include <algorithm>

namespace mavlo::slot_drawn {
namespace {

/// Coil sides on top of each other are the drawing's conductors, from the gap on.
std::optional<Problem> layer(Tile& tile, SlotSharing sharing) {
    std::vector<Region*> conductors;
    for (Region& region : tile.regions)
        if (region.use == Use::Conductor) conductors.push_back(&region);
    std::sort(conductors.begin(), conductors.end(), [&](const Region* a, const Region* b) {
        return std::abs(norm(a->seed) - tile.gap_radius) < std::abs(norm(b->seed) - tile.gap_radius);
    });
    if (sharing == SlotSharing::Stacked && conductors.size() < 2)
        return Problem{"winding.layers",
                       "The drawn slot has one region for conductors, which two layers on top of "
                       "each other cannot share; take one layer, or draw the line between them."};
    for (std::size_t i = 0; i < conductors.size(); ++i)
        conductors[i]->part = sharing == SlotSharing::Stacked && i >= conductors.size() / 2 ? 1 : 0;
    return std::nullopt;
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const DrawnPart* part = v.drawing("stator");
    if (!part)
        return Problem{"stator.slot.kind",
                       "The design holds no drawing of a stator; import one, or choose another kind."};
    if (auto problem = misfit(*part, frame, "stator")) return *problem;
    auto tile = drawn_tile(*part, "stator");
    if (tile)
        if (auto problem = layer(*tile, frame.sharing)) return *problem;
    return tile;
}

const Register<TileKind> registered{
    {Side::Stator,
     "drawn",
     "A slot pitch from a drawing.",
     {},
     tile,
     [](const TileFrame&, const Values&) { return std::vector<DimensionMark>{}; },
     20}};

} // namespace
} // namespace mavlo::slot_drawn
