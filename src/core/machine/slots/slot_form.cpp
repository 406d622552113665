// A slot drawn into its tile, and its marks.

#include "machine/slots/slot_cut.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

/// The notches' places within the tile: evenly between the mouths.
std::vector<double> notch_angles(const TileFrame& frame, int count) {
    std::vector<double> angles;
    for (int k = 1; k <= count; ++k) {
        const double angle = frame.pitch() * k / (count + 1);
        if (angle < frame.half_pitch() + 1e-9) angles.push_back(std::min(angle, frame.half_pitch()));
    }
    return angles;
}

struct SlotDrawing {
    const TileFrame& frame;
    const SlotValues& v;
    TileDrawing draw;

    /// A coil side, or a bar.
    void conductor(Point seed, int layer) {
        const bool bar = v.place() == bars_of_rotor();
        draw.region(seed, bar ? Use::Solid : Use::Conductor, v.place().prefix,
                    bar ? v.path("material") : "winding.conductor.material");
        draw.tile().regions.back().part = layer;
    }

    /// Parts the slot from this point of its contour to the axis: on a circle about the centre, inside
    /// straight, since a circle would bulge towards the gap there.
    void across(Point from, double x, bool as_arc) {
        if (as_arc)
            draw.along(from, {x, 0});
        else
            draw.line(from, {x, 0});
    }
    void across(Point from, double x) { across(from, x, frame.outside()); }

    /// Whether layers on top of each other are parted by an arc: as their bottom is, and as there is room for
    /// it.
    bool parts_by_arc(const SlotContour& contour, Point cut, double start) const {
        const auto& bottom = contour.steps.back();
        const double at = frame.chart.height(cut);
        if (frame.chart.is_flat()) return true;
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
            middles.push_back(by_arc.back() ? frame.chart.height(cut)
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
        const double back = frame.radius(deepest(frame, contour)), far = frame.far_radius,
                     inside = far > 1e-6 ? far : hole_radius(back, frame.pairs());
        draw.iron(frame.place((back + inside) / 2, frame.half_pitch() / 2));
    }

    /// What lies before the conductors, on the slot's axis: the mouth, and a wedge of another material.
    void mouth(const SlotContour& contour, double start, double y) {
        double end = start;
        if (contour.wedge_from) {
            end = frame.outside() ? frame.chart.height(*contour.wedge_from) : contour.wedge_from->x;
            across(*contour.wedge_from, end);
            draw.air({(end + start) / 2, y}, "slot.wedge", v.path("wedge_filling"));
        }
        draw.air({(frame.gap_radius + end) / 2, y}, "slot.mouth");
    }

    void notches() {
        if (!has_notches(v)) return;
        const double half = v.number("notch_width") / 2, depth = v.number("notch_depth");
        for (double angle : notch_angles(frame, v.whole("notches"))) {
            const auto place = [&](double along, double y) { return frame.chart.turned({along, y}, angle); };
            const double top = frame.on_gap(half).x, bottom = frame.gap_radius + frame.dir() * depth;
            const bool cut = angle > frame.half_pitch() - 1e-9; // half of it lies in the next tile
            draw.line(place(top, -half), place(bottom, -half));
            draw.line(place(bottom, -half), cut ? frame.place(bottom, angle) : place(bottom, half));
            if (!cut) draw.line(place(bottom, half), place(top, half));
            draw.air(place((top + bottom) / 2, -half / 2), "slot.notch");
            draw.hint(place(top, -half), std::min(half, depth) / 2);
        }
    }
};

} // namespace

Tile slot_tile(const TileFrame& frame, const SlotContour& contour, const SlotValues& values, double bridge) {
    TileFrame cut = frame;
    cut.gap_radius = frame.radius(bridge);
    SlotDrawing drawing{cut, values, TileDrawing(frame, values.place().side)};
    if (bridge > 0) drawing.draw.along(contour.steps.front().to, {cut.gap_radius, 0});
    drawing.slot(contour);
    drawing.notches();
    for (const SizeHint& hint : contour.hints) drawing.draw.hint(hint.at, hint.size);
    return drawing.draw.finish();
}

