// Slots whose sides are radii: a body of constant angle, with a narrower mouth or open to the bore.

#include "machine/slot_kind.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double degree = 0.017453292519943295;

Problems collisions(const StatorFrame& frame, const Values& v) {
    Problems problems;
    const double body = v.number("stator.slot.body_angle"), mouth = v.number("stator.slot.opening_angle");
    const double depth = v.number("stator.slot.depth"), tip = v.number("stator.slot.tip_depth");
    const double pitch = 2 * frame.half_pitch(), bottom = frame.bore_radius + depth;
    if (body >= pitch)
        problems.push_back(
            {"stator.slot.body_angle",
             fmt::format("The slots overlap by {:.2f} deg: {} of them have a pitch of {:.2f} deg.",
                         (body - pitch) / degree, frame.slots, pitch / degree)});
    if (tip > 0 && mouth > body)
        problems.push_back(
            {"stator.slot.opening_angle",
             fmt::format(
                 "The mouth is {:.2f} deg wider than the slot body; set tip_depth to 0 for an open slot.",
                 (mouth - body) / degree)});
    if (tip >= depth)
        problems.push_back(
            {"stator.slot.tip_depth",
             fmt::format("The tooth tip ends {} beyond the slot's bottom.", millimetres(tip - depth))});
    if (bottom >= frame.outer_radius)
        problems.push_back(
            {"stator.slot.depth", fmt::format("The slot's bottom lies {} beyond the stator's outer diameter.",
                                              millimetres(bottom - frame.outer_radius))});
    return problems;
}

Result<SlotContour> contour(const StatorFrame& frame, const Values& v) {
    if (auto problems = collisions(frame, v); !problems.empty()) return problems;
    const double bore = frame.bore_radius, bottom = bore + v.number("stator.slot.depth");
    const double body = v.number("stator.slot.body_angle") / 2, tip = v.number("stator.slot.tip_depth");
    const double mouth = tip > 0 ? v.number("stator.slot.opening_angle") / 2 : body;
    SlotContour out;
    out.steps.push_back({polar(bore, mouth)});
    if (tip > 0) {
        out.steps.push_back({polar(bore + tip, mouth)});
        if (body - mouth > 1e-9) out.steps.push_back({polar(bore + tip, body), Point{}});
        out.conductor_from = out.steps.size() - 1;
    }
    out.steps.push_back({polar(bottom, body)});
    out.steps.push_back({{bottom, 0}, Point{}});
    const double width = 2 * mouth * bore;
    out.hints = {{polar(bore, mouth), std::min(width / 14, frame.half_pitch() * bore / 8)}};
    if (tip > 0) out.hints.push_back({polar(bore + tip, mouth), width / 5});
    out.hints.push_back({polar(bottom, body), bottom * body / 3});
    return out;
}

std::vector<DimensionMark> marks(const StatorFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const double bore = frame.bore_radius, bottom = bore + v.number("stator.slot.depth"),
                 tip = v.number("stator.slot.tip_depth");
    const double body = v.number("stator.slot.body_angle") / 2,
                 mouth = v.number("stator.slot.opening_angle") / 2;
    auto angle_mark = [](const char* path, double radius, double half) {
        const Point handle = polar(radius, half);
        return DimensionMark{path,   Kind::Angle, polar(radius, -half),
                             handle, handle,      (2 / radius) * Point{-std::sin(half), std::cos(half)}};
    };
    std::vector<DimensionMark> list{
        {"stator.slot.depth", Kind::Length, {bore, 0}, {bottom, 0}, {bottom, 0}, {1, 0}},
        angle_mark("stator.slot.body_angle", (bore + tip + bottom) / 2, body)};
    if (tip > 0) {
        list.push_back(angle_mark("stator.slot.opening_angle", bore + tip / 2, mouth));
        list.push_back({"stator.slot.tip_depth",
                        Kind::Length,
                        polar(bore, mouth),
                        polar(bore + tip, mouth),
                        polar(bore + tip, mouth),
                        {1, 0}});
    }
    return list;
}

const RegisterSlotKind registered{
    {"radial",
     {"stator.slot.opening_angle", "stator.slot.body_angle", "stator.slot.depth", "stator.slot.tip_depth"},
     contour,
     marks}};

} // namespace
} // namespace mavlo
