#pragma once
// A stack whose rotor or stator is turned along its axis.

#include <vector>

namespace mavlo {

enum class SkewForm {
    Continuous, ///< evenly from one end to the other
    Steps,      ///< equal packets, each turned against its neighbour
    Vee,        ///< evenly to the middle and back
};

/// Of one side. `angle` (rad, mechanical): between both ends, of packets their number times the turn from one
/// to the next, of a vee between the ends and the middle.
struct Skew {
    double angle = 0;
    SkewForm form = SkewForm::Continuous;
    int steps = 3; ///< packets

    /// Turn at z, from 0 to 1 along the axis, about its mean.
    double turn(double z) const;
    bool operator==(const Skew&) const = default;
};

/// One slice: its turn against the middle of the stack (rad, mechanical) and its share of the length.
struct Slice {
    double turn, share;
};

/// Both sides together: what counts is how far the rotor is turned ahead of the stator.
struct SkewedStack {
    Skew rotor{}, stator{};

    bool none() const { return rotor.angle == 0 && stator.angle == 0; }
    /// One for each packet; where the turn changes evenly, so many points of Gauss and Legendre for each
    /// stretch of it (five are exact for all that matters while the skew is below a few periods of the highest
    /// harmonic). Without skew one slice.
    std::vector<Slice> slices(int points = 5) const;
    bool operator==(const SkewedStack&) const = default;
};

/// The rotor turned by an angle over the whole stack, in so many steps; 0: continuously.
SkewedStack skewed_by(double angle, int steps);

} // namespace mavlo
