// Salient poles of iron without magnets: reluctance machines.

#include "machine/rotors/face.h"
#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "quantity/constants.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_salient {
namespace {

using namespace parameter;

struct Pole {
    Point tip;     ///< corner at the face
    Point foot;    ///< where the side meets the ground circle
    double ground; ///< radius of the ground between the poles
    double fillet;
};

Pole pole_of(const TileFrame& frame, const Values& v) {
    const double half = v.number("rotor.pole_arc") / 2, ground = frame.radius(v.number("rotor.pole_depth"));
    const Face face = eccentric_face(frame, v.number("rotor.face_eccentricity"));
    const Point tip = *far_crossing({}, polar(1, half), face.radius, face.centre);
    if (v.word("rotor.pole_sides") == "radial")
        return {tip, polar(ground, half), ground, v.number("rotor.pole_fillet")};
    return {tip,
            {std::sqrt(std::max(0.0, ground * ground - tip.y * tip.y)), tip.y},
            ground,
            v.number("rotor.pole_fillet")};
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const double g = frame.half_pitch(), half = v.number("rotor.pole_arc") / 2,
                 depth = v.number("rotor.pole_depth");
    const double eccentricity = v.number("rotor.face_eccentricity");
    if (half > g - 1e-4)
        return Problem{"rotor.pole_arc",
                       fmt::format("The poles overlap by {:.2f} deg: {} of them have a pitch of {:.2f} deg.",
                                   2 * (half - g) / degree, frame.pitches, 2 * g / degree)};
    if (const double over = depth - frame.thickness() + 2e-5; over > 0)
        return Problem{"rotor.pole_depth",
                       fmt::format("The gaps between the poles cut {} into {}.", millimetres(over),
                                   frame.outside() ? "the rotor's outside" : "the shaft")};
    if (half > 65 * degree && v.word("rotor.pole_sides") == "parallel")
        return Problem{"rotor.pole_arc",
                       fmt::format("Poles with parallel sides cannot reach {:.1f} deg from their axis; "
                                   "make the arc smaller or the sides radial.",
                                   half / degree)};
    const Pole p = pole_of(frame, v);
    if (p.tip.y >= p.ground * 0.999 || angle_of(p.foot) > g - 1e-4)
        return Problem{
            "rotor.pole_arc",
            fmt::format("The poles' parallel sides meet above the ground, by {}; make the "
                        "poles narrower or less deep.",
                        millimetres(2 * std::max(p.tip.y - p.ground, (angle_of(p.foot) - g) * p.ground)))};
    if (frame.depth_of(p.tip) > depth - 1e-5)
        return Problem{"rotor.face_eccentricity",
                       "The eccentric face leaves no height to the poles' sides; make it smaller."};
    TileDrawing drawing(frame, "rotor");
    // A fillet touches the side and the ground circle.
    Point side_end = p.foot, ground_start = p.foot;
    if (p.fillet > 0) {
        // The fillet lies in the air beside the pole.
        const auto round =
            fillet_on_circle(p.tip, p.foot, p.ground, p.fillet, frame.outside() ? 1 : -1, frame.outside());
        if (!round || angle_of(round->to) > g - 1e-6 ||
            frame.depth_of(round->from) < frame.depth_of(p.tip) + 1e-6)
            return Problem{"rotor.pole_fillet",
                           "The fillets at the poles' feet meet each other or the face; make them smaller."};
        side_end = round->from;
        ground_start = round->to;
        drawing.arc(side_end, ground_start, round->centre);
    }
    drawing.line(p.tip, side_end);
    drawing.along(ground_start, polar(p.ground, g));
    const double r = frame.gap_radius, fine = std::min(half * r / 6, frame.gap);
    if (eccentricity > 0) {
        const Face face = eccentric_face(frame, eccentricity);
        drawing.arc({r, 0}, p.tip, face.centre);
        drawing.lift_gap(face_layer * frame.gap);
        for (int k = 0; k <= 6; ++k)
            drawing.hint(*far_crossing({}, polar(1, half * k / 6), face.radius, face.centre),
                         1.5 * face_layer * frame.gap + half * r / 60);
    } else {
        drawing.air(polar(frame.radius(depth / 2), (std::max(half, angle_of(p.foot)) + g) / 2), "between");
    }
    const double far = frame.far_radius, inside = far > 1e-6 ? far : hole_radius(p.ground, frame.pairs());
    drawing.iron(polar((p.ground + inside) / 2, g / 2));
    drawing.hint(p.tip, fine);
    drawing.hint(p.foot, 4 * fine);
    drawing.tile().gap_size = g * r / 20;
    drawing.tile().max_size = std::min({g * r / 3, frame.thickness() / 4, std::abs(p.ground - inside) / 2});
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const double half = v.number("rotor.pole_arc") / 2, depth = v.number("rotor.pole_depth"),
                 r = frame.gap_radius;
    const Point tip = polar(r, half), ground = polar(frame.radius(depth), frame.half_pitch());
    return {{"rotor.pole_arc", Kind::Angle, polar(r, -half), tip, tip,
             (2 / r) * Point{-std::sin(half), std::cos(half)}},
            {"rotor.pole_depth", Kind::Length, polar(r, frame.half_pitch()), ground, ground,
             frame.dir() * polar(1, frame.half_pitch())},
            far_side_mark(frame)};
}

const Register<TileKind> registered{
    {Side::Rotor, "salient", "Salient poles of iron, without magnets.",
     joined({in_group("Rotor", "Poles", 220,
                      {quantity("rotor.pole_arc", "deg", "= 0.45 * pole_angle", "Pole arc", "β_r",
                                "Angle of the pole's face about the machine's centre.", 0.1, 179),
                       length("rotor.pole_depth", "= 0.5 * rotor_thickness", "Pole depth", "h_r",
                              "From the gap to the ground between the poles.", 0.05, 1000),
                       choice("rotor.pole_sides", {"parallel", "radial"}, "Pole sides",
                              "Parallel to the pole's axis, or on radii."),
                       length("rotor.pole_fillet", "0 mm", "Foot fillet", "r_f",
                              "Fillet between a pole's side and the ground.", 0, 200)}),
             face_parameters()}),
     tile, marks, 8}};

} // namespace
} // namespace mavlo::rotor_salient
