// A smooth stator without slots or winding, for fields against exact series.

#include "machine/tile_drawing.h"

namespace mavlo::slot_none {
namespace {

Result<Tile> tile(const TileFrame& frame, const Values&) {
    TileDrawing drawing(frame, "stator");
    drawing.iron(frame.place((frame.gap_radius + frame.far_radius) / 2, frame.half_pitch() / 2));
    return drawing.finish();
}

const Register<TileKind> registered{
    {Side::Stator,
     "none",
     "A smooth stator without slots or winding.",
     {},
     tile,
     [](const TileFrame&, const Values&) { return std::vector<DimensionMark>{}; },
     9,
     nullptr,
     false,
     true}};

} // namespace
} // namespace mavlo::slot_none
