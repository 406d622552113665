// Conductors in the gap, on a smooth stator or without any iron.

#include "machine/axial.h"
#include "machine/tile_drawing.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::slot_gap_winding {
namespace {

using namespace parameter;

/// Where the coil sides of one pitch stand.
struct Layer {
    double from, to; ///< angles of the upper half's side, or of the whole side's upper half (from 0)
    double start;    ///< heights: of the face towards the gap,
    double end;      ///< … of the one behind,
    double iron;     ///< … and of the iron's; the far side where there is none
    bool coreless;
    /// Room between the conductors and the iron.
    bool behind() const { return !coreless && std::abs(iron - end) > 1e-9; }
};

/// rad, at the section's radius.
double side_angle(const TileFrame& frame, const Values& v, double height) {
    if (!v.is_auto("winding.side_angle")) return v.number("winding.side_angle");
    if (!v.is_auto("winding.side_width")) return v.number("winding.side_width") / frame.chart.arm(height);
    return (frame.sharing == SlotSharing::SideBySide ? 0.45 : 0.9) * frame.pitch();
}

Result<Layer> layer_of(const TileFrame& frame, const Values& v) {
    Layer out{};
    // Where the middle plane cuts the winding one half of it is drawn.
    out.coreless = is_flat(v) && axial_form(v).coreless;
    const double thickness = v.number("winding.side_thickness") / (out.coreless ? 2 : 1);
    out.start = frame.gap_radius;
    out.end = frame.radius(thickness);
    out.iron = out.coreless ? frame.far_radius : frame.radius(thickness + v.number("winding.side_distance"));
    if (!out.coreless && frame.dir() * (frame.far_radius - out.iron) < 1e-5)
        return Problem{"winding.side_thickness",
                       fmt::format("The winding takes {} more room than the stator has; make it thinner.",
                                   millimetres(1e-5 - frame.dir() * (frame.far_radius - out.iron)))};
    if (!out.coreless && frame.dir() * out.end <= frame.dir() * out.start)
        return Problem{"winding.side_thickness", "The winding has no thickness."};
    const double side = side_angle(frame, v, (out.start + out.end) / 2), half = frame.half_pitch();
    if (frame.sharing == SlotSharing::SideBySide) {
        // The middles of a coil's two sides stand apart by its span; half a pitch is the slot's own middle.
        const double span =
            v.is_auto("winding.coil_span") ? frame.pitch() - side : v.number("winding.coil_span");
        const double middle = half - span / 2;
        out.from = middle - side / 2;
        out.to = middle + side / 2;
    } else {
        out.from = 0;
        out.to = side / 2;
    }
    if (out.from < -1e-9)
        return Problem{
            "winding.coil_span",
            fmt::format("Neighbouring coils overlap by {:.3f} deg; make the span or the sides narrower.",
                        -2 * out.from / degree)};
    if (out.to > half + 1e-9)
        return Problem{"winding.side_angle",
                       fmt::format("The coil sides reach {:.3f} deg into the next pitch; make them narrower.",
                                   (out.to - half) / degree)};
    out.from = std::max(out.from, 0.0);
    out.to = std::min(out.to, half);
    return out;
}

void draw_sides(TileDrawing& drawing, const TileFrame& frame, const Layer& l) {
    const int layers = frame.sharing == SlotSharing::Stacked ? std::max(1, frame.layers) : 1;
    for (int k = 1; k <= layers; ++k) {
        const double low = l.start + (l.end - l.start) * (k - 1) / layers,
                     high = l.start + (l.end - l.start) * k / layers;
        for (const double angle : {l.from, l.to})
            if (angle > 1e-9 && angle < frame.half_pitch() - 1e-9)
                drawing.line(frame.place(low, angle), frame.place(high, angle));
        if (k < layers || l.behind()) drawing.along(frame.place(high, l.from), frame.place(high, l.to));
        drawing.region(frame.place((low + high) / 2, (l.from + l.to) / 2), Use::Conductor, "stator.slot",
                       "winding.conductor.material");
        drawing.tile().regions.back().part = k - 1;
    }
}

/// Of the iron, in pieces between the edges of coil sides that touch it.
void draw_face(TileDrawing& drawing, const TileFrame& frame, const Layer& l) {
    double before = 0;
    for (const double angle : {l.behind() ? 0 : l.from, l.behind() ? 0 : l.to, frame.half_pitch()}) {
        if (angle > before + 1e-9) drawing.along(frame.place(l.iron, before), frame.place(l.iron, angle));
        before = angle;
    }
}

/// What stands beside and behind the coil sides.
void draw_rest(TileDrawing& drawing, const TileFrame& frame, const Layer& l) {
    const double half = frame.half_pitch();
    const bool inner_room = l.from > 1e-9, outer_room = l.to < half - 1e-9, behind = l.behind();
    const double middle = (l.start + l.end) / 2;
    if (!l.coreless) draw_face(drawing, frame, l);
    if (behind && !inner_room && !outer_room) {
        drawing.air(frame.place((l.end + l.iron) / 2, half / 2), "slot.mouth");
    } else {
        if (behind && inner_room && outer_room) { // one room goes round the sides
            drawing.air(frame.place((l.end + l.iron) / 2, half / 2), "slot.mouth");
        } else {
            if (inner_room) drawing.air(frame.place(middle, l.from / 2), "slot.mouth");
            if (outer_room) drawing.air(frame.place(middle, (l.to + half) / 2), "slot.mouth");
        }
    }
    if (!l.coreless) drawing.iron(frame.place((l.iron + frame.far_radius) / 2, half / 2));
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const auto l = layer_of(frame, v);
    if (!l) return l.problems();
    TileDrawing drawing(frame, "stator");
    draw_sides(drawing, frame, *l);
    draw_rest(drawing, frame, *l);
    const double arm = frame.chart.arm(frame.gap_radius), thickness = std::abs(l->end - l->start),
                 width = (l->to - l->from) * arm, pole = 2 * pi * arm / v.whole("rotor.poles");
    Tile& t = drawing.tile();
    const double fine = std::min({thickness, width, frame.half_pitch() * arm, pole / 16});
    for (const double angle : {l->from, l->to})
        for (const double height : {l->start, l->end}) drawing.hint(frame.place(height, angle), fine);
    t.gap_size = std::min(frame.half_pitch() * arm / 2, pole / 16);
    t.max_size = std::min(frame.half_pitch() * arm, pole / 8);
    t.iron_radius = l->iron;
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const auto l = layer_of(frame, v);
    if (!l) return {};
    const double middle = (l->from + l->to) / 2;
    const Point face = frame.place(l->start, middle), back = frame.place(l->end, middle);
    return {{"winding.side_thickness", Kind::Length, face, back, back,
             (l->coreless ? 2.0 : 1.0) * frame.chart.turned_direction({frame.dir(), 0}, middle)}};
}

const Register<TileKind> registered{
    {Side::Stator, "gap-winding", "Conductors in the gap, on a smooth stator or without iron.",
     in_group(
         "Stator", "Slots", 101,
         {or_auto(quantity("winding.side_angle", "deg", "auto", "Coil side, angle", "β_s",
                           "Mechanical, of one coil side; auto: by its width.", 1e-3, 180)),
          or_auto(length("winding.side_width", "auto", "Coil side, width", "b_s",
                         "Of one coil side, the same at every radius of a disc, elsewhere in the middle of the "
                         "winding's thickness; auto: by its angle, or nine tenths of what there is.",
                         1e-3, 1000)),
          length("winding.side_thickness", "= 0.1 * pole_pitch", "Winding's thickness", "h_w",
                 "Across the gap, of the conductors; without iron the whole thickness of the winding.", 1e-3,
                 500),
          length("winding.side_distance", "0 mm", "Distance from the iron", "",
                 "Between the conductors and the iron behind them.", 0, 100),
          or_auto(quantity("winding.coil_span", "deg", "auto", "Coil span, angle", "",
                           "Mechanical, between the middles of a coil's sides where they stand beside those of "
                           "the next coils; auto: they touch.",
                           1e-3, 180))}),
     tile, marks, 8, nullptr, false, true}};

} // namespace
} // namespace mavlo::slot_gap_winding
