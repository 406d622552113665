// A V of magnets and, nearer to the gap, a flat one across its mouth.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"

#include <numbers>

namespace mavlo::rotor_vee_bar {
namespace {

using namespace parameter;

Pocket vee(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.", v.number("rotor.pocket.angle"), v.number("rotor.pocket.post"));
}
Pocket bar(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.second.", std::numbers::pi, v.number("rotor.second.pocket.post"));
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    return pocket_tile(frame, v, {vee(frame, v), bar(frame, v)});
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    return pocket_rotor_marks(frame, v, {vee, bar});
}

const Register<TileKind> registered{
    {Side::Rotor, "vee-bar", "A V of magnets with a flat one across its mouth.",
     joined({buried_magnet_parameters("rotor.", "= 0.07 * pole_pitch", "= 0.28 * pole_pitch"),
             pocket_parameters("rotor.", {"= 108 deg", "= 0.42 * pole_pitch", "= 0.03 * pole_pitch"}),
             buried_magnet_parameters("rotor.second.", "= 0.045 * pole_pitch", "= 0.28 * pole_pitch"),
             pocket_parameters("rotor.second.", {nullptr, "= 0.1 * pole_pitch", "0 mm"}), face_parameters(),
             pole_shift_parameters()}),
     tile, marks, 6}};

} // namespace
} // namespace mavlo::rotor_vee_bar