std::vector<DimensionMark> common_marks(const TileFrame& frame, const SlotValues& v,
                                        const SlotContour& contour) {
    using Kind = DimensionMark::Kind;
    const double depth = v.number("depth"), tip = v.number("tip_depth"), dir = frame.dir();
    const Point corner = contour.steps.front().to, end = contour.steps[contour.steps.size() > 1 ? 1 : 0].to;
    std::vector<DimensionMark> list{
        {v.path("depth"), Kind::Length, frame.at(0, 0), frame.at(depth, 0), frame.at(depth, 0), {dir, 0}}};
    if (by_angle(v)) {
        const double angle = frame.chart.angle(corner), radius = frame.radius(tip / 2),
                     arm = frame.chart.arm(radius);
        if (tip > 0 || !v.has("body_angle"))
            list.push_back({v.path("opening_angle"), Kind::Angle, frame.place(radius, -angle),
                            frame.place(radius, angle), frame.place(radius, angle),
                            (2 / arm) * frame.chart.turned_direction({0, 1}, angle)});
    } else {
        list.push_back({v.path("opening"), Kind::Length, {corner.x, -corner.y}, corner, corner, {0, 2}});
    }
    if (tip > 0)
        list.push_back(
            {v.path("tip_depth"), Kind::Length, corner, end, end,
             by_angle(v) ? frame.chart.turned_direction({dir, 0}, frame.chart.angle(corner)) : Point{dir, 0}});
    if (has_notches(v)) {
        const double angle = frame.pitch() / (v.whole("notches") + 1);
        const Point across = frame.chart.turned_direction({0, 1}, angle),
                    along = frame.chart.turned_direction({dir, 0}, angle);
        const double half = v.number("notch_width") / 2, deep = v.number("notch_depth");
        const Point middle = frame.place(frame.gap_radius, angle);
        list.push_back({v.path("notch_width"), Kind::Length, middle - half * across, middle + half * across,
                        middle - half * across, -2.0 * across});
        list.push_back(
            {v.path("notch_depth"), Kind::Length, middle, middle + deep * along, middle + deep * along, along});
    }
    return list;
}

Result<Tile> slot_tile(const TileFrame& frame, const SlotValues& values) {
    const auto contour = contour_of(frame, values);
    if (!contour) return contour.problems();
    // A straight cut towards the mouth dips deeper at its middle than at its ends, a flat bottom less deep.
    if (const double cut = cut_x(frame, *contour), bottom = contour->steps.back().to.x,
        least = (frame.outside() ? 0.02 : 0.05) * cut_from(*contour).y;
        contour->conductor_from > 0 && frame.dir() * (bottom - cut) < least)
        return Problem{
            values.path("depth"),
            fmt::format("The slot's bottom lies within {} of its mouth's end; make the slot deeper or "
                        "narrower.",
                        millimetres(std::max(0.0, frame.dir() * (bottom - cut))))};
    return slot_tile(frame, *contour, values);
}

namespace {

Result<Tile> stator_tile(const TileFrame& frame, const Values& values) {
    return slot_tile(frame, SlotValues(values, slots_of_stator()));
}

std::vector<DimensionMark> stator_marks(const TileFrame& frame, const Values& values) {
    return slot_marks(frame, SlotValues(values, slots_of_stator()));
}

} // namespace

std::vector<DimensionMark> slot_marks(const TileFrame& frame, const SlotValues& values) {
    const SlotShape* shape = registry<SlotShape>().find(values.word("kind"));
    return shape ? shape->marks(frame, values) : std::vector<DimensionMark>{};
}

RegisterSlot::RegisterSlot(std::string name, std::string tells, std::vector<Parameter> parameters,
                           Result<SlotContour> (*contour)(const TileFrame&, const SlotValues&),
                           std::vector<DimensionMark> (*marks)(const TileFrame&, const SlotValues&), int order,
                           bool flat) {
    Registry<SlotShape>::instance().add({name, contour, marks, order});
    auto of_bars = bar_parameters(parameters);
    Registry<TileKind>::instance().add({Side::Bar, name, tells, std::move(of_bars), nullptr, nullptr, order});
    Registry<TileKind>::instance().add({Side::Stator, std::move(name), std::move(tells), std::move(parameters),
                                        stator_tile, stator_marks, order, nullptr, false, flat});
}

} // namespace mavlo
