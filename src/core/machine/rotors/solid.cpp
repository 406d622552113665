// A round rotor of steel with a conducting shell, or solid through and through: eddy currents carry its torque.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/tile_drawing.h"

#include <algorithm>
#include <cmath>

namespace mavlo::rotor_solid {
namespace {

using namespace parameter;

/// A shell that leaves less than this of the steel is solid all through, m.
constexpr double least_core = 1e-5;
constexpr double skin_elements = 60; ///< in a turn, for each pole: slot harmonics enter a shell no deeper

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const double thickness = v.number("rotor.shell.thickness"), room = frame.thickness();
    if (thickness > room + 1e-9)
        return Problem{"rotor.shell.thickness",
                       "The shell is " + millimetres(thickness - room) +
                           " thicker than the rotor; a shell of the rotor's own thickness makes it solid."};
    const bool solid = thickness > room - least_core;
    const double half = frame.half_pitch(), back = solid ? frame.far_radius : frame.radius(thickness);
    TileDrawing drawing(frame, "rotor");
    drawing.region(polar((frame.gap_radius + back) / 2, half / 2), Use::Solid, "rotor.shell",
                   "rotor.shell.material");
    if (!solid) {
        drawing.along(polar(back, 0), polar(back, half));
        const double inside = frame.far_radius > 1e-6 ? frame.far_radius : hole_radius(back, frame.pairs());
        drawing.iron(polar((back + inside) / 2, half / 2));
    }
    // What turns against the slots lies in a thin skin at the gap.
    const double r = frame.gap_radius, skin = 2 * half * r / skin_elements;
    Tile& t = drawing.tile();
    t.gap_size = std::min(skin, thickness / 3);
    t.max_size = std::min(half * r / 2, frame.thickness() / 4);
    const int along = int(std::ceil(half * r / (3 * t.gap_size)));
    for (int k = 0; k <= along; ++k)
        drawing.hint(polar(frame.radius(std::min(thickness / 2, 2 * skin)), half * k / along),
                     std::max(1.5 * t.gap_size, thickness / 8));
    return drawing.finish();
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    const double back = frame.radius(v.number("rotor.shell.thickness"));
    return {{"rotor.shell.thickness",
             DimensionMark::Kind::Length,
             {back, 0},
             {frame.gap_radius, 0},
             {back, 0},
             {frame.dir(), 0}},
            far_side_mark(frame)};
}

const Register<TileKind> registered{
    {Side::Rotor, "solid", "A round rotor of steel with a conducting shell, or conducting all through.",
     in_group("Rotor", "Shell", 230,
              {length("rotor.shell.thickness", "= 0.08 * rotor_thickness", "Shell thickness", "h_s",
                      "Of the conducting shell at the gap; as thick as the rotor it is solid all through.",
                      0.02, 2000),
               quantity("rotor.shell.resistivity", "Ohm.m", "3.6e-8 Ohm.m", "Shell resistivity", "ρ_s",
                        "Of the shell at its temperature; its currents close beyond the stack without "
                        "resistance.",
                        1e-9, 1),
               material("rotor.shell.material", "linear(1)", "Shell magnetic material",
                        "What flux finds in the shell: linear(1) for copper and aluminium, or a steel.",
                        MaterialKind::Steel)}),
     tile, marks, 9}};

} // namespace
} // namespace mavlo::rotor_solid
