#include "machine/rotors/pocket.h"

#include "quantity/constants.h"
#include "shape/faces.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double smallest = 2e-5; ///< of iron left anywhere, m: thinner cannot be meshed nor made

struct Drawing {
    TileDrawing& draw;
    const Pocket& p;

    /// One end of the bar, from its straight side at -half to that at +half: corner, flat piece, corner.
    void end(double s, double beyond) {
        const double side = p.half - p.corner;
        draw.arc(p.at(s, -p.half), p.at(s + beyond, -side), p.at(s, -side));
        draw.line(p.at(s + beyond, -side), p.at(s + beyond, side));
        draw.arc(p.at(s + beyond, side), p.at(s, p.half), p.at(s, side));
    }

    void bar() {
        const double from = p.magnet_from(), to = p.magnet_to();
        std::vector<double> cuts = pieces();
        if (!p.joined) end(0, -p.corner);
        end(p.length, p.corner);
        std::vector<double> along{0, p.length};
        along.insert(along.end(), cuts.begin(), cuts.end());
        std::sort(along.begin(), along.end());
        for (double n : {-p.half, p.half})
            for (std::size_t i = 0; i + 1 < along.size(); ++i)
                draw.line(p.at(along[i], n), p.at(along[i + 1], n));
        for (double s : cuts)
            if (s > 1e-9 || !p.joined) draw.line(p.at(s, -p.half), p.at(s, p.half));
        if (!p.joined) draw.air(p.at((from - p.corner) / 2, 0), "pocket", p.layer + "pocket.filling");
        draw.air(p.at((to + p.length + p.corner) / 2, 0), "pocket", p.layer + "pocket.filling");
    }

    /// Where the magnet is cut, its ends with it; adds its pieces.
    std::vector<double> pieces() {
        std::vector<double> cuts;
        const std::string name = p.layer + "magnet";
        // Across the pocket, and outwards on the first pole, on whichever side the gap is.
        const Remanence parallel{angle_of(p.out.x > 0 ? p.out : -1.0 * p.out), 0};
        const double width = p.magnet / p.pieces, start = p.joined ? -p.magnet / 2 : p.magnet_from();
        for (int k = 0; k <= p.pieces; ++k) {
            const double s = start + k * width, next = s + width;
            if (s > 1e-9 || (!p.joined && s > -1e-9)) cuts.push_back(s);
            if (k == p.pieces || (p.joined && next < 1e-9)) continue;
            const bool across = p.joined && s < -1e-9;
            draw.magnet(p.at((std::max(across ? 0.0 : s, 0.0) + next) / 2, 0), name, parallel,
                        across ? Spans::Axis : Spans::Nothing, k);
        }
        return cuts;
    }
};

/// Least distance from the points of one outline to another's polygon, negative when they overlap.
double apart(const std::vector<Point>& corners, const std::vector<Point>& b) {
    std::vector<Point> a; // the sides in small steps
    for (std::size_t i = 0; i < corners.size(); ++i)
        for (int k = 0; k < 12; ++k)
            a.push_back(corners[i] + (k / 12.0) * (corners[(i + 1) % corners.size()] - corners[i]));
    double least = 1e9;
    for (Point p : a)
        for (std::size_t i = 0; i < b.size(); ++i) {
            const Point from = b[i], to = b[(i + 1) % b.size()];
            const double length = dot(to - from, to - from);
            const double t = length > 0 ? std::clamp(dot(p - from, to - from) / length, 0.0, 1.0) : 0;
            least = std::min(least, distance(p, from + t * (to - from)));
        }
    for (Point p : a)
        if (contains(b, p)) return -least;
    return least;
}

} // namespace

double pocket_thickness(const Values& v, const std::string& layer) {
    const double clearance = v.number(layer + "magnet.clearance");
    const std::string& faces = clearance > 0 ? v.word(layer + "magnet.clearance_faces") : "none";
    return v.number(layer + "magnet.thickness") + (faces == "both" ? 2 : faces == "back" ? 1 : 0) * clearance;
}

