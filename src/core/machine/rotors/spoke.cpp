// Magnets like spokes between the poles, magnetised across, so that two feed each pole.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "quantity/constants.h"
#include "shape/fillet.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_spoke {
namespace {

using namespace parameter;

/// The upper half of the pole: its magnet stands on the boundary to the next pole.
struct Spoke {
    double half;         ///< of the pocket's thickness
    double depth, width; ///< of the magnet's face below the gap; along the spoke
    double bridge;       ///< iron over the pocket; 0: open to the gap
    double boundary;     ///< angle
    /// At `depth` from the gap along the boundary, `n` from it towards the pole's axis.
    Point at(const TileFrame& f, double deep, double n) const {
        return rotated({f.radius(deep), -n}, boundary);
    }
};

Spoke spoke_of(const TileFrame& frame, const Values& v) {
    return {pocket_thickness(v, "rotor.") / 2, v.number("rotor.pocket.depth"), v.number("rotor.magnet.width"),
            v.number("rotor.pocket.bridge"), frame.half_pitch()};
}

Problems collisions(const TileFrame& frame, const Spoke& s) {
    if (s.depth < s.bridge)
        return {{"rotor.pocket.depth", fmt::format("The magnets reach {} into the bridge over them.",
                                                   millimetres(s.bridge - s.depth))}};
    const double end = s.depth + s.width;
    if (const double over = end - frame.thickness() + 2e-5; over > 0)
        return {{"rotor.magnet.width",
                 fmt::format("The magnets cut {} into {}; make them shorter.", millimetres(over),
                             frame.outside() ? "the rotor's outside" : "the shaft")}};
    const double corner =
        std::min(frame.depth_of(s.at(frame, s.bridge, s.half)), frame.depth_of(s.at(frame, s.depth, s.half)));
    if (s.bridge > 0 && corner < std::max(0.3 * s.bridge, 2e-5))
        return {{"rotor.pocket.bridge",
                 fmt::format("The pockets' corners come within {} of the gap; make the bridge "
                             "thicker or the magnets thinner.",
                             millimetres(corner))}};
    if (const double over = frame.depth_of(s.at(frame, end, s.half)) - frame.thickness() + 2e-5; over > 0)
        return {{"rotor.magnet.thickness",
                 fmt::format("The magnets' corners reach {} past the rotor's far side.", millimetres(over))}};
    const double narrow = std::min(frame.radius(end), frame.radius(s.bridge));
    const double room = narrow * std::tan(std::min(frame.half_pitch(), 1.5)) - s.half;
    if (room < 2e-5)
        return {{"rotor.magnet.thickness",
                 fmt::format("The magnets are {} too thick: neighbours meet near the centre.",
                             millimetres(2 * (2e-5 - room)))}};
    return {};
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const Spoke s = spoke_of(frame, v);
    if (auto problems = collisions(frame, s); !problems.empty()) return problems;
    const double g = frame.half_pitch(), r = frame.gap_radius, end = s.depth + s.width;
    const auto at = [&](double deep, double n) { return s.at(frame, deep, n); };
    TileDrawing drawing(frame, "rotor");
    const double eccentricity = v.number("rotor.face_eccentricity");
    const Face face = eccentric_face(frame, eccentricity);
    const bool shaped = eccentricity > 0, open = s.bridge <= 0;
    const double face_depth =
        shaped ? std::max(0.0, frame.depth_of(*far_crossing({}, polar(1, g), face.radius, face.centre))) : 0;
    if (s.depth < face_depth + s.bridge - 1e-9)
        return Problem{
            "rotor.pocket.depth",
            fmt::format("The eccentric face cuts {} into the bridge over the magnets; make them deeper.",
                        millimetres(face_depth + s.bridge - s.depth))};
    const double top = open ? 0 : s.bridge + face_depth;
    if (shaped && open)
        return Problem{"rotor.pocket.bridge",
                       "An eccentric face needs a bridge over the magnets; give it a thickness."};
    draw_face(drawing, frame, face, eccentricity);
    const Point mouth = polar(r, g - std::asin(std::min(0.999, s.half / r)));
    const bool pocket = s.depth > top + 1e-7 || open;
    // Wall, magnet's two ends, and what lies over it.
    drawing.line(at(end, 0), at(end, s.half));
    drawing.line(at(s.depth, s.half), at(s.depth, 0));
    if (pocket) {
        drawing.line(at(s.depth, s.half), open ? mouth : at(top, s.half));
        if (!open) drawing.line(at(top, s.half), at(top, 0));
        if (frame.depth_of(at(s.depth, s.half)) > 1e-6 || !open)
            drawing.air(at((top + s.depth) / 2, s.half / 2), "pocket", "rotor.pocket.filling");
    }
    const int pieces = v.whole("rotor.magnet.pieces");
    // Two magnets feed the first pole, so that its flux goes outwards: inside towards its axis, outside away
    // from it.
    const double across = frame.outside() ? g + pi / 2 : g - pi / 2;
    for (int k = 0; k < pieces; ++k) {
        const double from = s.depth + s.width * k / pieces, to = from + s.width / pieces;
        drawing.line(at(from, s.half), at(to, s.half));
        if (k > 0) drawing.line(at(from, 0), at(from, s.half));
        drawing.magnet(at((from + to) / 2, s.half / 2), "rotor.magnet", {across, 0}, Spans::Boundary, k);
    }
    const double far = frame.far_radius, inside = far > 1e-6 ? far : frame.radius(end) * 0.9;
    drawing.iron(polar(std::max(r, inside) - 0.3 * std::abs(r - inside), 1e-3 * g));
    drawing.hint(at(s.bridge / 2, 0), std::max(s.bridge / 1.5, 1e-4));
    for (double deep : {s.depth, end}) drawing.hint(at(deep, s.half), s.half / 1.5);
    if (open) drawing.hint(mouth, s.half / 3);
    drawing.tile().gap_size = std::min(g * r / 20, 2 * s.half);
    drawing.tile().max_size = std::min(g * r / 3, frame.thickness() / 4);
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    using Kind = DimensionMark::Kind;
    const Spoke s = spoke_of(frame, v);
    const auto at = [&](double deep, double n) { return s.at(frame, deep, n); };
    const double middle = s.depth + s.width / 2;
    const Point along = frame.dir() * polar(1, s.boundary), across = rotated({0, -1}, s.boundary);
    return {
        {"rotor.magnet.thickness", Kind::Length, at(middle, -s.half), at(middle, s.half), at(middle, s.half),
         2.0 * across},
        {"rotor.magnet.width", Kind::Length, at(s.depth, s.half), at(s.depth + s.width, s.half),
         at(s.depth + s.width, s.half), along},
        {"rotor.pocket.depth", Kind::Length, at(0, 0), at(s.depth, 0), at(s.depth, 0), along},
        {"rotor.pocket.bridge", Kind::Length, at(0, s.half), at(s.bridge, s.half), at(s.bridge, s.half), along},
        far_side_mark(frame)};
}

const Register<TileKind> registered{
    {Side::Rotor, "spoke", "Magnets like spokes between the poles, magnetised across.",
     joined(
         {buried_magnet_parameters("rotor.", "= 0.2 * pole_pitch",
                                   "= rotor_thickness - rotor.pocket.depth - rotor.pocket.bridge"),
          in_group("Rotor", "Pockets", 400,
                   {length("rotor.pocket.depth", "= rotor.pocket.bridge + 0.02 * pole_pitch", "Magnet depth",
                           "h_p", "From the gap to the magnet's nearer end.", 0, 1000),
                    length("rotor.pocket.bridge", "= max(0.4 mm, 0.02 * pole_pitch)", "Bridge", "b_b",
                           "Thickness of the iron over the magnet; 0: the pocket is open to the gap.", 0, 100),
                    filling("rotor.pocket.filling", "Filling", "What the pockets hold beside the magnets.")}),
          face_parameters()}),
     tile, marks, 2}};

} // namespace
} // namespace mavlo::rotor_spoke
