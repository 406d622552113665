// Magnets on the surface of a round yoke: ring sectors, or blocks with a flat back and a concentric or
// eccentric face.

#include "machine/axial.h"
#include "machine/rotors/face.h"
#include "machine/rotors/flat_magnets.h"
#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"
#include "quantity/constants.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_surface {
namespace {

using namespace parameter;

/// Half the pole: where the magnet's edge stands at the gap and at its back.
struct Shape {
    bool ring;           ///< radial sides and a concentric back
    bool full;           ///< the magnets touch
    double edge;         ///< angle of the magnet's edge at the gap
    double back;         ///< radius of the iron between the magnets
    double flat;         ///< x of a flat back
    double eccentricity; ///< of the face
    Face face;
    Point front_corner, back_corner;
};

Shape shape_of(const TileFrame& frame, const Values& v) {
    Shape s{};
    const double arc = v.number("rotor.magnet.arc"), thickness = v.number("rotor.magnet.thickness");
    const std::string& outline = v.word("rotor.magnet.outline");
    s.ring = outline == "arc";
    s.full = arc > 1 - 1e-9;
    s.edge = s.full ? frame.half_pitch() : arc * frame.half_pitch();
    s.eccentricity = outline == "loaf" ? v.number("rotor.magnet.eccentricity") : 0;
    s.face = eccentric_face(frame, s.eccentricity);
    s.flat = frame.radius(thickness);
    s.front_corner = polar(frame.gap_radius, s.edge);
    if (s.ring) {
        s.back = s.flat;
        s.back_corner = polar(s.back, s.edge);
        return s;
    }
    const double y = s.front_corner.y;
    if (s.eccentricity > 0) {
        const double along = std::sqrt(std::max(0.0, s.face.radius * s.face.radius - y * y));
        s.front_corner = {s.face.centre.x + along, y};
    }
    s.back_corner = {s.flat, y};
    s.back = norm(s.back_corner);
    return s;
}

Problems collisions(const TileFrame& frame, const Shape& s) {
    const double deepest = frame.outside() ? s.back : s.flat, room = frame.dir() * (frame.far_radius - deepest);
    if (!frame.outside() && s.flat <= 0)
        return {{"rotor.magnet.thickness",
                 fmt::format("The magnets reach {} past the machine's centre.", millimetres(-s.flat))}};
    if (room < 1e-5)
        return {{frame.far_path(),
                 frame.outside()
                     ? fmt::format("The magnets reach {} past the rotor's outside; there is no yoke left.",
                                   millimetres(-room))
                     : fmt::format("The shaft cuts {} into the magnets; there is no yoke left under them.",
                                   millimetres(-room))}};
    if (s.ring) return {};
    if (s.edge > 65 * degree)
        return {{"rotor.magnet.arc",
                 fmt::format(
                     "Magnets with parallel sides cannot reach {:.1f} deg from the pole's axis; make the arc "
                     "smaller or take the outline arc.",
                     s.edge / degree)}};
    if (const double rest = frame.depth_of(s.back_corner) - frame.depth_of(s.front_corner); rest < 2e-5)
        return {
            {"rotor.magnet.thickness",
             fmt::format("The magnets have no thickness left at their edges; make them {} thicker, or the arc "
                         "smaller.",
                         millimetres(2e-5 - rest))}};
    if (const double over = angle_of(s.back_corner) - frame.half_pitch() + 1e-6; over > 0)
        return {{"rotor.magnet.arc",
                 fmt::format("The magnets' backs overlap by {}; make the arc smaller or the magnets thinner.",
                             millimetres(2 * over * s.back))}};
    return {};
}

/// Turn of the remanence's direction with the angle that makes an ideal array with its field on the gap's side
/// (Z.Q. Zhu, D. Howe, IEE Proc. Electr. Power Appl. 148(4), 2001).
double halbach_turn(const TileFrame& frame) {
    const double pairs = frame.pitches / 2.0;
    return frame.outside() ? 1 + pairs : 1 - pairs;
}

/// The pieces of the upper half, each from `from` to `to` in angle.
void magnets(TileDrawing& drawing, const TileFrame& frame, const Values& v, const Shape& s) {
    const std::string& direction = v.word("rotor.magnet.magnetisation");
    const int pieces = v.whole("rotor.magnet.pieces");
    const double width = 2 * s.edge / pieces, y_width = 2 * s.back_corner.y / pieces;
    for (int k = 0; k < pieces; ++k) {
        const double to = -s.edge + (k + 1) * width, from = to - width;
        if (to < 1e-9) continue;
        const bool across = from < -1e-9;
        const double middle = (from + to) / 2, inside = (std::max(from, 0.0) + to) / 2;
        Remanence remanence; // parallel to the pole's axis
        if (direction == "radial") remanence = {0, 1};
        if (direction == "halbach") remanence = {halbach_turn(frame) * middle, 0};
        const double depth = frame.dir() * (s.flat - frame.gap_radius) / 2;
        const Point seed =
            s.ring ? frame.on(depth, inside) : frame.at(0.9 * 2 * depth, s.back_corner.y * inside / s.edge);
        drawing.magnet(seed, "rotor.magnet", remanence, across ? Spans::Axis : Spans::Nothing, k);
        if (k + 1 == pieces || across == false) {
            if (from > 1e-9) { // the cut where this piece begins
                const double y = -s.back_corner.y + k * y_width;
                if (s.ring)
                    drawing.line(polar(s.back, from), polar(frame.gap_radius, from));
                else
                    drawing.line({s.flat, y},
                                 {s.face.centre.x + std::sqrt(s.face.radius * s.face.radius - y * y), y});
            }
        }
    }
}

/// The magnets' face and back between the cuts that divide them, in the order from the axis.
void walls(TileDrawing& drawing, const Values& v, const Shape& s) {
    const int pieces = v.whole("rotor.magnet.pieces");
    std::vector<double> shares{0}; // of the half magnet
    for (int k = 1; k < pieces; ++k)
        if (const double share = -1 + 2.0 * k / pieces; share > 1e-9) shares.push_back(share);
    shares.push_back(1);
    for (std::size_t i = 0; i + 1 < shares.size(); ++i) {
        if (s.ring) {
            drawing.along(polar(s.back, shares[i] * s.edge), polar(s.back, shares[i + 1] * s.edge));
            continue;
        }
        const double y0 = shares[i] * s.back_corner.y, y1 = shares[i + 1] * s.back_corner.y;
        drawing.line({s.flat, y0}, {s.flat, y1});
        const auto front = [&](double y) {
            return Point{s.face.centre.x + std::sqrt(s.face.radius * s.face.radius - y * y), y};
        };
        if (s.eccentricity > 0) drawing.arc(front(y0), front(y1), s.face.centre);
    }
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    if (frame.chart.is_flat()) return flat_magnets(frame, v);
    const Shape s = shape_of(frame, v);
    if (auto problems = collisions(frame, s); !problems.empty()) return problems;
    const double g = frame.half_pitch(), far = frame.far_radius;
    TileDrawing drawing(frame, "rotor");
    walls(drawing, v, s);
    magnets(drawing, frame, v, s);
    if (!s.full || !s.ring) {
        drawing.along(s.back_corner, polar(s.back, g));
        drawing.line(s.front_corner, s.back_corner);
    }
    if (s.eccentricity > 0) {
        const double layer = face_layer * frame.gap;
        drawing.lift_gap(layer);
        for (int k = 0; k <= 6; ++k) {
            const double y = s.front_corner.y * k / 6;
            const Point p{s.face.centre.x + std::sqrt(s.face.radius * s.face.radius - y * y), y};
            drawing.hint(p, 1.5 * (layer + frame.depth_of(p)));
        }
    } else if (!s.full || !s.ring) {
        drawing.air(polar((frame.radius(0) + s.back) / 2, (std::max(s.edge, angle_of(s.back_corner)) + g) / 2),
                    "between");
    }
    const double inside = far > 1e-6 ? far : hole_radius(std::min(s.back, s.flat), frame.pairs());
    drawing.iron(polar(((frame.outside() ? s.back : s.flat) + inside) / 2,
                       frame.outside() || s.ring ? g / 2 : 1e-3 * g));
    const double thickness = frame.dir() * (s.flat - frame.gap_radius), r = frame.gap_radius;
    const double fine = std::min({thickness / 4, (g - s.edge) * r / 1.5 + (s.full ? 1.0 : 0.0), g * r / 6});
    drawing.hint(s.front_corner, fine);
    drawing.hint(s.back_corner, 2 * fine);
    const double yoke = frame.dir() * (inside - s.back);
    Tile& t = drawing.tile();
    t.iron_radius = s.back;
    t.gap_size = std::min(g * r / 5, thickness / 1.5);
    t.max_size = std::min(g * s.back / 1.5, yoke / 3);
    if (frame.pitches == 2 && !frame.outside()) t.max_size = (s.back - far) / 4;
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    if (frame.chart.is_flat()) return flat_magnet_marks(frame, v);
    using Kind = DimensionMark::Kind;
    const Shape s = shape_of(frame, v);
    const double middle = (frame.gap_radius + s.flat) / 2, half = s.edge;
    const Point corner = polar(middle, half);
    // The value is a fraction of the pole pitch: moving the edge by s changes it by s / (radius * half pitch).
    const double per_metre = 1 / (middle * frame.half_pitch());
    return {{"rotor.magnet.thickness",
             Kind::Length,
             {s.flat, 0},
             {frame.gap_radius, 0},
             {s.flat, 0},
             {frame.dir(), 0}},
            {"rotor.magnet.arc", Kind::Angle, polar(middle, -half), corner, corner,
             per_metre * Point{-std::sin(half), std::cos(half)}},
            far_side_mark(frame)};
}

bool is_sector(const Design& design) {
    return !is_axial(design) || design.text("rotor.magnet.outline") == "sector";
}
bool is_rectangle(const Design& design) {
    return is_axial(design) && design.text("rotor.magnet.outline") == "rectangle";
}
bool has_round_magnets(const Design& design) {
    return is_axial(design) && design.text("rotor.magnet.outline") == "round";
}

bool is_loaf(const Design& design) {
    return design.text("rotor.magnet.outline") == "loaf";
}

const Register<TileKind> registered{
    {Side::Rotor, "surface", "Magnets on the surface of a round yoke.",
     joined(
         {pole_shift_parameters(), magnet_parameters("rotor.", "= min(0.18 * pole_pitch, 0.06 * gap_diameter)"),
          in_group(
              "Rotor", "Magnets", 303,
              {when(is_sector, number("rotor.magnet.arc", "0.85", "Magnet arc", "α_m",
                                      "Magnet arc as a fraction of the pole pitch.", 0.05, 1)),
               when(is_rectangle, length("rotor.magnet.width", "= 0.7 * pole_pitch", "Magnet width", "w_m",
                                         "Of rectangular magnets, along the circumference.", 0.1, 1000)),
               when(has_round_magnets,
                    length("rotor.magnet.diameter", "= min(0.85 * pole_pitch, machine.active_width)",
                           "Magnet diameter", "d_m",
                           "Of round magnets, whose middles stand on the ring's mean radius.", 0.1, 1000)),
               choice(
                   "rotor.magnet.magnetisation", {"radial", "parallel", "halbach"}, "Magnetisation",
                   "Direction of the remanence: on radii, parallel to the pole's axis, or turning from piece "
                   "to piece as in a Halbach array."),
               when(is_radial,
                    choice("rotor.magnet.outline", {"arc", "flat-bottom", "loaf"}, "Outline",
                           "Arc: radial sides; flat-bottom: a flat back and parallel sides; loaf: its face is "
                           "eccentric too.")),
               when(is_flat, filling("rotor.magnet.between", "Between the magnets",
                                     "What fills the room between the magnets of a flat machine.")),
               when(is_axial, choice("rotor.magnet.outline", {"sector", "rectangle", "round"}, "Outline",
                                     "Of an axial machine's magnets seen along the axis.")),
               when(is_loaf,
                    length("rotor.magnet.eccentricity", "= 0.1 * gap_diameter", "Eccentricity", "e_m",
                           "How far the centre of the magnet's face lies off the machine's.", 0, 2000))})}),
     tile, marks, 0, nullptr, false, true}};

} // namespace
} // namespace mavlo::rotor_surface
