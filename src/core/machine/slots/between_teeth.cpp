// The room between teeth that have no yoke, cut by the middle plane of a stator between two discs.

#include "machine/axial.h"
#include "machine/tile_drawing.h"
#include "quantity/constants.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo::slot_between_teeth {
namespace {

using namespace parameter;

/// Upper half of the slot: half widths of mouth and body, heights of the tip's end and of the plane.
struct Room {
    double mouth, body, tip, plane;
};

double half_body(const TileFrame& frame, const Values& v) {
    if (v.is_auto("stator.slot.width")) return v.number("stator.slot.body_angle") / 2 * frame.chart.flat;
    return v.number("stator.slot.width") / 2;
}

Result<Room> room_of(const TileFrame& frame, const Values& v) {
    const Room out{v.number("stator.slot.opening") / 2, half_body(frame, v),
                   frame.radius(v.number("stator.slot.tip_depth")), frame.far_radius};
    const double half = frame.half_pitch() * frame.chart.flat;
    if (out.body > half - 1e-5)
        return Problem{"stator.slot.width", fmt::format("No tooth is left: the slots are {} too wide.",
                                                        millimetres(2 * (out.body - half) + 2e-5))};
    if (out.mouth > out.body + 1e-9)
        return Problem{"stator.slot.opening", fmt::format("The mouth is {} wider than the slot behind it.",
                                                          millimetres(2 * (out.mouth - out.body)))};
    if (frame.dir() * (out.plane - out.tip) < 1e-4)
        return Problem{"stator.slot.tip_depth",
                       fmt::format("The tips take {} more than half of the stator's thickness.",
                                   millimetres(1e-4 - frame.dir() * (out.plane - out.tip)))};
    return out;
}

void draw_layers(TileDrawing& drawing, const TileFrame& frame, const Room& r) {
    const int layers = frame.sharing == SlotSharing::Stacked ? std::max(1, frame.layers) : 1;
    for (int k = 0; k < layers; ++k) {
        const double low = r.tip + (r.plane - r.tip) * k / layers,
                     high = r.tip + (r.plane - r.tip) * (k + 1) / layers;
        if (k + 1 < layers) drawing.line({high, 0}, {high, r.body});
        drawing.region({(low + high) / 2, r.body / 2}, Use::Conductor, "stator.slot",
                       "winding.conductor.material");
        drawing.tile().regions.back().part = k;
        drawing.line({low, r.body}, {high, r.body});
    }
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const auto r = room_of(frame, v);
    if (!r) return r.problems();
    TileDrawing drawing(frame, "stator");
    const bool tipped = frame.dir() * (r->tip - frame.gap_radius) > 1e-6;
    draw_layers(drawing, frame, *r);
    if (tipped) {
        drawing.line({frame.gap_radius, r->mouth}, {r->tip, r->mouth});
        drawing.line({r->tip, 0}, {r->tip, r->mouth});
        if (r->body > r->mouth + 1e-9) drawing.line({r->tip, r->mouth}, {r->tip, r->body});
        drawing.air({(frame.gap_radius + r->tip) / 2, r->mouth / 2}, "slot.mouth");
        drawing.hint({r->tip, r->mouth}, r->mouth / 2);
    }
    const double half = frame.half_pitch() * frame.chart.flat;
    drawing.iron({(r->tip + r->plane) / 2, (r->body + half) / 2});
    drawing.hint({frame.gap_radius, tipped ? r->mouth : r->body}, std::min(r->mouth / 3.5, half / 8));
    Tile& t = drawing.tile();
    t.gap_size = half / 5;
    t.max_size = std::min({half / 2, (half - r->body) / 1.2, r->body / 1.2});
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const auto r = room_of(frame, v);
    if (!r) return {};
    const double middle = (r->tip + r->plane) / 2;
    std::vector<DimensionMark> out{{"stator.slot.opening",
                                    Kind::Length,
                                    {frame.gap_radius, -r->mouth},
                                    {frame.gap_radius, r->mouth},
                                    {frame.gap_radius, r->mouth},
                                    {0, 2}},
                                   {"stator.slot.tip_depth",
                                    Kind::Length,
                                    {frame.gap_radius, r->mouth},
                                    {r->tip, r->mouth},
                                    {r->tip, r->mouth},
                                    {frame.dir(), 0}}};
    if (!v.is_auto("stator.slot.width"))
        out.push_back({"stator.slot.width",
                       Kind::Length,
                       {middle, -r->body},
                       {middle, r->body},
                       {middle, r->body},
                       {0, 2}});
    return out;
}

const Register<TileKind> registered{
    {Side::Stator, "between-teeth",
     "Slots between single teeth without a yoke, for a stator between two discs.",
     in_group(
         "Stator", "Slots", 101,
         {length("stator.slot.opening", "= 0.12 * slot_pitch", "Mouth", "b₀",
                 "Width of the slot mouth at the gap.", 0.05, 500),
          or_auto(length("stator.slot.width", "= 0.45 * slot_pitch", "Slot width", "b_s",
                         "Between the teeth, the same at every radius; auto: by an angle.", 0.05, 500)),
          quantity("stator.slot.body_angle", "deg", "= 0.45 * slot_angle", "Body angle", "β",
                   "Between the teeth, where the slot's width is on auto and follows the radius.", 0.01, 180),
          length("stator.slot.tip_depth", "= 0.06 * slot_pitch", "Tip depth", "h₀",
                 "Axial thickness of the tooth's tip beside the mouth; 0: none.", 0, 500),
          length("stator.slot.liner", "0 mm", "Liner", "s_l",
                 "Thickness of the insulation on the slot's walls; it takes room from the conductors.", 0,
                 20)}),
     tile, marks, 7, nullptr, false, true, false}};

} // namespace
} // namespace mavlo::slot_between_teeth
