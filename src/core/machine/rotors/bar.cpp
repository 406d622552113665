// One flat magnet a pole, buried across the pole's axis, with air at its ends; or two with a post between them.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"

#include <numbers>

namespace mavlo::rotor_bar {
namespace {

using namespace parameter;

Pocket bar(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.", std::numbers::pi, v.number("rotor.pocket.post"));
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    return pocket_tile(frame, v, {bar(frame, v)});
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    return pocket_rotor_marks(frame, v, {bar});
}

const Register<TileKind> registered{
    {Side::Rotor, "bar", "One flat magnet a pole, buried across its axis.",
     joined({buried_magnet_parameters("rotor.", "= 0.08 * pole_pitch", "= 0.5 * pole_pitch"),
             pocket_parameters("rotor.", {nullptr, "= 0.2 * pole_pitch", "0 mm"}), face_parameters(),
             pole_shift_parameters()}),
     tile, marks, 3}};

} // namespace
} // namespace mavlo::rotor_bar
