// The contour of a slot from its dimensions, or what collides.

#include "machine/slots/slot_cut.h"
#include "quantity/constants.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double flat_tip = 23.5 * degree; ///< backs that leave the shoulder at less are flat

/// Where the sloping back of the tooth's tip goes from the mouth's end: one slope, or two that change over half
/// way; ends on the flank.
std::optional<std::vector<Point>> tip_back(const TileFrame& frame, const SlotValues& v, const Flank& flank,
                                           Point end) {
    const auto slope = [&](double angle) { return Point{frame.dir() * std::sin(angle), std::cos(angle)}; };
    const double first = v.number("tip_angle");
    const double second = v.is_auto("second_tip_angle") ? first : v.number("second_tip_angle");
    const auto straight = meeting(end, end + slope(first), flank.from, flank.to);
    if (!straight) return std::nullopt;
    if (second == first) return std::vector{*straight};
    const Point bend = 0.5 * (end + *straight);
    const auto shoulder = meeting(bend, bend + slope(second), flank.from, flank.to);
    if (!shoulder) return std::nullopt;
    return std::vector{bend, *shoulder};
}

std::optional<Fillet> bottom_corner(const TileFrame& frame, const SlotValues& v, const Flank& flank,
                                    double bottom) {
    const double r = v.number("corner_radius");
    if (v.word("bottom") == "round" && !frame.chart.is_flat())
        return fillet_on_circle(flank.from, flank.to, bottom, r, frame.outside() ? -1 : 1, frame.outside());
    const auto corner = meeting(flank.from, flank.to, {bottom, 0}, {bottom, 1});
    if (!corner) return std::nullopt;
    return fillet(flank.from, *corner, {bottom, 0}, r);
}

Problems depth_problems(const TileFrame& frame, const SlotValues& v) {
    const double depth = v.number("depth"), room = frame.thickness() - depth;
    if (room > 1e-5) return {};
    return {{v.path("depth"), fmt::format("The slot's bottom lies {} {} {}.", millimetres(-room),
                                          frame.outside() ? "beyond" : "inside", v.far_side(frame))}};
}

Problems mouth_problems(const TileFrame& frame, const SlotValues& v) {
    const double width = 2 * half_mouth(frame, v), pitch = 2 * frame.half_chord(frame.half_pitch());
    if (width < pitch - 2e-5) return {};
    if (by_angle(v))
        return {{v.path("opening_angle"),
                 fmt::format("The mouths overlap by {:.2f} deg: {} of them have a pitch of {:.2f} deg.",
                             (v.number("opening_angle") - frame.pitch()) / degree, frame.pitches,
                             frame.pitch() / degree)}};
    return {{v.path("opening"),
             fmt::format(
                 "The mouth of {} is wider than the slot pitch of {} at the gap; make it at least {} narrower.",
                 millimetres(width), millimetres(pitch), millimetres(width - pitch))}};
}

Problems notch_problems(const TileFrame& frame, const SlotValues& v, double mouth) {
    if (!has_notches(v)) return {};
    const int count = v.whole("notches");
    const double half = v.number("notch_width") / 2, depth = v.number("notch_depth");
    // Inside, teeth and notches come nearer to each other with the depth.
    const double nearest = std::min(frame.gap_radius, frame.radius(depth));
    const double between = frame.pitch() / (2 * (count + 1));
    const double apart = 2 * (frame.chart.is_flat() ? frame.chart.flat * between : nearest * std::sin(between));
    const double neighbour = count > 1 ? std::max(half, mouth) : mouth;
    if (half + neighbour > apart - 5e-5)
        return {{v.path("notch_width"),
                 fmt::format("The notches run {} into the mouth or each other; make them narrower or fewer.",
                             millimetres(half + neighbour - apart + 5e-5))}};
    if (depth > 0.5 * v.number("depth"))
        return {{v.path("notch_depth"), fmt::format("The notches are {} deeper than half the slot.",
                                                    millimetres(depth - 0.5 * v.number("depth")))}};
    return {};
}

