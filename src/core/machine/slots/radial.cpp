// Slots whose sides are radii: a body of constant angle, with a narrower mouth or open to the gap.

#include "machine/slots/slot_form.h"
#include "quantity/constants.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::slot_radial {
namespace {

bool is_open(const SlotValues& v) {
    return v.number("tip_depth") <= 0;
}

Result<SlotContour> contour(const TileFrame& frame, const SlotValues& v) {
    const double body = v.number("body_angle");
    if (body >= frame.pitch() - 1e-5)
        return Problem{v.path("body_angle"),
                       fmt::format("The slots overlap by {:.2f} deg: {} of them have a pitch of {:.2f} deg.",
                                   (body - frame.pitch()) / degree, frame.pitches, frame.pitch() / degree)};
    // Without a tip the body itself is the mouth.
    const SlotValues own = is_open(v) ? v.with("opening_angle", body) : v;
    const double bottom = frame.radius(v.number("depth"));
    const double low = std::min(bottom, frame.gap_radius) * 0.5,
                 high = std::max(bottom, frame.gap_radius) * 1.5;
    const Flank flank = frame.outside() ? Flank{frame.place(low, body / 2), frame.place(high, body / 2)}
                                        : Flank{frame.place(high, body / 2), frame.place(low, body / 2)};
    auto out = slot_contour(frame, own, flank);
    if (!out) return out;
    if (is_open(v) && v.given("wedge") <= 0) out->conductor_from = 0;
    const double width = 2 * half_mouth(frame, own), r = frame.chart.arm(frame.gap_radius),
                 tip = v.number("tip_depth");
    const Point corner = out->steps.front().to;
    out->hints = {{corner, std::min(width / 14, frame.half_pitch() * r / 8)}};
    if (tip > 0) out->hints.push_back({frame.on(tip, frame.chart.angle(corner)), width / 5});
    out->hints.push_back({frame.place(bottom, body / 2), frame.chart.arm(bottom) * body / 6});
    return out;
}

std::vector<DimensionMark> marks(const TileFrame& frame, const SlotValues& v) {
    const auto shape = contour(frame, v);
    if (!shape) return {};
    auto list = common_marks(frame, v, *shape);
    const double body = v.number("body_angle") / 2;
    const double radius = frame.radius((v.number("tip_depth") + v.number("depth")) / 2);
    const Point handle = frame.place(radius, body);
    list.push_back({v.path("body_angle"), DimensionMark::Kind::Angle, frame.place(radius, -body), handle,
                    handle, (2 / frame.chart.arm(radius)) * frame.chart.turned_direction({0, 1}, body)});
    return list;
}

const RegisterSlot registered{
    "radial",
    "Slots whose sides are radii.",
    slot_parameters(true, "0 deg",
                    {parameter::quantity("stator.slot.body_angle", "deg", "= 0.53 * slot_angle", "Body angle",
                                         "β", "Angle between the radial sides of the slot body.", 0.01, 180)},
                    "0 mm"),
    contour,
    marks,
    2,
    true};

} // namespace
} // namespace mavlo::slot_radial
