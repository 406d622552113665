#pragma once
// The field along a straight line through the section.

#include "figure/picture.h"

namespace mavlo {

/// At equal steps from a to b, in the stator's frame; not a number beside the section. `across` is the part of
/// B to the right of the way, so that the flux through the line is A(b) - A(a) per metre of stack (B = curl A);
/// `lengthwise` the part along the way. T, m, Wb/m.
struct LineProfile {
    Point a, b;
    std::vector<double> distance, across, lengthwise, potential;
    /// Wb per metre of stack to the right of the way; not a number where an end lies beside the section.
    double flux() const { return potential.empty() ? 0 : potential.back() - potential.front(); }
};

/// From a picture whose colours are those of |B|, of this model with the rotor at `angle` (rad). B is linear in
/// an element, A follows its four triangles.
LineProfile line_profile(const MachineModel& model, const FieldPicture& picture, double angle, Point a, Point b,
                         int count);

} // namespace mavlo
