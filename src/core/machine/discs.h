#pragma once
// An axial machine as it is seen along the axis and cut along it: for its drawing, not for its field.

#include "machine/machine.h"
#include "shape/faces.h"

#include <string>
#include <vector>

namespace mavlo {

/// A magnet, or a coil side, seen along the axis.
struct DiscPart {
    Use use = Use::Magnet;
    int pitch = 0; ///< pole or slot
    int layer = 0; ///< coil side in the slot
    int polarity = 0;
    Polygon outline;
};

/// A ring of the cut along the axis, of the half above it.
struct DiscLayer {
    Use use = Use::Iron;
    std::string path; ///< of what is selected with it
    double from, to;  ///< along the axis, m, from the middle of the first gap
    double inner, outer;
};

struct Discs {
    double inner = 0, outer = 0; ///< radii of the active ring
    std::vector<DiscPart> parts; ///< the rotor's at its zero, and the stator's
    std::vector<double> slices;  ///< radii at which the field is solved
    std::vector<DiscLayer> layers;
};

Discs make_discs(const Machine& machine);

} // namespace mavlo
