#pragma once
// What is done to drawn shapes: put where the hand is, moved, offset.

#include "machine/design.h"
#include "machine/machine.h"

namespace mavlo {

/// A pitch of a machine: its side, and where its axis stands in the section with the rotor at its zero.
struct PitchPlace {
    std::string side; ///< "rotor" or "stator"
    double axis = 0;  ///< rad
};
/// The pitch that lies under a point of the section; `rotor_angle` is taken off for the rotor.
PitchPlace pitch_at(const Machine& machine, Point p, double rotor_angle);

/// "12.5 mm", to a thousandth of a micrometre.
std::string coordinate_text(double metres);

/// A corner by numbers, in the pitch's frame.
FreeShape::Corner corner_at(Point p);

/// The first of "pocket 1", "pocket 2", … that no shape of the design has.
std::string free_shape_name(const Design& design, Use use);

/// The outline moved outwards by `distance` (inwards when negative) as corners with numbers, roundings and arcs
/// included. Fails when nothing would be left or the outline would cross itself.
Result<std::vector<FreeShape::Corner>> offset_corners(const ShapeOutline& shape, double distance);

/// The outline without the part of it round `off` that `lines` (and the outline itself) enclose, as corners
/// with numbers. Fails when the point lies outside, or when nothing or more than one piece would be left.
Result<std::vector<FreeShape::Corner>> trimmed_corners(const ShapeOutline& shape, std::vector<Piece> lines,
                                                       Point off);

} // namespace mavlo
