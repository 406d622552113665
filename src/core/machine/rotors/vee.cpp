// Magnets buried in a V: two pockets a pole that open towards the gap, with rounded ends, a bridge under the
// surface and a post between them.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"

namespace mavlo::rotor_vee {
namespace {

using namespace parameter;

Pocket vee(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.", v.number("rotor.pocket.angle"), v.number("rotor.pocket.post"));
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    return pocket_tile(frame, v, {vee(frame, v)});
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    return pocket_rotor_marks(frame, v, {vee});
}

const Register<TileKind> registered{
    {Side::Rotor, "vee", "Magnets buried in a V, two a pole.",
     joined({buried_magnet_parameters("rotor.", "= 0.085 * pole_pitch", "= 0.28 * pole_pitch"),
             pocket_parameters("rotor.", {"= 130 deg", "= 0.32 * pole_pitch", "= 0.03 * pole_pitch"}),
             face_parameters(), pole_shift_parameters()}),
     tile, marks, 4}};

} // namespace
} // namespace mavlo::rotor_vee
