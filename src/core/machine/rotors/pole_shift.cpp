#include "machine/rotors/pole_shift.h"

#include "quantity/constants.h"
#include "shape/faces.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <set>

namespace mavlo {
namespace {

using namespace parameter;

constexpr double here = 1e-9; ///< points nearer than this to a line lie on it, m
constexpr const char* path = "rotor.pole_shift";

bool on_line(Point p, double angle) {
    return std::abs(cross(polar(1, angle), p)) < here;
}

/// One of the four halves of the pair, in the frame of its tile: the north pole's axis lies at minus the shift,
/// the south pole's on both edges, so that the tile is cut where its poles are.
struct Half {
    double axis; ///< of its pole
    bool image;  ///< the mirrored half
    bool south;
    double boundary; ///< angle of the line to the other pole
    int number;

    Point operator()(Point p, double half_pitch) const {
        if (on_line(p, half_pitch)) return polar(norm(p), boundary);
        return rotated(image ? Point{p.x, -p.y} : p, axis);
    }
    Point turned(Point p) const { return rotated(image ? Point{p.x, -p.y} : p, axis); }
    /// A point between the pole and its neighbour keeps its share of the way.
    Point stretched(Point p, double half_pitch, double reach) const {
        const double angle = angle_of(p), room = std::abs(boundary - axis) - reach;
        if (angle <= reach) return turned(p);
        return turned(polar(norm(p), reach + (angle - reach) / (half_pitch - reach) * room));
    }
};

std::vector<Half> halves(double pitch, double shift) {
    const double after = (pitch - shift) / 2, before = -(pitch + shift) / 2;
    return {{-shift, false, false, after, 0},
            {-shift, true, false, before, 1},
            {-pitch, false, true, before, 2},
            {pitch, true, true, after, 3}};
}

/// Angle up to which a pole has something that shifts with it.
double reach_of(const Tile& half) {
    const double g = half.half_pitch();
    double reach = 0;
    for (const Edge& edge : half.outline.edges) {
        const auto points = points_along(half.outline, edge);
        // A ring that goes on to the next pole gives way; its end on this side does not.
        const bool gives_way = on_line(points.front(), g) || on_line(points.back(), g);
        for (const Point& p : points)
            if (!on_line(p, g) && (!gives_way || &p == &points.front() || &p == &points.back()))
                reach = std::max(reach, angle_of(p));
    }
    return reach;
}

const Polygon* innermost(const std::vector<Polygon>& all, Point seed) {
    const Polygon* best = nullptr;
    for (const Polygon& face : all)
        if (contains(face, seed) && (!best || area(face) < area(*best))) best = &face;
    return best;
}

bool magnets_touch(const Tile& half) {
    const auto all = faces(half.outline);
    return std::any_of(half.regions.begin(), half.regions.end(), [&](const Region& region) {
        const Polygon* face = region.magnet ? innermost(all, region.seed) : nullptr;
        return face &&
               std::any_of(face->begin(), face->end(), [&](Point p) { return on_line(p, half.half_pitch()); });
    });
}

Problems collisions(const Tile& half, double shift) {
    const double g = half.half_pitch(), room = 2 * (g - reach_of(half));
    if (half.pitch > 3)
        return {{path, "Poles are shifted in pairs, and two poles are but one; take 0 deg, or four poles or "
                       "more."}};
    if (magnets_touch(half))
        return {{path, "The magnets of neighbouring poles touch, so that none can be shifted; make their arc "
                       "smaller."}};
    if (std::abs(shift) > room - 1e-3 * g)
        return {{path, fmt::format("Poles shifted by {:.3f} deg run into each other; there is room for less "
                                   "than {:.3f} deg.",
                                   shift / degree, room / degree)}};
    for (const Edge& edge : half.outline.edges) {
        const bool from = on_line(half.outline.points[std::size_t(edge.from)], g),
                   to = on_line(half.outline.points[std::size_t(edge.to)], g);
        if (from != to && !(edge.centre && norm(*edge.centre) < here))
            return {{path, "Poles can be shifted only where plain rings part them; make the face concentric."}};
    }
    return {};
}

void add_edges(Outline& out, const Tile& tile, const Half& half) {
    const Outline& in = tile.outline;
    const double g = tile.half_pitch();
    for (const Edge& edge : in.edges) {
        const Point a = in.points[std::size_t(edge.from)], b = in.points[std::size_t(edge.to)];
        const auto along = [&](double angle) { return !edge.centre && on_line(a, angle) && on_line(b, angle); };
        // Within the pair neither the line between the poles nor the north pole's axis parts anything.
        if (along(g) || (along(0) && !half.south)) continue;
        Edge copy{out.add(half(a, g)), out.add(half(b, g)), edge.centre};
        if (copy.centre) copy.centre = half.turned(*copy.centre);
        out.edges.push_back(copy);
    }
}

Region placed(Region region, const Half& half, const Tile& tile, double reach, int parts) {
    region.seed = half.stretched(region.seed, tile.half_pitch(), reach);
    if (!region.magnet) return region;
    Remanence& m = *region.magnet;
    if (half.image) m.angle = -m.angle;
    m.angle += half.axis * (1 - m.turn) + (half.south ? std::numbers::pi : 0);
    if (half.south && region.spans == Spans::Axis) {
        region.spans = Spans::Boundary;
        region.part += 4 * parts;
    } else {
        region.spans = Spans::Nothing;
        region.part += half.number * parts;
    }
    return region;
}

/// One region a face: those that two halves share were named by both.
std::vector<Region> without_doubles(const std::vector<Region>& regions, const Outline& outline) {
    const auto all = faces(outline);
    std::set<const Polygon*> named;
    std::vector<Region> kept;
    for (const Region& region : regions)
        if (const Polygon* face = innermost(all, region.seed); face && named.insert(face).second)
            kept.push_back(region);
    return kept;
}

} // namespace

std::vector<Parameter> pole_shift_parameters() {
    return in_group("Rotor", "Rotor", 241,
                    {quantity(path, "deg", "0 deg", "Pole shift", "Δ_p",
                              "How far every second pole stands further round than evenly spaced poles would, "
                              "mechanical: the one half of the poles half of it before, the other behind.",
                              -45, 45)});
}

Result<Tile> shifted_pair(const Tile& half, double shift) {
    if (auto problems = collisions(half, shift); !problems.empty()) return problems;
    Tile pair = half;
    pair.mirrored = false;
    pair.pitch = 2 * half.pitch;
    pair.turn = shift / 2;
    pair.outline = {};
    pair.regions.clear();
    pair.hints.clear();
    const double reach = reach_of(half);
    int parts = 0;
    for (const Region& region : half.regions) parts = std::max(parts, region.part + 1);
    for (const Half& h : halves(half.pitch, shift)) {
        add_edges(pair.outline, half, h);
        for (const Region& region : half.regions) pair.regions.push_back(placed(region, h, half, reach, parts));
        for (const SizeHint& hint : half.hints) pair.hints.push_back({h.turned(hint.at), hint.size});
    }
    pair.regions = without_doubles(pair.regions, pair.outline);
    return pair;
}

} // namespace mavlo
