// Magnets buried in a V: two pockets a pole that open towards the gap, with rounded ends, a bridge under the
// surface and a post between them.

#include "machine/rotor_kind.h"
#include "machine/slot_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double smallest = 2e-5; ///< of iron left anywhere, m: thinner cannot be meshed nor made

/// The upper pocket of the north pole on +x: a bar with rounded corners along `along`, its face to the gap on
/// the side of `out`.
struct Pocket {
    double outer, shaft;    ///< radii of the rotor and the shaft
    Point along, out;       ///< unit vectors
    double half, corner;    ///< half the thickness; radius of the corners
    Point inner, outer_end; ///< middles between the corners' centres, at the pole's axis and at the gap
    double length;          ///< between the two
    double magnet;          ///< width of the magnet

    /// The point at distance `s` from the inner corners' centres and `n` from the middle line.
    Point at(double s, double n) const { return inner + s * along + n * out; }
};

Pocket pocket_of(const RotorFrame& frame, const Values& v) {
    Pocket p{};
    p.outer = frame.outer_radius;
    p.shaft = v.number("rotor.shaft_diameter") / 2;
    const double arm = v.number("rotor.pocket.angle") / 2; // against the pole's axis
    p.along = polar(1, arm);
    p.out = {p.along.y, -p.along.x};
    p.half = v.number("rotor.magnet.thickness") / 2;
    p.corner = std::min(v.number("rotor.pocket.corner_radius"), p.half);
    p.magnet = v.number("rotor.magnet.width");
    const double side = p.half - p.corner; // of a corner's centre from the middle line
    // The deepest point and the one nearest the pole's axis are a corner radius from a corner's centre.
    p.inner = {p.outer - v.number("rotor.pocket.depth") + p.corner + side * p.out.x,
               v.number("rotor.pocket.post") / 2 + p.corner - side * p.out.y};
    // The bar goes on until the first of its outer corners touches the bridge.
    const double reach = p.outer - v.number("rotor.pocket.bridge") - p.corner;
    p.length = -1;
    for (double n : {-side, side}) {
        const Point from = p.at(0, n);
        const double b = dot(from, p.along), c = dot(from, from) - reach * reach;
        const double s = b * b > c ? -b + std::sqrt(b * b - c) : -1;
        p.length = n == -side ? s : std::min(p.length, s);
    }
    p.outer_end = p.at(p.length, 0);
    return p;
}

Problems collisions(const RotorFrame& frame, const Pocket& p) {
    if (frame.outer_radius <= 0)
        return {{"gap", fmt::format("The gap leaves no room for a rotor: the bore's radius is {} too small.",
                                    millimetres(-frame.outer_radius))}};
    if (p.length <= 0)
        return {{"rotor.pocket.depth",
                 "The pockets have no length between the post and the bridge; make them deeper, or the bridge "
                 "and the post thinner."}};
    if (p.magnet > p.length)
        return {{"rotor.magnet.width",
                 fmt::format("The magnets are {} wider than the straight part of their pockets; make them "
                             "narrower, or the pockets deeper.",
                             millimetres(p.magnet - p.length))}};
    const Point boundary = polar(1, frame.half_pitch());
    double clearance = 1e9, deepest = 1e9;
    for (double s : {0.0, p.length})
        for (double n : {p.corner - p.half, p.half - p.corner}) {
            clearance = std::min(clearance, cross(p.at(s, n), boundary) - p.corner);
            deepest = std::min(deepest, norm(p.at(s, n)) - p.corner);
        }
    if (clearance < smallest)
        return {{"rotor.pocket.angle",
                 fmt::format("The pockets reach {} past the middle between two poles; close the V, or make the "
                             "pockets less deep.",
                             millimetres(smallest - clearance))}};
    if (deepest - p.shaft < smallest)
        return {{"rotor.pocket.depth",
                 fmt::format("The pockets cut {} into the shaft.", millimetres(p.shaft + smallest - deepest))}};
    return {};
}

