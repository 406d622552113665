// Two layers of magnets a pole, both in a V; the second lies nearer to the gap.

#include "machine/rotors/magnet_parameters.h"
#include "machine/rotors/pocket.h"
#include "machine/rotors/pole_shift.h"

namespace mavlo::rotor_double_vee {
namespace {

using namespace parameter;

Pocket deep(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.", v.number("rotor.pocket.angle"), v.number("rotor.pocket.post"));
}
Pocket shallow(const TileFrame& frame, const Values& v) {
    return pocket_of(frame, v, "rotor.second.", v.number("rotor.second.pocket.angle"),
                     v.number("rotor.second.pocket.post"));
}

Result<Tile> tile(const TileFrame& frame, const Values& v) {
    return pocket_tile(frame, v, {deep(frame, v), shallow(frame, v)});
}

std::vector<DimensionMark> marks(const TileFrame& frame, const Values& v) {
    return pocket_rotor_marks(frame, v, {deep, shallow});
}

const Register<TileKind> registered{
    {Side::Rotor, "double-vee", "Two layers of magnets a pole, both in a V.",
     joined({buried_magnet_parameters("rotor.", "= 0.07 * pole_pitch", "= 0.27 * pole_pitch"),
             pocket_parameters("rotor.", {"= 118 deg", "= 0.38 * pole_pitch", "= 0.03 * pole_pitch"}),
             buried_magnet_parameters("rotor.second.", "= 0.05 * pole_pitch", "= 0.15 * pole_pitch"),
             pocket_parameters("rotor.second.", {"= 140 deg", "= 0.17 * pole_pitch", "= 0.03 * pole_pitch"}),
             face_parameters(), pole_shift_parameters()}),
     tile, marks, 5}};

} // namespace
} // namespace mavlo::rotor_double_vee
