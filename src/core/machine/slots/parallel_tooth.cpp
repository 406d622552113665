// Slots between teeth of constant width.

#include "machine/slots/slot_form.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::slot_parallel_tooth {
namespace {

double half_tooth(const SlotValues& v) {
    return v.number("tooth_width") / 2;
}

/// The point at this radius on the side of the tooth: at `d` from its centre line towards the slot.
Point beside_tooth(const TileFrame& frame, double d, double radius) {
    const double along = std::sqrt(std::max(0.0, radius * radius - d * d)), gamma = frame.half_pitch();
    return {along * std::cos(gamma) + d * std::sin(gamma), along * std::sin(gamma) - d * std::cos(gamma)};
}

Result<SlotContour> contour(const TileFrame& frame, const SlotValues& v) {
    const double d = half_tooth(v), bottom = frame.radius(v.number("depth"));
    const double narrow = std::min(bottom, frame.gap_radius);
    const Point end = frame.at(v.number("tip_depth"), half_mouth(frame, v));
    const Point normal{-std::sin(frame.half_pitch()), std::cos(frame.half_pitch())};
    const bool mouth_fits = half_mouth(frame, v) < frame.gap_radius * std::sin(frame.half_pitch());
    if (const double room = -dot(end, normal) - d; mouth_fits && room <= 0)
        return Problem{v.path("tooth_width"),
                       fmt::format("The teeth are {} too wide: they close the slot at its mouth.",
                                   millimetres(-2 * room))};
    if (narrow <= d || beside_tooth(frame, d, bottom).y <= 0)
        return Problem{v.path("tooth_width"),
                       fmt::format("The teeth are {} too wide: they meet before the slot's bottom.",
                                   millimetres(2 * std::max(d - narrow, -beside_tooth(frame, d, narrow).y)))};
    auto out =
        slot_contour(frame, v, {beside_tooth(frame, d, frame.gap_radius), beside_tooth(frame, d, bottom)});
    if (!out) return out;
    const double mouth = v.number("opening"), tooth = v.number("tooth_width");
    const auto& steps = out->steps;
    out->hints = {{steps.front().to, mouth / 7}, {end, mouth / 4}, {steps[out->conductor_from].to, tooth / 4}};
    return out;
}

std::vector<DimensionMark> marks(const TileFrame& frame, const SlotValues& v) {
    const auto shape = contour(frame, v);
    if (!shape) return {};
    auto list = common_marks(frame, v, *shape);
    const double middle = (norm(shape->steps[shape->conductor_from].to) + frame.radius(v.number("depth"))) / 2;
    const double d = half_tooth(v);
    const Point near_side = beside_tooth(frame, d, middle), far_side = beside_tooth(frame, -d, middle);
    const Point across{-std::sin(frame.half_pitch()), std::cos(frame.half_pitch())};
    list.push_back(
        {v.path("tooth_width"), DimensionMark::Kind::Length, near_side, far_side, near_side, -2.0 * across});
    return list;
}

const RegisterSlot registered{
    "parallel-tooth",
    "Teeth of constant width, so that the slots widen away from the centre.",
    slot_parameters(false, "20 deg",
                    {parameter::length("stator.slot.tooth_width", "= 0.495 * slot_pitch", "Tooth width", "b_t",
                                       "Width of the parallel-sided tooth.", 0.05, 500)}),
    contour,
    marks,
    0};

} // namespace
} // namespace mavlo::slot_parallel_tooth
