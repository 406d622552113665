#include "machine/slots/slot_form.h"

#include "quantity/quantity.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double degree = 0.017453292519943295;
constexpr double flat_tip = 23.5 * degree; ///< backs that leave the shoulder at less are flat

bool by_angle(const Values& v) {
    return v.has("stator.slot.opening_angle");
}

/// Where the sloping back of the tooth's tip goes from the mouth's end: one slope, or two that change over half
/// way; ends on the flank.
std::optional<std::vector<Point>> tip_back(const TileFrame& frame, const Values& v, const Flank& flank,
                                           Point end) {
    const auto slope = [&](double angle) { return Point{frame.dir() * std::sin(angle), std::cos(angle)}; };
    const double first = v.number("stator.slot.tip_angle");
    const double second =
        v.is_auto("stator.slot.second_tip_angle") ? first : v.number("stator.slot.second_tip_angle");
    const auto straight = meeting(end, end + slope(first), flank.from, flank.to);
    if (!straight) return std::nullopt;
    if (second == first) return std::vector{*straight};
    const Point bend = 0.5 * (end + *straight);
    const auto shoulder = meeting(bend, bend + slope(second), flank.from, flank.to);
    if (!shoulder) return std::nullopt;
    return std::vector{bend, *shoulder};
}

std::optional<Fillet> bottom_corner(const TileFrame& frame, const Values& v, const Flank& flank,
                                    double bottom) {
    const double r = v.number("stator.slot.corner_radius");
    if (v.word("stator.slot.bottom") == "round")
        return fillet_on_circle(flank.from, flank.to, bottom, r, frame.outside() ? -1 : 1, frame.outside());
    const auto corner = meeting(flank.from, flank.to, {bottom, 0}, {bottom, 1});
    if (!corner) return std::nullopt;
    return fillet(flank.from, *corner, {bottom, 0}, r);
}

Problems depth_problems(const TileFrame& frame, const Values& v) {
    const double depth = v.number("stator.slot.depth"), room = frame.thickness() - depth;
    if (room > 1e-5) return {};
    return {
        {"stator.slot.depth",
         frame.outside()
             ? fmt::format("The slot's bottom lies {} beyond the stator's outer diameter.", millimetres(-room))
             : fmt::format("The slot's bottom lies {} inside the stator's bore.", millimetres(-room))}};
}

Problems mouth_problems(const TileFrame& frame, const Values& v) {
    const double width = 2 * half_mouth(frame, v), pitch = 2 * frame.gap_radius * std::sin(frame.half_pitch());
    if (width < pitch - 2e-5) return {};
    if (by_angle(v))
        return {{"stator.slot.opening_angle",
                 fmt::format("The mouths overlap by {:.2f} deg: {} of them have a pitch of {:.2f} deg.",
                             (v.number("stator.slot.opening_angle") - frame.pitch()) / degree, frame.pitches,
                             frame.pitch() / degree)}};
    return {{"stator.slot.opening",
             fmt::format(
                 "The mouth of {} is wider than the slot pitch of {} at the gap; make it at least {} narrower.",
                 millimetres(width), millimetres(pitch), millimetres(width - pitch))}};
}

/// The notches' places within the tile: evenly between the mouths.
std::vector<double> notch_angles(const TileFrame& frame, int count) {
    std::vector<double> angles;
    for (int k = 1; k <= count; ++k) {
        const double angle = frame.pitch() * k / (count + 1);
        if (angle < frame.half_pitch() + 1e-9) angles.push_back(std::min(angle, frame.half_pitch()));
    }
    return angles;
}

bool has_notches(const Values& v) {
    return v.has("stator.slot.notches") && v.whole("stator.slot.notches") > 0;
}

/// Of all corners: a flat bottom reaches further at its corners than on its axis.
double deepest(const TileFrame& frame, const SlotContour& contour) {
    double most = 0;
    for (const auto& step : contour.steps) most = std::max(most, frame.depth_of(step.to));
    return most;
}

