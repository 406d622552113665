// Slots of constant width, for rectangular conductors.

#include "machine/slots/slot_form.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::slot_parallel_slot {
namespace {

double half_width(const SlotValues& v) {
    return v.number("width") / 2;
}

Result<SlotContour> contour(const TileFrame& frame, const SlotValues& v) {
    const double half = half_width(v), bottom = frame.radius(v.number("depth"));
    const double narrow = std::min(bottom, frame.gap_radius);
    if (const double over = half - frame.chart.flat * frame.half_pitch() + 1e-5;
        frame.chart.is_flat() && over > 0)
        return Problem{v.path("width"),
                       fmt::format("The slots are {} too wide: neighbours meet at the radius of {}.",
                                   millimetres(2 * over), millimetres(frame.chart.flat))};
    if (const double over = half / std::tan(frame.half_pitch()) + 2e-5 -
                            std::sqrt(std::max(0.0, narrow * narrow - half * half));
        !frame.chart.is_flat() && frame.pitches > 2 && over > 0)
        return Problem{
            v.path("width"),
            fmt::format("The slots are {} too wide: neighbours meet where they are nearest to the centre.",
                        millimetres(2 * over * std::tan(frame.half_pitch())))};
    auto out = slot_contour(frame, v, {frame.at(0, half), {bottom, half}});
    if (!out) return out;
    const double mouth = v.number("opening"), width = v.number("width");
    const auto& steps = out->steps;
    out->hints = {{steps.front().to, mouth / 7},
                  {steps[steps.size() > 1 ? 1 : 0].to, mouth / 4},
                  {steps[out->conductor_from].to, width / 4}};
    return out;
}

std::vector<DimensionMark> marks(const TileFrame& frame, const SlotValues& v) {
    const auto shape = contour(frame, v);
    if (!shape) return {};
    auto list = common_marks(frame, v, *shape);
    const double half = half_width(v),
                 middle = (shape->steps[shape->conductor_from].to.x + shape->steps.back().to.x) / 2;
    list.push_back({v.path("width"),
                    DimensionMark::Kind::Length,
                    {middle, -half},
                    {middle, half},
                    {middle, half},
                    {0, 2}});
    return list;
}

const RegisterSlot registered{
    "parallel-slot",
    "Slots of constant width with parallel sides.",
    slot_parameters(false, "20 deg",
                    {parameter::length("stator.slot.width", "= 0.42 * slot_pitch", "Slot width", "b_s",
                                       "Width between the parallel sides.", 0.05, 500)},
                    "= min(1 mm, 0.05 * slot_pitch)"),
    contour,
    marks,
    1,
    true};

} // namespace
} // namespace mavlo::slot_parallel_slot