Pocket pocket_of(const TileFrame& frame, const Values& v, const std::string& layer, double angle, double post) {
    Pocket p{};
    p.layer = layer;
    const double arm = angle / 2, towards = -frame.dir(); // along x, towards the gap
    p.along = {towards * std::cos(arm), std::sin(arm)};
    p.out = {towards * std::sin(arm), -std::cos(arm)};
    p.half = pocket_thickness(v, layer) / 2;
    p.corner = std::min(v.number(layer + "pocket.corner_radius"), p.half);
    p.magnet = v.number(layer + "magnet.width");
    p.bridge = v.number(layer + "pocket.bridge");
    p.post = post;
    p.pieces = v.whole(layer + "magnet.pieces");
    p.joined = post <= 0 && std::abs(angle - pi) < 1e-9;
    const double side = p.half - p.corner; // of a corner's centre from the middle line
    // The deepest point and the one nearest the pole's axis are a corner radius from a corner's centre.
    const double depth = v.number(layer + "pocket.depth") - p.corner - side * std::abs(p.out.x);
    p.inner = frame.at(depth, p.joined ? 0 : post / 2 + p.corner - side * p.out.y);
    // The bar goes on until the first of its outer corners touches the bridge.
    const Face face = eccentric_face(frame, v.number("rotor.face_eccentricity"));
    const double reach = face.behind(frame, p.bridge + p.corner);
    p.length = 1e9;
    for (double n : {-side, side}) {
        const Point from = p.at(0, n);
        const bool behind = frame.dir() * (distance(from, face.centre) - reach) > 0;
        const auto end = frame.outside() ? near_crossing(from, from + p.along, reach, face.centre)
                                         : far_crossing(from, from + p.along, reach, face.centre);
        // An outer rotor's bar may pass the gap's circle by: then the next pole ends it.
        p.length = std::min(p.length, end && behind               ? dot(*end - from, p.along)
                                      : behind && frame.outside() ? 1e8
                                                                  : -1);
    }
    // A bar across the pole, or one that passes the gap by, ends a bridge short of the next pole.
    const Point boundary = polar(1, frame.half_pitch());
    if (const double closing = -cross(p.along, boundary); (p.joined || p.length > 1e7) && closing > 1e-9) {
        const double nearest = cross(p.at(0, 0), boundary) - p.half * std::abs(cross(p.out, boundary));
        p.length = std::min(p.length, (nearest - p.bridge - p.corner) / closing);
    }
    return p;
}

std::vector<Point> Pocket::outline() const {
    std::vector<Point> points;
    const double side = half - corner;
    const auto round = [&](double s, double n, double from) {
        for (int k = 0; k <= 8; ++k) {
            const double t = from + k * pi / 16;
            points.push_back(at(s + corner * std::cos(t), n + corner * std::sin(t)));
        }
    };
    if (joined) {
        for (double n : {-half, half}) points.push_back(at(0, n));
        std::swap(points[0], points[1]);
    } else {
        round(0, side, pi / 2);
        round(0, -side, pi);
    }
    round(length, -side, 3 * pi / 2);
    round(length, side, 0);
    return points;
}

Problems pocket_problems(const TileFrame& frame, const std::vector<Pocket>& pockets) {
    const Point boundary = polar(1, frame.half_pitch());
    for (const Pocket& p : pockets) {
        if (p.length <= 0)
            return {{p.layer + "pocket.depth", "The pockets have no length before they meet the bridge; make "
                                               "them deeper, or the bridge and the "
                                               "post thinner."}};
        if (p.magnet > (p.joined ? 2 : 1) * p.length)
            return {{p.layer + "magnet.width",
                     fmt::format("The magnets are {} wider than the straight part of their pockets; make them "
                                 "narrower, or the pockets deeper.",
                                 millimetres(p.magnet - (p.joined ? 2 : 1) * p.length))}};
        double beside = 1e9, behind = 1e9, before = 1e9, axis = 1e9;
        for (Point at : p.outline()) {
            beside = std::min(beside, cross(at, boundary));
            behind = std::min(behind, frame.thickness() - frame.depth_of(at));
            before = std::min(before, frame.depth_of(at));
            if (!p.joined) axis = std::min(axis, at.y);
        }
        if (beside < smallest)
            return {
                {p.layer + (frame.outside() ? "pocket.depth" : "pocket.angle"),
                 fmt::format("The pockets reach {} past the middle between two poles; close the V, or make the "
                             "pockets less deep.",
                             millimetres(smallest - beside))}};
        if (axis < 2.5 * smallest)
            return {{p.layer + "pocket.post",
                     fmt::format("The two pockets of a pole run {} into each other; make the post wider.",
                                 millimetres(2 * (2.5 * smallest - axis)))}};
        if (behind < smallest)
            return {{p.layer + "pocket.depth",
                     fmt::format("The pockets cut {} into {}.", millimetres(smallest - behind),
                                 frame.outside() ? "the rotor's outside" : "the shaft")}};
        if (before < smallest)
            return {{p.layer + "pocket.depth", fmt::format("The pockets cut {} into the gap; make them deeper.",
                                                           millimetres(smallest - before))}};
    }
    for (std::size_t i = 1; i < pockets.size(); ++i) {
        const auto a = pockets[i].outline(), b = pockets[i - 1].outline();
        const double room = std::min(apart(a, b), apart(b, a));
        if (room < smallest)
            return {{pockets[i].layer + "pocket.depth",
                     fmt::format("The two layers of pockets are {} too near to each other.",
                                 millimetres(smallest - room))}};
    }
    return {};
}