Problems notch_problems(const TileFrame& frame, const Values& v, double mouth) {
    if (!has_notches(v)) return {};
    const int count = v.whole("stator.slot.notches");
    const double half = v.number("stator.slot.notch_width") / 2, depth = v.number("stator.slot.notch_depth");
    // Inside, teeth and notches come nearer to each other with the depth.
    const double nearest = std::min(frame.gap_radius, frame.radius(depth));
    const double apart = 2 * nearest * std::sin(frame.pitch() / (2 * (count + 1)));
    const double neighbour = count > 1 ? std::max(half, mouth) : mouth;
    if (half + neighbour > apart - 5e-5)
        return {{"stator.slot.notch_width",
                 fmt::format("The notches run {} into the mouth or each other; make them narrower or fewer.",
                             millimetres(half + neighbour - apart + 5e-5))}};
    if (depth > 0.5 * v.number("stator.slot.depth"))
        return {
            {"stator.slot.notch_depth", fmt::format("The notches are {} deeper than half the slot.",
                                                    millimetres(depth - 0.5 * v.number("stator.slot.depth")))}};
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
std::vector<Point> parting_points(Point a, Point b, int parts) {
    constexpr int steps = 400;
    const auto on_flank = [&](double t) { return a + t * (b - a); };
    std::vector<double> area(steps + 1, 0.0);
    for (int i = 0; i < steps; ++i) {
        const Point lower = on_flank(double(i) / steps), upper = on_flank(double(i + 1) / steps);
        const double middle = norm(on_flank((i + 0.5) / steps));
        area[std::size_t(i) + 1] = area[std::size_t(i)] + angle_of(on_flank((i + 0.5) / steps)) * middle *
                                                              std::abs(norm(upper) - norm(lower));
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
    const Point cut = frame.outside() ? Point{shoulder.y, -shoulder.x} : Point{0, -1};
    return std::atan2(std::abs(cross(cut, back)), dot(cut, back));
}

/// Where the cut begins that closes the conductors towards the mouth.
Point cut_from(const SlotContour& contour) {
    const std::size_t first = contour.conductor_from;
    // Where the body's lower side is itself an arc about the centre, the mouth's end is already on it.
    const auto& centre = contour.steps[first].centre;
    const bool on_arc = first > 0 && centre && *centre == Point{};
    return contour.steps[on_arc ? first - 1 : first].to;
}

/// Where it meets the slot's axis; the gap where there is none.
double cut_x(const TileFrame& frame, const SlotContour& contour) {
    if (contour.conductor_from == 0) return frame.gap_radius;
    const Point from = cut_from(contour);
    return frame.outside() ? norm(from) : from.x;
}

struct SlotDrawing {
    const TileFrame& frame;
    const Values& v;
    TileDrawing draw;

    void conductor(Point seed, int layer) {
        draw.region(seed, Use::Conductor, "stator.slot", "winding.conductor.material");
        draw.tile().regions.back().part = layer;
    }

    /// Parts the slot from this point of its contour to the axis: on a circle about the centre, inside
    /// straight, since a circle would bulge towards the gap there.
    void across(Point from, double x, bool as_arc) {
        if (as_arc)
            draw.arc(from, {x, 0});
        else
            draw.line(from, {x, 0});
    }
    void across(Point from, double x) { across(from, x, frame.outside()); }

    /// Whether layers on top of each other are parted by an arc: as their bottom is, and as there is room for
    /// it.
    bool parts_by_arc(const SlotContour& contour, Point cut, double start) const {
        const auto& bottom = contour.steps.back();
        const double at = norm(cut);
        if (frame.outside()) return bottom.centre || at < bottom.to.x - 0.1 * (bottom.to.x - start);
        const Point front = cut_from(contour);
        const double dips = start * front.y / std::hypot(front.x - start, front.y); // of the straight front
        return bottom.centre && norm(*bottom.centre) == 0 && at < dips - 0.1 * (start - bottom.to.x);
    }

    void slot(const SlotContour& contour) {
        const auto& steps = contour.steps;
        const double start = cut_x(frame, contour), bottom = steps.back().to.x;
        // Straight it is square to the axis, but with room to what lies above and below: it then crosses
        // nothing.
        const double room = 0.4 / double(contour.cuts.size() + 1) * std::abs(start - bottom);
        std::vector<double> middles{start};
        std::vector<bool> by_arc;
        for (Point cut : contour.cuts) {
            const double dir = frame.dir(), least = dir * middles.back() + room,
                         most = dir * bottom - room * double(contour.cuts.size() + 1 - middles.size());
            by_arc.push_back(parts_by_arc(contour, cut, start));
            middles.push_back(by_arc.back() ? norm(cut)
                                            : dir * std::clamp(dir * cut.x, least, std::max(least, most)));
        }
        for (std::size_t i = 1; i < steps.size(); ++i) {
            Point from = steps[i - 1].to;
            for (std::size_t k = 0; i == contour.cut_step && k < contour.cuts.size(); ++k) {
                const Point cut = contour.cuts[k];
                if (steps[i].centre)
                    draw.arc(from, cut, *steps[i].centre);
                else
                    draw.line(from, cut);
                across(cut, middles[k + 1], by_arc[k]);
                from = cut;
            }
            if (steps[i].centre)
                draw.arc(from, steps[i].to, *steps[i].centre);
            else
                draw.line(from, steps[i].to);
        }
        const std::size_t first = contour.conductor_from;
        const double y = 1e-3 * steps.front().to.y;
        if (first) {
            across(cut_from(contour), start);
            mouth(contour, start, y);
        }
        middles.push_back(bottom);
        for (std::size_t layer = 0; layer + 1 < middles.size(); ++layer)
            conductor({(middles[layer] + middles[layer + 1]) / 2, y}, int(layer));
        draw.iron(
            polar((frame.radius(deepest(frame, contour)) + frame.far_radius) / 2, frame.half_pitch() / 2));
    }

    /// What lies before the conductors, on the slot's axis: the mouth, and a wedge of another material.
    void mouth(const SlotContour& contour, double start, double y) {
        double end = start;
        if (contour.wedge_from) {
            end = frame.outside() ? norm(*contour.wedge_from) : contour.wedge_from->x;
            across(*contour.wedge_from, end);
            draw.air({(end + start) / 2, y}, "slot.wedge", "stator.slot.wedge_filling");
        }
        draw.air({(frame.gap_radius + end) / 2, y}, "slot.mouth");
    }

    void notches() {
        if (!has_notches(v)) return;
        const double half = v.number("stator.slot.notch_width") / 2,
                     depth = v.number("stator.slot.notch_depth");
        for (double angle : notch_angles(frame, v.whole("stator.slot.notches"))) {
            const auto place = [&](double along, double y) { return rotated({along, y}, angle); };
            const double top = std::sqrt(frame.gap_radius * frame.gap_radius - half * half),
                         bottom = frame.gap_radius + frame.dir() * depth;
            const bool cut = angle > frame.half_pitch() - 1e-9; // half of it lies in the next tile
            draw.line(place(top, -half), place(bottom, -half));
            draw.line(place(bottom, -half), cut ? polar(bottom, angle) : place(bottom, half));
            if (!cut) draw.line(place(bottom, half), place(top, half));
            draw.air(place((top + bottom) / 2, -half / 2), "slot.notch");
            draw.hint(place(top, -half), std::min(half, depth) / 2);
        }
    }
};

} // namespace

double half_mouth(const TileFrame& frame, const Values& v) {
    return by_angle(v) ? frame.gap_radius * std::sin(v.number("stator.slot.opening_angle") / 2)
                       : v.number("stator.slot.opening") / 2;
}

Result<SlotContour> slot_contour(const TileFrame& frame, const Values& v, const Flank& flank) {
    if (auto problems = mouth_problems(frame, v); !problems.empty()) return problems;
    if (auto problems = depth_problems(frame, v); !problems.empty()) return problems;
    const double half = half_mouth(frame, v), tip = v.number("stator.slot.tip_depth");
    if (auto problems = notch_problems(frame, v, half); !problems.empty()) return problems;
    SlotContour out;
    const double angle = std::asin(half / frame.gap_radius);
    const Point corner = polar(frame.gap_radius, angle);
    const Point end = by_angle(v) ? frame.on(tip, angle) : frame.at(tip, half);
    const bool on_arc = by_angle(v) && v.number("stator.slot.tip_angle") == 0;
    out.steps.push_back({corner});
    if (distance(corner, end) > 1e-6) out.steps.push_back({end});
    const double bottom = frame.radius(v.number("stator.slot.depth"));
    Point shoulder = end;
    if (on_arc) {
        shoulder = polar(norm(end), angle_of(flank.to));
        if (angle_of(shoulder) < angle - 1e-9)
            return Problem{
                "stator.slot.opening_angle",
                fmt::format("The mouth is {:.2f} deg wider than the slot body; set tip_depth to 0 for an "
                            "open slot.",
                            2 * (angle - angle_of(shoulder)) / degree)};
        if (tip > 0 && distance(shoulder, end) > 1e-9) out.steps.push_back({shoulder, Point{}});
    } else if (const auto back = tip_back(frame, v, flank, end)) {
        shoulder = back->back();
        if (shoulder.y < end.y - 1e-9)
            return Problem{
                by_angle(v) ? "stator.slot.opening_angle" : "stator.slot.opening",
                fmt::format("The mouth is {} wider than the slot behind it; make it narrower, or the slot "
                            "wider.",
                            millimetres(2 * (end.y - shoulder.y)))};
        for (Point p : *back)
            if (distance(out.steps.back().to, p) > 1e-7) out.steps.push_back({p});
    }
    if (frame.depth_of(shoulder) < std::min(2e-5, frame.depth_of(end)) - 1e-9 ||
        (tip > 0 && frame.depth_of(shoulder) < 0.2 * tip))
        return Problem{
            "stator.slot.tip_angle",
            fmt::format("The tooth tip's back meets the gap before the slot's side, by {}; raise the angle or "
                        "the tip's depth.",
                        millimetres(0.2 * tip - frame.depth_of(shoulder)))};
    if (frame.dir() * (bottom - norm(shoulder)) < 1e-5)
        return Problem{
            "stator.slot.depth",
            fmt::format("The tooth tip ends {} beyond the slot's bottom; make the slot deeper or the tip "
                        "thinner.",
                        millimetres(std::abs(norm(shoulder) - bottom)))};
    if (has_notches(v) && v.number("stator.slot.notch_depth") > 0.8 * std::min(tip, frame.depth_of(shoulder))) {
        const double deeper =
            v.number("stator.slot.notch_depth") - 0.8 * std::min(tip, frame.depth_of(shoulder));
        if (v.whole("stator.slot.notches") > 1 && tip > 0)
            return Problem{"stator.slot.notch_depth",
                           fmt::format("The notches are {} deeper than the tooth tip under them allows.",
                                       millimetres(deeper))};
        // What is as deep as the tip must lie over the tooth.
        const double beside = std::abs(cross(polar(1, frame.half_pitch()), shoulder)),
                     half_notch = v.number("stator.slot.notch_width") / 2;
        if (half_notch > 0.8 * beside)
            return Problem{"stator.slot.notch_width",
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
            "stator.slot.corner_radius",
            fmt::format("The rounded corners overlap by {} at the slot's centre; make the radius smaller.",
                        millimetres(round ? -2 * std::min(round->to.y, round->centre.y) : bottom))};
    if (end_depth <= frame.depth_of(shoulder) + 1e-6)
        return Problem{"stator.slot.corner_radius",
                       fmt::format("The rounded corner reaches {} past the tooth tip; make the radius smaller.",
                                   millimetres(frame.depth_of(shoulder) - end_depth + 1e-6))};
    if (const double wedge = v.number("stator.slot.wedge"); wedge > 0) {
        const double depth = frame.depth_of(shoulder) + wedge;
        const auto at = frame.outside() ? far_crossing(flank.from, flank.to, frame.radius(depth))
                                        : near_crossing(flank.from, flank.to, frame.radius(depth));
        if (wedge < 1e-4)
            return Problem{"stator.slot.wedge", "A wedge is at least 0.1 mm thick; 0 leaves it out."};
        if (!at || depth > end_depth - 1e-5)
            return Problem{"stator.slot.wedge",
                           fmt::format("The wedge fills the slot: it ends {} past the straight "
                                       "side; make it thinner.",
                                       millimetres(depth - end_depth))};
        if (!is_air(v.word("stator.slot.wedge_filling"))) {
            if (frame.depth_of(shoulder) < 1e-4)
                return Problem{
                    "stator.slot.wedge_filling",
                    "A wedge of a material of its own lies behind a tooth tip of 0.1 mm or more; give "
                    "the tip a depth, or leave the wedge as air."};
            out.wedge_from = out.steps.back().to;
        }
        out.steps.push_back({*at});
        out.conductor_from = out.steps.size() - 1;
    }
    if (frame.sharing == SlotSharing::Stacked) {
        out.cut_step = out.steps.size();
        out.cuts = parting_points(out.steps.back().to, round->from, std::max(2, frame.layers));
    }
    out.steps.push_back({round->from});
    if (distance(round->from, round->to) > 1e-7) out.steps.push_back({round->to, round->centre});
    if (v.word("stator.slot.bottom") == "round")
        out.steps.push_back({{bottom, 0}, Point{}});
    else
        out.steps.push_back({{bottom, 0}});
    if (distance(out.steps[out.steps.size() - 2].to, {bottom, 0}) < 1e-7) {
        out.steps.pop_back(); // rounded all over
        out.steps.back().to = {bottom, 0};
    }
    if (const double room = frame.dir() * (bottom - cut_x(frame, out)); room < 5e-5)
        return Problem{
            "stator.slot.depth",
            fmt::format("On its axis the slot's bottom lies {} above where the tooth tips end; make the "
                        "slot deeper.",
                        millimetres(5e-5 - room))};
    return out;
}

Tile slot_tile(const TileFrame& frame, const SlotContour& contour, const Values& values) {
    SlotDrawing drawing{frame, values, TileDrawing(frame, "stator")};
    drawing.slot(contour);
    drawing.notches();
    for (const SizeHint& hint : contour.hints) drawing.draw.hint(hint.at, hint.size);
    return drawing.draw.finish();
}

SlotArea slot_area(const SlotContour& contour, double liner) {
    if (contour.steps.empty()) return {};
    std::vector<Point> polygon = polyline(contour, contour.conductor_from);
    double wall = 0; // length of the half contour that the liner covers
    for (std::size_t i = 1; i < polygon.size(); ++i) wall += distance(polygon[i - 1], polygon[i]);
    const double start = norm(polygon.front()), to = angle_of(polygon.front());
    for (int k = 0; k < 64; ++k) polygon.push_back(polar(start, to * k / 64.0)); // back along the arc
    double twice = 0;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        twice += cross(polygon[i], polygon[(i + 1) % polygon.size()]);
    return {std::abs(twice), std::max(0.0, std::abs(twice) - 2 * liner * wall)}; // half slot doubled
}

std::vector<DimensionMark> common_marks(const TileFrame& frame, const Values& v, const SlotContour& contour) {
    using Kind = DimensionMark::Kind;
    const double depth = v.number("stator.slot.depth"), tip = v.number("stator.slot.tip_depth"),
                 dir = frame.dir();
    const Point corner = contour.steps.front().to, end = contour.steps[contour.steps.size() > 1 ? 1 : 0].to;
    std::vector<DimensionMark> list{
        {"stator.slot.depth", Kind::Length, frame.at(0, 0), frame.at(depth, 0), frame.at(depth, 0), {dir, 0}}};
    if (by_angle(v)) {
        const double angle = angle_of(corner), radius = frame.radius(tip / 2);
        if (tip > 0 || !v.has("stator.slot.body_angle"))
            list.push_back({"stator.slot.opening_angle", Kind::Angle, polar(radius, -angle),
                            polar(radius, angle), polar(radius, angle),
                            (2 / radius) * Point{-std::sin(angle), std::cos(angle)}});
    } else {
        list.push_back({"stator.slot.opening", Kind::Length, {corner.x, -corner.y}, corner, corner, {0, 2}});
    }
    if (tip > 0)
        list.push_back({"stator.slot.tip_depth", Kind::Length, corner, end, end,
                        by_angle(v) ? dir * polar(1, angle_of(corner)) : Point{dir, 0}});
    if (has_notches(v)) {
        const double angle = frame.pitch() / (v.whole("stator.slot.notches") + 1);
        const Point across{-std::sin(angle), std::cos(angle)}, along = polar(dir, angle);
        const double half = v.number("stator.slot.notch_width") / 2, deep = v.number("stator.slot.notch_depth");
        const Point middle = polar(frame.gap_radius, angle);
        list.push_back({"stator.slot.notch_width", Kind::Length, middle - half * across, middle + half * across,
                        middle - half * across, -2.0 * across});
        list.push_back({"stator.slot.notch_depth", Kind::Length, middle, middle + deep * along,
                        middle + deep * along, along});
    }
    return list;
}

namespace {
bool notched(const Design& design) {
    return trim(design.text("stator.slot.notches")) != "0";
}

bool wedged(const Design& design) {
    const auto thickness = parse_quantity(design.text("stator.slot.wedge"));
    return !thickness || thickness->si > 0; // a formula may give one
}
} // namespace

std::vector<Parameter> slot_parameters(bool angles, const char* tip_angle, std::vector<Parameter> own,
                                       const char* corner_radius) {
    using namespace parameter;
    Parameter mouth = angles ? quantity("stator.slot.opening_angle", "deg", "= 0.2 * slot_angle", "Mouth angle",
                                        "β₀", "Angle between the radial sides of the mouth.", 0.01, 180)
                             : length("stator.slot.opening", "= 0.177 * slot_pitch", "Mouth", "b₀",
                                      "Width of the slot mouth at the gap.", 0.05, 500);
    return joined(
        {in_group("Stator", "Slots", 101, {std::move(mouth)}), in_group("Stator", "Slots", 103, std::move(own)),
         in_group("Stator", "Slots", 110,
                  {length("stator.slot.depth", "= 0.65 * stator_thickness", "Depth, whole", "h",
                          "From the gap to the bottom of the slot: tip, wedge and body together.", 0.1, 1000),
                   length("stator.slot.tip_depth", "= 0.07 * slot_pitch", "Tip depth", "h₀",
                          "Radial thickness of the tooth tip beside the mouth; 0: none.", 0, 500),
                   quantity("stator.slot.tip_angle", "deg", tip_angle, "Tip angle", "α",
                            "Rise of the tooth tip's back against the tangent.", 0, 75),
                   or_auto(quantity(
                       "stator.slot.second_tip_angle", "deg", "auto", "Second tip angle", "α₂",
                       "Rise of the half of the tip's back next to the slot's side; auto: the same.", 0, 75)),
                   choice("stator.slot.bottom", {"round", "flat"}, "Bottom",
                          "Round: on a circle about the machine's centre; flat: straight across the slot."),
                   length("stator.slot.corner_radius", corner_radius, "Corner radius", "r",
                          "Fillet at the bottom of the slot.", 0, 100),
                   length("stator.slot.liner", "0 mm", "Liner", "s_l",
                          "Thickness of the insulation on the slot's walls; it takes room from the conductors.",
                          0, 20),
                   length("stator.slot.wedge", "0 mm", "Wedge", "s_w",
                          "Thickness of the wedge that closes the slot behind the tooth tip.", 0, 100),
                   when(wedged, filling("stator.slot.wedge_filling", "Wedge's material",
                                        "Air for what is not magnetic; a magnetic wedge carries flux.")),
                   whole("stator.slot.notches", "0", "Notches a tooth", "",
                         "Auxiliary notches in the face of each tooth.", 0, 4),
                   when(notched, length("stator.slot.notch_width", "= 0.1 * slot_pitch", "Notch width", "b_n",
                                        "Width of a notch at the gap.", 0.05, 100)),
                   when(notched, length("stator.slot.notch_depth", "= 0.05 * slot_pitch", "Notch depth", "h_n",
                                        "Depth of a notch from the gap.", 0.02, 100))})});
}

Result<SlotContour> contour_of(const TileFrame& frame, const Values& values) {
    const SlotShape* shape = registry<SlotShape>().find(values.word("stator.slot.kind"));
    if (!shape) return SlotContour{};
    auto contour = shape->contour(frame, values);
    if (!contour) return contour;
    const double least = 2e-3 * frame.far_radius; // of yoke, so that there is something to mesh
    if (const double over = deepest(frame, *contour) - frame.thickness() + least; over > 0)
        return Problem{"stator.slot.depth",
                       fmt::format("The slots come {} too near to the stator's {}; make them less deep.",
                                   millimetres(over), frame.outside() ? "outside" : "hole")};
    return contour;
}

namespace {
Result<Tile> tile_of(const TileFrame& frame, const Values& values) {
    const auto contour = contour_of(frame, values);
    if (!contour) return contour.problems();
    // A straight cut towards the mouth dips deeper at its middle than at its ends, a flat bottom less deep.
    if (const double cut = cut_x(frame, *contour), bottom = contour->steps.back().to.x,
        least = (frame.outside() ? 0.02 : 0.05) * cut_from(*contour).y;
        contour->conductor_from > 0 && frame.dir() * (bottom - cut) < least)
        return Problem{
            "stator.slot.depth",
            fmt::format("The slot's bottom lies within {} of its mouth's end; make the slot deeper or "
                        "narrower.",
                        millimetres(std::max(0.0, frame.dir() * (bottom - cut))))};
    return slot_tile(frame, *contour, values);
}
} // namespace

RegisterSlot::RegisterSlot(std::string name, std::string tells, std::vector<Parameter> parameters,
                           Result<SlotContour> (*contour)(const TileFrame&, const Values&),
                           std::vector<DimensionMark> (*marks)(const TileFrame&, const Values&), int order) {
    Registry<SlotShape>::instance().add({name, contour, order});
    Registry<TileKind>::instance().add(
        {Side::Stator, std::move(name), std::move(tells), std::move(parameters), tile_of, marks, order});
}

} // namespace mavlo
