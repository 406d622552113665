#pragma once
// The whole cross-section as it is drawn: the bodies' rings of iron, what lies in them, and their outlines.
// Flat sections of axial machines are drawn rolled up round the axis.

#include "machine/machine.h"
#include "shape/faces.h"

#include <vector>

namespace mavlo {

/// A region of one pitch; iron is not among them, it is the ring behind.
struct DrawnRegion {
    Use use = Use::Air;
    std::string path, material; ///< as the tile's region has them
    int pitch = 0;              ///< slot or pole
    int layer = 0;              ///< coil side in the slot
    int polarity = 0;           ///< magnets: +1 north towards the outside (or counter-clockwise), -1 south
    double direction = 0;       ///< of a magnet's remanence at its middle, in the body's frame
    Polygon polygon;
};

struct DrawnBody {
    bool turns = false;
    double inner_radius = 0, outer_radius = 0; ///< of the ring of iron
    double hole_radius = 0;                    ///< shaft, or the hole of an inner stator; 0: none
    bool shaft = false;                        ///< what lies in the hole
    std::string steel;                         ///< path of the parameter that names its material
    std::vector<DrawnRegion> regions;
    std::vector<std::vector<Point>> lines;
};

struct Drawing {
    std::vector<DrawnBody> bodies; ///< inside out
    double outer_radius = 0;
    const DrawnBody& rotor() const { return bodies[bodies.front().turns ? 0 : 1]; }
    const DrawnBody& stator() const { return bodies[bodies.front().turns ? 1 : 0]; }
};

Drawing make_drawing(const Machine& machine);

/// The middle of a polygon's area.
Point centroid(const Polygon& polygon);

/// What lies at a point of a body, in its own frame: the region there, or null in iron and outside.
const DrawnRegion* region_at(const DrawnBody& body, Point at);

} // namespace mavlo
