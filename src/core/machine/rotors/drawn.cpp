// A pole from a drawing.

#include "machine/rotors/face.h"
#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/tile_drawing.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::rotor_drawn {
namespace {

using namespace parameter;

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    const DrawnPart* part = v.drawing("rotor");
    if (!part)
        return Problem{"rotor.kind",
                       "The design holds no drawing of a rotor; import one, or choose another kind."};
    if (auto problem = misfit(*part, frame, "rotor")) return *problem;
    return drawn_tile(*part, "rotor", v.word("rotor.magnet.magnetisation") == "radial");
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values&) {
    return {far_side_mark(frame)};
}

bool has_solid(const Design& design) {
    const auto part = design.drawings.find("rotor");
    return part != design.drawings.end() &&
           std::any_of(part->second.regions.begin(), part->second.regions.end(),
                       [](const DrawnPart::Region& r) { return r.use == Use::Solid; });
}

/// Of regions that carry eddy currents.
std::vector<Parameter> solid_regions() {
    return in_group(
        "Rotor", "Shell", 230,
        {when(has_solid,
              or_auto(quantity("rotor.shell.resistivity", "Ohm.m", "auto", "Shell resistivity", "ρ_s",
                               "Of the regions that carry eddy currents, at their temperature; auto: the "
                               "material's at 20 °C. Their currents close beyond the stack without "
                               "resistance.",
                               1e-9, 1))),
         when(has_solid, material("rotor.shell.material", "aluminium", "Shell material",
                                  "What the regions that carry eddy currents are of: a conductor, or a steel.",
                                  MaterialKind::Conductor))});
}

std::vector<Parameter> magnets() {
    // Their shape is the drawing's.
    auto list = magnet_parameters("rotor.", "5 mm");
    std::erase_if(list, [](const Parameter& p) { return p.path == "rotor.magnet.thickness"; });
    list.push_back(choice("rotor.magnet.magnetisation", {"parallel", "radial"}, "Magnetisation",
                          "Parallel to each magnet's direction, or along the radius."));
    return list;
}

const Register<TileKind> registered{
    {Side::Rotor, "drawn", "A pole from a drawing.", joined({magnets(), solid_regions()}), tile, marks, 20}};

} // namespace
} // namespace mavlo::rotor_drawn
