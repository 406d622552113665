// Flux barriers in layers: synchronous reluctance, with or without magnets in them.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "quantity/constants.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_barriers {
namespace {

using namespace parameter;

/// The upper half of one barrier: its two walls, each from the pole's axis (or the post) to the bridge.
struct Barrier {
    std::vector<Point> near,
        far; ///< corners of the wall next to the gap, and of the other; round: both ends only
    bool round;
    Point centre; ///< of round walls
    double near_radius, far_radius;
    double thickness; ///< on the axis
};

struct Layout {
    const TileFrame& frame;
    int count;
    bool round;
    double post, bridge, barrier, segment; ///< thicknesses on the axis
    Point centre;                          ///< of round barriers
    double reach;                          ///< depth that barriers share with the iron between them
};

/// Depth of the circle about `centre` that meets the gap's circle at right angles where poles meet: what lies
/// deeper belongs to neighbours.
double usable_depth(const TileFrame& frame) {
    const double g = frame.half_pitch();
    if (g > 1.4) return frame.thickness();
    const double centre = frame.gap_radius / std::cos(g), radius = frame.gap_radius * std::tan(g);
    return std::min(frame.thickness(), frame.dir() * (centre - frame.gap_radius) + radius);
}

Layout layout_of(const TileFrame& frame, const Values& v) {
    Layout l{frame,
             v.whole("rotor.barriers"),
             v.word("rotor.barrier.shape") == "round",
             v.number("rotor.barrier.post"),
             v.number("rotor.barrier.bridge"),
             0,
             0,
             {},
             0};
    const double g = frame.half_pitch();
    l.centre = {frame.gap_radius / std::cos(std::min(g, 1.4)), 0};
    l.reach = 0.97 * usable_depth(frame);
    const double share = v.number("rotor.barrier.share");
    l.barrier = share * l.reach / l.count;
    // Iron: half a segment before the next pole, whole ones between the barriers and towards the gap.
    l.segment = (1 - share) * l.reach / (l.count + 0.5);
    return l;
}

/// A wall at this depth on the axis: the corners from the axis to the bridge.
std::optional<std::vector<Point>> angular_wall(const Layout& l, double depth) {
    const TileFrame& f = l.frame;
    const double g = f.half_pitch(), away = f.gap_radius * std::sin(g) * (1 - depth / l.reach);
    const Point along = polar(1, g), inwards{along.y, -along.x}; // from the boundary to the axis
    const Point start = away * inwards;
    // The arm runs beside the boundary; at right angles to the axis it turns.
    const double x = f.radius(depth), bridge = f.radius(l.bridge);
    if (std::abs(along.x) < 1e-9) return std::nullopt;
    const Point turn = start + ((x - start.x) / along.x) * along;
    const auto end = far_crossing(start, start + along, bridge);
    if (!end || turn.y < l.post / 2 + 1e-5 || f.dir() * (norm(turn) - bridge) < 0.3 * l.barrier)
        return std::nullopt;
    if (f.thickness() - f.depth_of(turn) < 5e-5) return std::nullopt; // past the far side
    return std::vector<Point>{{x, l.post / 2}, turn, *end};
}

std::optional<std::vector<Point>> round_wall(const Layout& l, double depth) {
    const TileFrame& f = l.frame;
    const double radius = depth - f.dir() * (l.centre.x - f.gap_radius), bridge = f.radius(l.bridge);
    if (radius <= l.post / 2) return std::nullopt;
    const double start_x = l.centre.x + f.dir() * std::sqrt(radius * radius - l.post * l.post / 4);
    // Two circles: |p| = bridge, |p - c| = radius.
    const double c = l.centre.x, x = (bridge * bridge + c * c - radius * radius) / (2 * c);
    if (x * x >= bridge * bridge) return std::nullopt;
    const Point end{x, std::sqrt(bridge * bridge - x * x)};
    if (end.y < l.post / 2 + 1e-5) return std::nullopt;
    return std::vector<Point>{{start_x, l.post / 2}, end};
}

std::optional<Barrier> barrier_of(const Layout& l, int k) {
    const double from = l.segment + k * (l.barrier + l.segment), to = from + l.barrier;
    const auto wall = l.round ? round_wall : angular_wall;
    const auto near = wall(l, from), far = wall(l, to);
    if (!near || !far) return std::nullopt;
    const double shift = l.frame.dir() * (l.centre.x - l.frame.gap_radius);
    return Barrier{*near, *far, l.round, l.centre, from - shift, to - shift, l.barrier};
}

/// Where a magnet ends along a round barrier, as an angle about its centre seen from the axis.
double end_angle(const Barrier& b) {
    const auto of = [&](Point p) { return std::abs(std::atan2(p.y, std::abs(p.x - b.centre.x))); };
    return std::min(of(b.near.back()), of(b.far.back()));
}

void wall(TileDrawing& draw, const Barrier& b, const std::vector<Point>& points) {
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
        if (b.round)
            draw.arc(points[i], points[i + 1], b.centre);
        else
            draw.line(points[i], points[i + 1]);
}

/// Cuts across the barrier from wall to wall, and what lies between them.
void fill(TileDrawing& draw, const TileFrame& frame, const Barrier& b, const std::string& magnets, int layer,
          double post) {
    std::vector<Point> near{b.near.front()}, far{b.far.front()};
    std::vector<std::optional<double>> direction; ///< of each part's remanence; empty: air
    constexpr double towards = 0;                 // outwards on the first pole
    const std::size_t last = b.near.size() - 1;
    if (b.round) {
        const double end = end_angle(b);
        const auto at = [&](double radius, double angle) {
            return b.centre + radius * Point{frame.dir() * std::cos(angle), std::sin(angle)};
        };
        const auto cut = [&](double angle) {
            near.push_back(at(b.near_radius, angle));
            far.push_back(at(b.far_radius, angle));
        };
        // The normal of the wall at this angle, outwards.
        const auto normal = [&](double angle) { return frame.outside() ? angle : -angle; };
        if (magnets != "none") {
            cut(0.35 * end);
            direction.push_back(towards);
        }
        if (magnets == "all") {
            cut(0.88 * end);
            direction.push_back(normal(0.615 * end));
        }
    } else if (magnets != "none") {
        near.push_back(b.near[1]);
        far.push_back({b.far[1].x, b.near[1].y});
        direction.push_back(towards);
        if (magnets == "all") {
            const Point along = b.near[2] - b.near[1], arm = (1 / norm(along)) * along;
            // The bend stays air; the arm's magnet has square ends.
            const Point near_start =
                b.near[1] + std::max(0.0, dot(b.far[1] - b.near[1], arm)) * arm + 0.02 * along;
            const Point far_start = b.far[1] + dot(near_start - b.far[1], arm) * arm;
            const double rest = std::min(dot(b.near[2] - near_start, arm), dot(b.far[2] - far_start, arm));
            if (rest > 3 * b.thickness) {
                near.push_back(near_start);
                far.push_back(far_start);
                direction.push_back(std::nullopt);
                near.push_back(near_start + 0.92 * rest * arm);
                far.push_back(far_start + 0.92 * rest * arm);
                direction.push_back(angle_of(frame.outside() ? Point{-arm.y, arm.x} : Point{arm.y, -arm.x}));
            }
        }
    }
    direction.push_back(std::nullopt); // the end is air
    const auto chain = [&](const std::vector<Point>& wall_points, const std::vector<Point>& cuts) {
        std::vector<Point> all = wall_points;
        // Cuts lie on the wall in its order; corners keep their place between them.
        std::vector<Point> merged{wall_points.front()};
        std::size_t corner = 1;
        for (std::size_t i = 1; i < cuts.size(); ++i) {
            while (corner < last && !b.round &&
                   norm(wall_points[corner] - merged.back()) + 1e-9 < norm(cuts[i] - merged.back()) &&
                   std::abs(cross(wall_points[corner] - merged.back(), cuts[i] - merged.back())) >
                       1e-9 * norm(cuts[i] - merged.back()))
                merged.push_back(wall_points[corner++]);
            if (corner < last && !b.round && distance(wall_points[corner], cuts[i]) < 1e-9) ++corner;
            merged.push_back(cuts[i]);
        }
        while (corner <= last) merged.push_back(wall_points[corner++]);
        return merged;
    };
    wall(draw, b, chain(b.near, near));
    wall(draw, b, chain(b.far, far));
    for (std::size_t i = 1; i < near.size(); ++i) draw.line(near[i], far[i]);
    if (post > 0) draw.line(near[0], far[0]);
    const Point end_near = b.near.back(), end_far = b.far.back();
    near.push_back(end_near);
    far.push_back(end_far);
    for (std::size_t i = 0; i < direction.size(); ++i) {
        Point seed = 0.25 * (near[i] + far[i] + near[i + 1] + far[i + 1]);
        if (b.round) { // the middle of chords may lie outside thin arcs
            const Point from = seed - b.centre;
            seed = b.centre + ((b.near_radius + b.far_radius) / 2 / norm(from)) * from;
        } else if (!direction[i] && i + 1 == direction.size()) {
            // A little off the end, which is an arc: less than a magnet in the arm leaves.
            const double short_of = direction.size() > 2 ? 0.03 : 0.2;
            seed = 0.5 * (near.back() + far.back()) +
                   short_of * (0.5 * (b.near[1] + b.far[1]) - 0.5 * (near.back() + far.back()));
        }
        if (direction[i])
            draw.magnet(seed, "rotor.magnet", {*direction[i], 0},
                        i == 0 && post <= 0 ? Spans::Axis : Spans::Nothing, 10 * layer + int(i));
        else
            draw.air(seed, "barrier", "rotor.barrier.filling");
    }
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const Layout l = layout_of(frame, v);
    if (frame.pitches < 4 && l.round)
        return Problem{"rotor.poles", "Round barriers need four poles or more; take angular ones."};
    TileDrawing draw(frame, "rotor");
    const double g = frame.half_pitch(), r = frame.gap_radius;
    const std::string& magnets = v.word("rotor.barrier.magnets");
    for (int k = 0; k < l.count; ++k) {
        const auto b = barrier_of(l, k);
        if (!b)
            return Problem{
                "rotor.barrier.share",
                fmt::format("Barrier {} has no room between the post of {} and the bridge of {}; take fewer "
                            "barriers or a smaller share of air.",
                            k + 1, millimetres(l.post), millimetres(l.bridge))};
        const double wide = distance(b->near.back(), b->far.back());
        if (wide < 1e-4 || l.segment < 1e-4)
            return Problem{"rotor.barriers",
                           fmt::format("Barrier {} is only {} wide at the bridge; take fewer barriers.", k + 1,
                                       millimetres(wide))};
        draw.along(b->near.back(), b->far.back());
        fill(draw, frame, *b, magnets, k, l.post);
        draw.hint(frame.radius(l.bridge / 2) *
                      ((2 / norm(b->near.back() + b->far.back())) * (0.5 * (b->near.back() + b->far.back()))),
                  std::max(l.bridge / 1.5, 1e-4));
        for (Point p : {b->near.back(), b->far.back()}) draw.hint(p, std::max(l.bridge / 1.5, wide / 5));
        if (l.post > 0) draw.hint(b->near.front(), std::max(l.post / 1.5, l.barrier / 4));
        draw.hint(0.5 * (b->near.front() + b->far.front()), l.barrier / 1.5);
    }
    const double far = frame.far_radius;
    const double deepest = frame.radius(l.count * (l.barrier + l.segment));
    const double inside = far > 1e-6 ? far : hole_radius(deepest, frame.pairs());
    draw.iron(polar(inside + 0.3 * (deepest - inside), 1e-3 * g));
    draw.tile().gap_size = std::min(g * r / 24, 2 * l.barrier);
    draw.tile().max_size = std::min({g * r / 3, frame.thickness() / 4, l.segment});
    return draw.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    const Layout l = layout_of(frame, v);
    std::vector<DimensionMark> list{far_side_mark(frame)};
    const auto b = barrier_of(l, l.count - 1);
    if (!b) return list;
    const Point tip = (1 / norm(b->far.back())) * b->far.back(), inner = frame.radius(l.bridge) * tip;
    list.push_back({"rotor.barrier.bridge", DimensionMark::Kind::Length, frame.gap_radius * tip, inner, inner,
                    frame.dir() * tip});
    if (l.post > 0)
        list.push_back({"rotor.barrier.post",
                        DimensionMark::Kind::Length,
                        {b->near.front().x, -l.post / 2},
                        b->near.front(),
                        b->near.front(),
                        {0, 2}});
    return list;
}

bool has_magnets(const Design& design) {
    return design.text("rotor.barrier.magnets") != "none";
}
std::vector<Parameter> magnets_of_barriers() {
    auto list = magnet_parameters("rotor.", "= 0.05 * pole_pitch");
    list.erase(list.begin()); // as thick as the barrier
    for (Parameter& p : list) {
        p.used = has_magnets;
        if (p.path == "rotor.magnet.grade") p.standard = "Ferrite 28/26";
    }
    return list;
}

const Register<TileKind> registered{
    {Side::Rotor, "barriers", "Layers of flux barriers, with or without magnets in them.",
     joined({in_group(
                 "Rotor", "Barriers", 250,
                 {whole("rotor.barriers", "3", "Barriers a pole", "", "Layers of barriers in each pole.", 1, 6),
                  choice("rotor.barrier.shape", {"angular", "round"}, "Shape",
                         "Angular: straight walls; round: arcs about a point before the pole."),
                  number("rotor.barrier.share", "0.4", "Share of air", "k_w",
                         "Share of air in the barriers' depth along the pole's axis.", 0.05, 0.8),
                  length("rotor.barrier.bridge", "= max(0.5 mm, 0.012 * pole_pitch)", "Bridge", "b_b",
                         "Thickness of the iron between the barriers' ends and the gap.", 0.1, 100),
                  length("rotor.barrier.post", "0 mm", "Centre post", "b_p",
                         "Width of the iron across each barrier on the pole's axis; 0: none.", 0, 200),
                  choice("rotor.barrier.magnets", {"none", "centre", "all"}, "Magnets",
                         "In the middle of each barrier, or along all of it."),
                  filling("rotor.barrier.filling", "Filling", "What the barriers are filled with.")}),
             magnets_of_barriers()}),
     tile, marks, 7}};

} // namespace
} // namespace mavlo::rotor_barriers
