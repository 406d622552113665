#pragma once
// The machine cut along its axis, to scale: what the cross-section does not show.

#include "heat/cooling.h"

namespace mavlo {

/// m: axial reach of the end windings beyond the stack; 0 without a winding.
double end_winding_height(const Machine& machine);
/// m, over the end shields: as given, else the stack with its end windings and some air.
double housing_length(const Machine& machine, const CoolingData& cooling);

/// Of each of the two: as given, else by the shaft.
struct Bearing {
    double mean_diameter = 0, width = 0;            ///< m
    double height(double shaft_radius) const;       ///< radial, between shaft and shield
    double steel_volume(double shaft_radius) const; ///< m3 of both: rings and balls fill about half of it
};
Bearing bearing_of(const CoolingData& cooling, double shaft_radius);

/// The half above the axis, the stack's middle at z = 0; radii in m.
struct LongSection {
    enum class Kind {
        Housing,
        Rib,
        Channel,
        Shield,
        Steel,
        Winding,
        Ends,
        Magnets,
        Bars,
        Rotor,
        Shaft,
        Bearing,
        Fan
    };
    struct Body {
        Kind kind;
        double z = 0, r = 0, length = 0, height = 0; ///< lower left corner and size
        bool both_ends = false;                      ///< mirrored at z = 0, too
    };
    /// A length of the design between two places; a drag of its far end changes the parameter by `factor` times
    /// the way along it.
    struct Dimension {
        std::string path;
        double z0 = 0, r0 = 0, z1 = 0, r1 = 0;
        double value = 0; ///< m
        double factor = 1;
        bool is_axial() const { return r0 == r1; }
    };
    std::vector<Body> bodies; ///< those behind come first
    std::vector<Dimension> dimensions;
    double half_length = 0, radius = 0; ///< of all that is drawn
};

LongSection long_section(const Machine& machine, const CoolingData& cooling);

} // namespace mavlo
