// Ring sectors of magnet let into the surface, with iron up to the gap between them.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_inset {
namespace {

using namespace parameter;

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const double g = frame.half_pitch(), edge = v.number("rotor.magnet.arc") * g, r = frame.gap_radius;
    const double thickness = v.number("rotor.magnet.thickness"), back = frame.radius(thickness);
    const double far = frame.far_radius, room = frame.thickness() - thickness;
    if (room < 1e-5)
        return Problem{"rotor.magnet.thickness",
                       fmt::format("The magnets reach {} past the rotor's yoke; make them thinner.",
                                   millimetres(1e-5 - room))};
    const int pieces = v.whole("rotor.magnet.pieces");
    const bool radial = v.word("rotor.magnet.magnetisation") == "radial";
    TileDrawing drawing(frame, "rotor");
    double before = 0;
    for (int k = 0; k < pieces; ++k) {
        const double to = edge * (2.0 * (k + 1) / pieces - 1), from = to - 2 * edge / pieces;
        if (to < 1e-9) continue;
        drawing.along(polar(back, before), polar(back, to));
        drawing.line(polar(back, to), polar(r, to));
        drawing.magnet(frame.on(thickness / 2, (before + to) / 2), "rotor.magnet",
                       radial ? Remanence{0, 1} : Remanence{}, from < -1e-9 ? Spans::Axis : Spans::Nothing, k);
        before = to;
    }
    const double inside = far > 1e-6 ? far : hole_radius(back, frame.pairs());
    drawing.iron(polar((back + inside) / 2, g / 2));
    const double fine = std::min({thickness / 4, g * r / 8, std::max((g - edge) * r / 2, 1e-4)});
    drawing.hint(polar(r, edge), fine);
    drawing.hint(polar(back, edge), 2 * fine);
    drawing.tile().gap_size = std::min(g * r / 20, thickness / 1.5);
    drawing.tile().max_size = std::min(g * r / 3, room / 3);
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const double thickness = v.number("rotor.magnet.thickness"), middle = frame.radius(thickness / 2);
    const double half = v.number("rotor.magnet.arc") * frame.half_pitch();
    const Point corner = polar(middle, half);
    return {{"rotor.magnet.thickness",
             Kind::Length,
             frame.at(thickness, 0),
             frame.at(0, 0),
             frame.at(thickness, 0),
             {frame.dir(), 0}},
            {"rotor.magnet.arc", Kind::Angle, polar(middle, -half), corner, corner,
             (1 / (middle * frame.half_pitch())) * Point{-std::sin(half), std::cos(half)}},
            far_side_mark(frame)};
}

const Register<TileKind> registered{
    {Side::Rotor, "inset", "Magnets let into the surface, with iron between them.",
     joined({pole_shift_parameters(),
             magnet_parameters("rotor.", "= min(0.15 * pole_pitch, 0.06 * gap_diameter)"),
             in_group("Rotor", "Magnets", 303,
                      {number("rotor.magnet.arc", "0.7", "Magnet arc", "α_m",
                              "Magnet arc as a fraction of the pole pitch.", 0.05, 0.99),
                       choice("rotor.magnet.magnetisation", {"radial", "parallel"}, "Magnetisation",
                              "Direction of the remanence: on radii, or parallel to the pole's axis.")})}),
     tile, marks, 1}};

} // namespace
} // namespace mavlo::rotor_inset