/// Points of the half contour in small steps, beginning with step `first`'s end.
std::vector<Point> polyline(const SlotContour& contour, std::size_t first) {
    std::vector<Point> points{contour.steps[first].to};
    for (std::size_t i = first + 1; i < contour.steps.size(); ++i) {
        Outline outline;
        const Edge edge{outline.add(contour.steps[i - 1].to), outline.add(contour.steps[i].to),
                        contour.steps[i].centre};
        if (edge.from == edge.to) continue;
        const int pieces = edge.centre ? 64 : 1;
        for (int k = 1; k <= pieces; ++k) points.push_back(point_on(outline, edge, double(k) / pieces));
    }
    return points;
}

/// The points of the straight side from a to b at whose radii the area between side and axis is parted evenly.
std::vector<Point> parting_points(const Chart& chart, Point a, Point b, int parts) {
    constexpr int steps = 400;
    const auto on_flank = [&](double t) { return a + t * (b - a); };
    std::vector<double> area(steps + 1, 0.0);
    for (int i = 0; i < steps; ++i) {
        const Point lower = on_flank(double(i) / steps), upper = on_flank(double(i + 1) / steps);
        const Point middle = on_flank((i + 0.5) / steps);
        area[std::size_t(i) + 1] =
            area[std::size_t(i)] + chart.angle(middle) * chart.arm(chart.height(middle)) *
                                       std::abs(chart.height(upper) - chart.height(lower));
    }
    std::vector<Point> points;
    for (int part = 1; part < parts; ++part) {
        const double wanted = area.back() * part / parts;
        const auto next = std::lower_bound(area.begin(), area.end(), wanted) - area.begin();
        const double over = area[std::size_t(next)] - wanted;
        const double width = area[std::size_t(next)] - area[std::size_t(next) - 1];
        points.push_back(on_flank((double(next) - over / width) / steps));
    }
    return points;
}

/// Angle between the tip's back, which comes from `before`, and what cuts the conductors off at the shoulder.
double shoulder_angle(const TileFrame& frame, Point before, Point shoulder) {
    const Point back = before - shoulder;
    const Point cut = frame.outside() && !frame.chart.is_flat() ? Point{shoulder.y, -shoulder.x} : Point{0, -1};
    return std::atan2(std::abs(cross(cut, back)), dot(cut, back));
}

} // namespace

double half_mouth(const TileFrame& frame, const SlotValues& v) {
    return by_angle(v) ? frame.half_chord(v.number("opening_angle") / 2) : v.number("opening") / 2;
}

bool by_angle(const SlotValues& v) {
    return v.has("opening_angle");
}

bool has_notches(const SlotValues& v) {
    return v.has("notches") && v.whole("notches") > 0;
}

double deepest(const TileFrame& frame, const SlotContour& contour) {
    double most = 0;
    for (const auto& step : contour.steps) most = std::max(most, frame.depth_of(step.to));
    return most;
}

Point cut_from(const SlotContour& contour) {
    const std::size_t first = contour.conductor_from;
    // Where the body's lower side is itself an arc about the centre, the mouth's end is already on it.
    const auto& centre = contour.steps[first].centre;
    const bool on_arc = first > 0 && centre && *centre == Point{};
    return contour.steps[on_arc ? first - 1 : first].to;
}

double cut_x(const TileFrame& frame, const SlotContour& contour) {
    if (contour.conductor_from == 0) return frame.gap_radius;
    const Point from = cut_from(contour);
    return frame.outside() ? frame.chart.height(from) : from.x;
}