struct Drawing {
    const Pocket& p;
    Cell& cell;
    int at(double s, double n) { return cell.outline.add(p.at(s, n)); }

    /// One end of the bar, from its straight side at -half to that at +half: corner, flat piece, corner.
    void end(double s, double beyond) {
        const double side = p.half - p.corner;
        const int low = at(s + beyond, -side), high = at(s + beyond, side);
        cell.outline.arc(at(s, -p.half), low, p.at(s, -side));
        if (low != high) cell.outline.line(low, high);
        cell.outline.arc(high, at(s, p.half), p.at(s, side));
    }

    void straight(double from, double to, double n) {
        if (at(from, n) != at(to, n)) cell.outline.line(at(from, n), at(to, n));
    }

    void bar() {
        const double rest = (p.length - p.magnet) / 2, to = p.length - rest;
        end(0, -p.corner);
        end(p.length, p.corner);
        for (double n : {-p.half, p.half}) {
            straight(0, rest, n);
            straight(rest, to, n);
            straight(to, p.length, n);
        }
        for (double s : {rest, to}) cell.outline.line(at(s, -p.half), at(s, p.half));
        cell.regions.push_back(
            {p.at(p.length / 2, 0), Role::Magnet, 0, Magnetisation::Parallel, angle_of(p.out)});
        cell.regions.push_back({p.at((rest - p.corner) / 2, 0), Role::Air, 0, Magnetisation::None});
        cell.regions.push_back({p.at(to + (rest + p.corner) / 2, 0), Role::Air, 0, Magnetisation::None});
    }

    void frame(double half_pitch, double hole) {
        Outline& o = cell.outline;
        auto ring = [&](double radius) { o.arc(o.add(polar(radius, 0)), o.add(polar(radius, half_pitch))); };
        const bool has_shaft = p.shaft > 1e-6;
        for (double angle : {0.0, half_pitch}) {
            const int in = o.add(polar(hole, angle)), out = o.add(polar(p.outer, angle));
            if (!has_shaft) {
                o.line(in, out);
                continue;
            }
            const int middle = o.add(polar(p.shaft, angle));
            o.line(in, middle);
            o.line(middle, out);
        }
        ring(hole);
        if (has_shaft) ring(p.shaft);
        ring(p.outer);
        const double inside = has_shaft ? p.shaft : hole;
        cell.regions.push_back({polar(inside + 0.01 * (p.outer - inside), half_pitch / 2), Role::RotorIron, 0,
                                Magnetisation::None});
        if (has_shaft)
            cell.regions.push_back(
                {polar((hole + p.shaft) / 2, half_pitch / 2), Role::Shaft, 0, Magnetisation::None});
    }
};

Result<Cell> cell(const RotorFrame& frame, const Values& v) {
    if (frame.outer_radius <= 0) return collisions(frame, {});
    const Pocket p = pocket_of(frame, v);
    if (auto problems = collisions(frame, p); !problems.empty()) return problems;
    const double g = frame.half_pitch();
    Cell out;
    out.half_pitch = g;
    out.gap_radius = out.iron_radius = p.outer;
    out.other_radius = hole_radius(p.shaft > 1e-6 ? p.shaft : norm(p.inner) - p.half, frame.poles / 2);
    Drawing drawing{p, out};
    drawing.bar();
    drawing.frame(g, out.other_radius);
    const double bridge = v.number("rotor.pocket.bridge"), post = v.number("rotor.pocket.post");
    const Point tip = (1 / norm(p.outer_end)) * p.outer_end;
    const double ends = std::max(p.corner, p.half / 2);
    out.hints = {{(p.outer - bridge / 2) * tip, std::min(bridge / 1.5, ends)},
                 {p.outer_end, ends},
                 {{p.inner.x, post / 4}, std::min(std::max(post, 2e-4) / 1.5, ends)},
                 {p.at((p.length - p.magnet) / 2, p.half), p.half / 1.5},
                 {p.at((p.length + p.magnet) / 2, p.half), p.half / 1.5}};
    // Fine enough for what the slots' mouths do to the iron under them.
    out.gap_size = std::min(g * p.outer / 24, 2 * p.half);
    out.max_size = std::min(g * p.outer / 3, (p.outer - p.shaft) / 4);
    return out;
}

