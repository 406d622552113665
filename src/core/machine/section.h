#pragma once
// The whole cross-section as it is drawn: regions over the iron, and their outlines.

#include "machine/machine.h"
#include "shape/faces.h"

#include <vector>

namespace mavlo {

struct SectionRegion {
    Role role = Role::Air;
    int index = 0;    ///< slot or pole
    int layer = 0;    ///< coil side in the slot
    int polarity = 0; ///< +1 north, -1 south
    Magnetisation magnetisation = Magnetisation::None;
    double axis = 0;      ///< angle of the slot's or pole's centre
    double direction = 0; ///< of a north pole's parallel remanence
    Polygon polygon;
};

/// Stator and rotor apart, because the rotor turns. Iron is the disc and ring behind the regions.
struct Section {
    std::vector<SectionRegion> stator, rotor;
    std::vector<std::vector<Point>> stator_lines, rotor_lines;
    double outer_radius = 0, bore_radius = 0, rotor_radius = 0, rotor_iron_radius = 0, shaft_radius = 0;
};

Section make_section(const Machine& machine);

} // namespace mavlo