void draw_pocket(TileDrawing& drawing, const TileFrame& frame, const Pocket& p) {
    Drawing{drawing, p}.bar();
    const double ends = std::max(p.corner, p.half / 2);
    const Point tip = (1 / norm(p.outer_end())) * p.outer_end();
    drawing.hint(frame.radius(p.bridge / 2) * tip, std::min(p.bridge / 1.5, ends));
    drawing.hint(p.outer_end(), ends);
    if (!p.joined) {
        drawing.hint({p.inner.x, p.post / 4}, std::min(std::max(p.post, 2e-4) / 1.5, ends));
        drawing.hint(p.at(p.magnet_from(), p.half), p.half / 1.5);
    }
    drawing.hint(p.at(p.magnet_to(), p.half), p.half / 1.5);
}

Result<Tile> pocket_tile(const TileFrame& frame, const Values& v, const std::vector<Pocket>& pockets) {
    if (auto problems = pocket_problems(frame, pockets); !problems.empty()) return problems;
    TileDrawing drawing(frame, "rotor");
    const double eccentricity = v.number("rotor.face_eccentricity");
    draw_face(drawing, frame, eccentric_face(frame, eccentricity), eccentricity);
    for (const Pocket& p : pockets) draw_pocket(drawing, frame, p);
    const double g = frame.half_pitch(), far = frame.far_radius;
    const double inside =
        far > 1e-6 ? far : hole_radius(norm(pockets.front().inner) - pockets.front().half, frame.pairs());
    drawing.iron(polar(inside + 0.01 * (frame.gap_radius - inside), g / 2));
    // Fine enough for what the slots' mouths do to the iron under them.
    drawing.tile().gap_size = std::min(g * frame.gap_radius / 24, 2 * pockets.front().half);
    drawing.tile().max_size = std::min(g * frame.gap_radius / 3, frame.thickness() / 4);
    return drawing.finish();
}

DimensionMark far_side_mark(const TileFrame& frame) {
    const double r = frame.far_radius;
    return {frame.far_path(), DimensionMark::Kind::Diameter, {-r, 0}, {r, 0}, {r, 0}, {2, 0}};
}

namespace {

std::vector<DimensionMark> pocket_marks(const TileFrame& frame, const Values& v, MakePocket make) {
    using Kind = DimensionMark::Kind;
    const Pocket p = make(frame, v);
    std::vector<DimensionMark> list;
    // How a handle follows a value is found by drawing the pocket again with the value a little changed.
    const auto add = [&](const char* name, Kind kind, Point a, Point b, auto handle) {
        const std::string path = p.layer + name;
        if (!v.has(path)) return;
        Values changed = v;
        const double step = 1e-6 * std::max(1e-3, v.number(path));
        changed.set_number(path, v.number(path) + step);
        const Point moved = (1 / step) * (handle(make(frame, changed), changed) - handle(p, v));
        const double square = dot(moved, moved);
        list.push_back({path, kind, a, b, handle(p, v), square > 0 ? (1 / square) * moved : Point{}});
    };
    const double deep = v.number(p.layer + "pocket.depth"), bridge = v.number(p.layer + "pocket.bridge");
    const double middle = (p.magnet_from() + p.magnet_to()) / 2;
    add("magnet.thickness", Kind::Length, p.at(middle, -p.half), p.at(middle, p.half),
        [](const Pocket& q, const Values&) { return q.at((q.magnet_from() + q.magnet_to()) / 2, q.half); });
    const Point start = p.joined ? p.at(-p.magnet_to(), p.half) : p.at(p.magnet_from(), p.half);
    add("magnet.width", Kind::Length, start, p.at(p.magnet_to(), p.half),
        [](const Pocket& q, const Values&) { return q.at(q.magnet_to(), q.half); });
    add("pocket.depth", Kind::Length, frame.at(deep, 0), frame.at(0, 0),
        [&](const Pocket& q, const Values& w) { return frame.at(w.number(q.layer + "pocket.depth"), 0); });
    if (!p.joined) {
        const double post = v.number(p.layer + "pocket.post") / 2;
        add("pocket.post", Kind::Length, {p.inner.x, -post}, {p.inner.x, post},
            [](const Pocket& q, const Values& w) {
                return Point{q.inner.x, w.number(q.layer + "pocket.post") / 2};
            });
    }
    const auto tip = [](const Pocket& q) { return (1 / norm(q.outer_end())) * q.outer_end(); };
    add("pocket.bridge", Kind::Length, frame.radius(bridge) * tip(p), frame.gap_radius * tip(p),
        [&](const Pocket& q, const Values& w) {
            return frame.radius(w.number(q.layer + "pocket.bridge")) * tip(q);
        });
    add("pocket.angle", Kind::Angle, {p.outer_end().x, -p.outer_end().y}, p.outer_end(),
        [](const Pocket& q, const Values&) { return q.outer_end(); });
    return list;
}

} // namespace

std::vector<DimensionMark> pocket_rotor_marks(const TileFrame& frame, const Values& v,
                                              std::initializer_list<MakePocket> layers) {
    std::vector<DimensionMark> list;
    for (MakePocket make : layers)
        for (auto& mark : pocket_marks(frame, v, make)) list.push_back(mark);
    list.push_back(far_side_mark(frame));
    return list;
}

} // namespace mavlo
