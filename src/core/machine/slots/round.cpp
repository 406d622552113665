// Round slots: a hole behind a straight mouth.

#include "machine/slots/slot_form.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::slot_round {
namespace {

using namespace parameter;

Result<SlotContour> contour(const TileFrame& frame, const SlotValues& v) {
    const double r = v.number("diameter") / 2, half = half_mouth(frame, v);
    const double tip = v.number("tip_depth"), centre = frame.radius(tip + r);
    if (half >= r - 1e-5)
        return Problem{v.path("opening"), fmt::format("The mouth is {} wider than the round slot behind it.",
                                                      millimetres(2 * (half - r) + 2e-5))};
    if (const double over = tip + 2 * r - frame.thickness(); over > -1e-5)
        return Problem{v.path("diameter"),
                       fmt::format("The slots reach {} past {}.", millimetres(over + 1e-5), v.far_side(frame))};
    if (const double over = 1.004 * r + 2e-5 - centre * std::sin(frame.half_pitch());
        frame.pitches > 1 && over > 0)
        return Problem{v.path("diameter"),
                       fmt::format("The slots are {} too large: neighbours meet.", millimetres(2 * over))};
    SlotContour out;
    const Point middle{centre, 0}, corner{std::sqrt(frame.gap_radius * frame.gap_radius - half * half), half};
    const Point entry{centre - frame.dir() * std::sqrt(r * r - half * half), half};
    if (frame.dir() * (entry.x - corner.x) < 1e-6)
        return Problem{v.path("tip_depth"),
                       fmt::format("The round slots break into the gap; make the tip {} thicker.",
                                   millimetres(frame.dir() * (corner.x - entry.x) + 1e-6))};
    out.steps = {{corner}, {entry}, {{centre, r}, middle}, {frame.at(tip + 2 * r, 0), middle}};
    out.conductor_from = 1;
    if (frame.sharing == SlotSharing::Stacked) {
        if (frame.layers > 2)
            return Problem{"winding.layers",
                           "A round slot holds one or two layers; take another slot for more."};
        out.cut_step = 3;
        out.cuts = {{centre, r}}; // at its widest
    }
    out.hints = {{corner, half / 3.5}, {entry, half / 2}, {{centre, r}, r / 2}};
    return out;
}

std::vector<DimensionMark> marks(const TileFrame& frame, const SlotValues& v) {
    using Kind = DimensionMark::Kind;
    const auto shape = contour(frame, v);
    if (!shape) return {};
    const double r = v.number("diameter") / 2, tip = v.number("tip_depth");
    const Point corner = shape->steps.front().to, dir{frame.dir(), 0};
    return {{v.path("diameter"), Kind::Length, frame.at(tip, 0), frame.at(tip + 2 * r, 0),
             frame.at(tip + 2 * r, 0), dir},
            {v.path("opening"), Kind::Length, {corner.x, -corner.y}, corner, corner, {0, 2}},
            {v.path("tip_depth"), Kind::Length, frame.at(0, 0), frame.at(tip, 0), frame.at(tip, 0), dir}};
}

const RegisterSlot registered{
    "round",
    "Round holes behind a straight mouth.",
    in_group(
        "Stator", "Slots", 101,
        {length("stator.slot.opening", "= 0.14 * slot_pitch", "Mouth", "b₀",
                "Width of the slot mouth at the gap.", 0.05, 500),
         length("stator.slot.diameter", "= 0.5 * slot_pitch", "Slot diameter", "d_s",
                "Diameter of the round slot.", 0.1, 500),
         length("stator.slot.tip_depth", "= 0.07 * slot_pitch", "Tip depth", "h₀",
                "From the gap to the round slot, on its axis.", 0, 500),
         length("stator.slot.liner", "0 mm", "Liner", "s_l",
                "Thickness of the insulation on the slot's walls; it takes room from the conductors.", 0, 20)}),
    contour,
    marks,
    3};

} // namespace
} // namespace mavlo::slot_round