Result<SlotContour> slot_contour(const TileFrame& frame, const SlotValues& v, const Flank& flank) {
    if (auto problems = mouth_problems(frame, v); !problems.empty()) return problems;
    if (auto problems = depth_problems(frame, v); !problems.empty()) return problems;
    const double half = half_mouth(frame, v), tip = v.number("tip_depth");
    if (auto problems = notch_problems(frame, v, half); !problems.empty()) return problems;
    SlotContour out;
    const Point corner = frame.on_gap(half);
    const double angle = frame.chart.angle(corner);
    const Point end = by_angle(v) ? frame.on(tip, angle) : frame.at(tip, half);
    const bool on_arc = by_angle(v) && v.number("tip_angle") == 0;
    out.steps.push_back({corner});
    if (distance(corner, end) > 1e-6) out.steps.push_back({end});
    const double bottom = frame.radius(v.number("depth"));
    Point shoulder = end;
    if (on_arc) {
        shoulder = frame.place(frame.chart.height(end), frame.chart.angle(flank.to));
        if (frame.chart.angle(shoulder) < angle - 1e-9)
            return Problem{
                v.path("opening_angle"),
                fmt::format("The mouth is {:.2f} deg wider than the slot body; set tip_depth to 0 for an "
                            "open slot.",
                            2 * (angle - frame.chart.angle(shoulder)) / degree)};
        if (tip > 0 && distance(shoulder, end) > 1e-9) out.steps.push_back({shoulder, frame.middle()});
    } else if (const auto back = tip_back(frame, v, flank, end)) {
        shoulder = back->back();
        if (shoulder.y < end.y - 1e-9)
            return Problem{
                by_angle(v) ? v.path("opening_angle") : v.path("opening"),
                fmt::format("The mouth is {} wider than the slot behind it; make it narrower, or the slot "
                            "wider.",
                            millimetres(2 * (end.y - shoulder.y)))};
        for (Point p : *back)
            if (distance(out.steps.back().to, p) > 1e-7) out.steps.push_back({p});
    }
    if (frame.depth_of(shoulder) < std::min(2e-5, frame.depth_of(end)) - 1e-9 ||
        (tip > 0 && frame.depth_of(shoulder) < 0.2 * tip))
        return Problem{
            v.path("tip_angle"),
            fmt::format("The tooth tip's back meets the gap before the slot's side, by {}; raise the angle or "
                        "the tip's depth.",
                        millimetres(0.2 * tip - frame.depth_of(shoulder)))};
    if (const double rest = frame.dir() * (bottom - frame.chart.height(shoulder)); rest < 1e-5)
        return Problem{
            v.path("depth"),
            fmt::format("The tooth tip ends {} beyond the slot's bottom; make the slot deeper or the tip "
                        "thinner.",
                        millimetres(std::abs(rest)))};
    if (has_notches(v) && v.number("notch_depth") > 0.8 * std::min(tip, frame.depth_of(shoulder))) {
        const double deeper = v.number("notch_depth") - 0.8 * std::min(tip, frame.depth_of(shoulder));
        if (v.whole("notches") > 1 && tip > 0)
            return Problem{v.path("notch_depth"),
                           fmt::format("The notches are {} deeper than the tooth tip under them allows.",
                                       millimetres(deeper))};
        // What is as deep as the tip must lie over the tooth.
        const double beside = std::abs(frame.chart.turned(shoulder, -frame.half_pitch()).y),
                     half_notch = v.number("notch_width") / 2;
        if (half_notch > 0.8 * beside)
            return Problem{v.path("notch_width"),
                           fmt::format("The notches cut {} into the slots behind the tip.",
                                       millimetres(half_notch - 0.8 * beside))};
    }
    // Behind a flat tip the conductors begin beside the mouth: cut off at the shoulder they would leave a
    // sliver.
    const bool sloping = !on_arc && out.steps.size() > 1 && distance(shoulder, end) > 1e-6;
    const bool flat = sloping && shoulder_angle(frame, out.steps[out.steps.size() - 2].to, shoulder) < flat_tip;
    out.conductor_from = flat ? std::size_t(distance(corner, end) > 1e-6) : out.steps.size() - 1;
    const auto round = bottom_corner(frame, v, flank, bottom);
    const double end_depth = round ? frame.depth_of(round->from) : 0;
    if (!round || round->to.y < -1e-9 || round->centre.y < -1e-9)
        return Problem{
            v.path("corner_radius"),
            fmt::format("The rounded corners overlap by {} at the slot's centre; make the radius smaller.",
                        millimetres(round ? -2 * std::min(round->to.y, round->centre.y) : bottom))};
    if (end_depth <= frame.depth_of(shoulder) + 1e-6)
        return Problem{v.path("corner_radius"),
                       fmt::format("The rounded corner reaches {} past the tooth tip; make the radius smaller.",
                                   millimetres(frame.depth_of(shoulder) - end_depth + 1e-6))};
    if (const double wedge = v.given("wedge"); wedge > 0) {
        const double depth = frame.depth_of(shoulder) + wedge;
        const auto at = frame.outside() ? far_crossing(flank.from, flank.to, frame.radius(depth))
                                        : near_crossing(flank.from, flank.to, frame.radius(depth));
        if (wedge < 1e-4) return Problem{v.path("wedge"), "A wedge is at least 0.1 mm thick; 0 leaves it out."};
        if (!at || depth > end_depth - 1e-5)
            return Problem{v.path("wedge"),
                           fmt::format("The wedge fills the slot: it ends {} past the straight "
                                       "side; make it thinner.",
                                       millimetres(depth - end_depth))};
        if (!is_air(v.word("wedge_filling"))) {
            if (frame.depth_of(shoulder) < 1e-4)
                return Problem{
                    v.path("wedge_filling"),
                    "A wedge of a material of its own lies behind a tooth tip of 0.1 mm or more; give "
                    "the tip a depth, or leave the wedge as air."};
            out.wedge_from = out.steps.back().to;
        }
        out.steps.push_back({*at});
        out.conductor_from = out.steps.size() - 1;
    }
    if (frame.sharing == SlotSharing::Stacked) {
        out.cut_step = out.steps.size();
        out.cuts = parting_points(frame.chart, out.steps.back().to, round->from, std::max(2, frame.layers));
    }
    out.steps.push_back({round->from});
    if (distance(round->from, round->to) > 1e-7) out.steps.push_back({round->to, round->centre});
    if (v.word("bottom") == "round")
        out.steps.push_back({{bottom, 0}, frame.middle()});
    else
        out.steps.push_back({{bottom, 0}});
    if (distance(out.steps[out.steps.size() - 2].to, {bottom, 0}) < 1e-7) {
        out.steps.pop_back(); // rounded all over
        out.steps.back().to = {bottom, 0};
    }
    if (const double room = frame.dir() * (bottom - cut_x(frame, out)); room < 5e-5)
        return Problem{
            v.path("depth"),
            fmt::format("On its axis the slot's bottom lies {} above where the tooth tips end; make the "
                        "slot deeper.",
                        millimetres(5e-5 - room))};
    return out;
}