using Place = Point (*)(const Pocket&, const Values&);

/// What moving the handle by a vector changes, from how the handle follows the value: a change of one dimension
/// shifts the whole pocket.
Point gradient_of(const RotorFrame& frame, const Values& v, const char* path, Place handle) {
    Values changed = v;
    const double step = 1e-6 * std::max(1e-3, v.number(path));
    changed.set_number(path, v.number(path) + step);
    const Point moved =
        (1 / step) * (handle(pocket_of(frame, changed), changed) - handle(pocket_of(frame, v), v));
    const double square = dot(moved, moved);
    return square > 0 ? (1 / square) * moved : Point{};
}

double magnet_end(const Pocket& p) {
    return (p.length + p.magnet) / 2;
}
Point tip_of(const Pocket& p) {
    return (1 / norm(p.outer_end)) * p.outer_end;
}

std::vector<DimensionMark> marks(const RotorFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const Pocket p = pocket_of(frame, v);
    std::vector<DimensionMark> list;
    const auto add = [&](const char* path, Kind kind, Point a, Point b, Place handle) {
        list.push_back({path, kind, a, b, handle(p, v), gradient_of(frame, v, path, handle)});
    };
    const double deep = p.outer - v.number("rotor.pocket.depth"), post = v.number("rotor.pocket.post") / 2;
    add("rotor.magnet.thickness", Kind::Length, p.at(p.length / 2, -p.half), p.at(p.length / 2, p.half),
        [](const Pocket& q, const Values&) { return q.at(q.length / 2, q.half); });
    add("rotor.magnet.width", Kind::Length, p.at(p.length - magnet_end(p), p.half), p.at(magnet_end(p), p.half),
        [](const Pocket& q, const Values&) { return q.at(magnet_end(q), q.half); });
    add("rotor.pocket.depth", Kind::Length, {deep, 0}, {p.outer, 0}, [](const Pocket& q, const Values& w) {
        return Point{q.outer - w.number("rotor.pocket.depth"), 0};
    });
    add("rotor.pocket.post", Kind::Length, {p.inner.x, -post}, {p.inner.x, post},
        [](const Pocket& q, const Values& w) {
            return Point{q.inner.x, w.number("rotor.pocket.post") / 2};
        });
    add("rotor.pocket.bridge", Kind::Length, (p.outer - v.number("rotor.pocket.bridge")) * tip_of(p),
        p.outer * tip_of(p), [](const Pocket& q, const Values& w) {
            return (q.outer - w.number("rotor.pocket.bridge")) * tip_of(q);
        });
    add("rotor.pocket.angle", Kind::Angle, {p.outer_end.x, -p.outer_end.y}, p.outer_end,
        [](const Pocket& q, const Values&) { return q.outer_end; });
    list.push_back({"rotor.shaft_diameter", Kind::Diameter, {-p.shaft, 0}, {p.shaft, 0}, {p.shaft, 0}, {2, 0}});
    return list;
}

const RegisterRotorKind registered{
    {"vee",
     {"rotor.shaft_diameter", "rotor.magnet.width", "rotor.magnet.thickness", "rotor.pocket.angle",
      "rotor.pocket.depth", "rotor.pocket.bridge", "rotor.pocket.post", "rotor.pocket.corner_radius",
      "rotor.magnet.segments", "rotor.magnet.grade", "rotor.magnet.temperature"},
     cell,
     marks}};

} // namespace
} // namespace mavlo
