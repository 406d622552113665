// Slots between teeth of constant width: mouth, sloping tip, straight flanks, rounded bottom on a circle.

#include "machine/slot_kind.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

/// The slot's characteristic points in its half cell (slot centre on +x).
struct Points {
    double gamma;     ///< half the slot pitch
    Point mouth, tip; ///< mouth corner on the bore; where the mouth's straight side ends
    Point shoulder;   ///< where the tip's back meets the flank
    Point flank_end;  ///< where the flank meets the fillet
    Point fillet_centre, fillet_end;
    double bottom; ///< radius of the bottom
};

double half_tooth(const Values& v) {
    return v.number("stator.slot.tooth_width") / 2;
}

/// The point of the line at distance `d` from the tooth's centre line, on the slot side, at this radius.
Point beside_tooth(double gamma, double d, double radius) {
    const double along = std::sqrt(std::max(0.0, radius * radius - d * d));
    return {along * std::cos(gamma) + d * std::sin(gamma), along * std::sin(gamma) - d * std::cos(gamma)};
}

Points points_of(const StatorFrame& frame, const Values& v) {
    Points p{};
    p.gamma = frame.half_pitch();
    const double half_mouth = v.number("stator.slot.opening") / 2, bore = frame.bore_radius;
    p.mouth = {std::sqrt(std::max(0.0, bore * bore - half_mouth * half_mouth)), half_mouth};
    p.tip = {bore + v.number("stator.slot.tip_depth"), half_mouth};
    const double d = half_tooth(v), slope = v.number("stator.slot.tip_angle");
    const Point back{std::sin(slope), std::cos(slope)}, normal{-std::sin(p.gamma), std::cos(p.gamma)};
    p.shoulder = p.tip + ((-d - dot(p.tip, normal)) / dot(back, normal)) * back;
    p.bottom = bore + v.number("stator.slot.depth");
    const double r = v.number("stator.slot.corner_radius");
    p.fillet_centre = beside_tooth(p.gamma, d + r, p.bottom - r);
    p.flank_end = p.fillet_centre + r * normal;
    p.fillet_end = (p.bottom / norm(p.fillet_centre)) * p.fillet_centre;
    return p;
}

Problems collisions(const StatorFrame& frame, const Values& v, const Points& p) {
    Problems problems;
    auto say = [&](const char* path, std::string sentence) { problems.push_back({path, std::move(sentence)}); };
    const double pitch = 2 * frame.bore_radius * std::sin(p.gamma), mouth = v.number("stator.slot.opening");
    if (mouth >= pitch) {
        say("stator.slot.opening",
            fmt::format(
                "The mouth of {} is wider than the slot pitch of {} at the bore; make it at least {} narrower.",
                millimetres(mouth), millimetres(pitch), millimetres(mouth - pitch)));
        return problems;
    }
    if (p.bottom >= frame.outer_radius) {
        say("stator.slot.depth", fmt::format("The slot's bottom lies {} beyond the stator's outer diameter.",
                                             millimetres(p.bottom - frame.outer_radius)));
        return problems;
    }
    const Point normal{-std::sin(p.gamma), std::cos(p.gamma)};
    const double room = -dot(p.tip, normal) - half_tooth(v);
    if (room <= 0) {
        say("stator.slot.tooth_width",
            fmt::format("The teeth are {} too wide: they close the slot at its mouth.",
                        millimetres(-2 * room)));
        return problems;
    }
    if (norm(p.shoulder) >= p.bottom - 1e-5) {
        say("stator.slot.depth",
            fmt::format(
                "The tooth tip ends {} beyond the slot's bottom; make the slot deeper or the tip thinner.",
                millimetres(norm(p.shoulder) - p.bottom)));
        return problems;
    }
    if (p.fillet_end.y < 0 || p.fillet_centre.y < 0)
        say("stator.slot.corner_radius",
            fmt::format("The rounded corners overlap by {} at the slot's centre; make the radius smaller.",
                        millimetres(-2 * std::min(p.fillet_end.y, p.fillet_centre.y))));
    else if (norm(p.flank_end) <= norm(p.shoulder))
        say("stator.slot.corner_radius",
            fmt::format("The rounded corner reaches {} past the tooth tip; make the radius smaller.",
                        millimetres(norm(p.shoulder) - norm(p.flank_end))));
    return problems;
}

Result<SlotContour> contour(const StatorFrame& frame, const Values& v) {
    const Points p = points_of(frame, v);
    if (auto problems = collisions(frame, v, p); !problems.empty()) return problems;
    SlotContour out;
    out.steps.push_back({p.mouth});
    if (v.number("stator.slot.tip_depth") > 1e-7 && distance(p.mouth, p.tip) > 1e-6)
        out.steps.push_back({p.tip});
    out.steps.push_back({p.shoulder});
    out.conductor_from = out.steps.size() - 1;
    if (distance(p.flank_end, p.fillet_end) > 1e-7) {
        out.steps.push_back({p.flank_end});
        out.steps.push_back({p.fillet_end, p.fillet_centre});
    } else {
        out.steps.push_back({p.fillet_end});
    }
    out.steps.push_back({{p.bottom, 0}, Point{}});
    const double mouth = v.number("stator.slot.opening");
    const double tooth = v.number("stator.slot.tooth_width");
    out.hints = {{p.mouth, mouth / 7}, {p.tip, mouth / 4}, {p.shoulder, tooth / 4}};
    return out;
}

std::vector<DimensionMark> marks(const StatorFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const Points p = points_of(frame, v);
    const Point mirrored{p.mouth.x, -p.mouth.y};
    const double middle = (norm(p.shoulder) + norm(p.flank_end)) / 2, d = half_tooth(v);
    const Point near_side = beside_tooth(p.gamma, d, middle), far_side = beside_tooth(p.gamma, -d, middle);
    const Point across{-std::sin(p.gamma), std::cos(p.gamma)};
    return {
        {"stator.slot.depth", Kind::Length, {frame.bore_radius, 0}, {p.bottom, 0}, {p.bottom, 0}, {1, 0}},
        {"stator.slot.opening", Kind::Length, mirrored, p.mouth, p.mouth, {0, 2}},
        {"stator.slot.tip_depth", Kind::Length, p.mouth, p.tip, p.tip, {1, 0}},
        {"stator.slot.tooth_width", Kind::Length, near_side, far_side, near_side, -2.0 * across},
    };
}

const RegisterSlotKind registered{
    {"parallel-tooth",
     {"stator.slot.opening", "stator.slot.depth", "stator.slot.tip_depth", "stator.slot.tip_angle",
      "stator.slot.tooth_width", "stator.slot.corner_radius"},
     contour,
     marks}};

} // namespace
} // namespace mavlo