SlotArea slot_area(const Chart& chart, const SlotContour& contour, double liner) {
    if (contour.steps.empty()) return {};
    std::vector<Point> polygon = polyline(contour, contour.conductor_from);
    double wall = 0; // length of the half contour that the liner covers
    for (std::size_t i = 1; i < polygon.size(); ++i) wall += distance(polygon[i - 1], polygon[i]);
    const double start = chart.height(polygon.front()), to = chart.angle(polygon.front());
    for (int k = 0; k < 64; ++k) polygon.push_back(chart.place(start, to * k / 64.0)); // back along the arc
    double twice = 0;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        twice += cross(polygon[i], polygon[(i + 1) % polygon.size()]);
    return {std::abs(twice), std::max(0.0, std::abs(twice) - 2 * liner * wall)}; // half slot doubled
}

Result<SlotContour> contour_of(const TileFrame& frame, const SlotValues& values) {
    const SlotShape* shape = registry<SlotShape>().find(values.word("kind"));
    if (!shape) return SlotContour{};
    auto contour = shape->contour(frame, values);
    if (!contour) return contour;
    const double least = 2e-3 * frame.far_radius; // of yoke, so that there is something to mesh
    if (const double over = deepest(frame, *contour) - frame.thickness() + least; over > 0)
        return Problem{values.path("depth"),
                       fmt::format("The slots come {} too near to {}; make them less deep.", millimetres(over),
                                   values.far_side(frame))};
    return contour;
}

bool has_contour(const Values& values) {
    return registry<SlotShape>().find(values.word("stator.slot.kind")) != nullptr;
}

Result<SlotContour> contour_of(const TileFrame& frame, const Values& values) {
    return contour_of(frame, SlotValues(values, slots_of_stator()));
}

} // namespace mavlo
