#pragma once
// From a specification to a machine: a starting shape grown to the torque, then wound and lengthened until the
// quick fields say that torque, voltage and temperature fit.

#include "question/key_figure.h"

namespace mavlo {

enum class SizingCooling { StillAir, Fan, Jacket };

struct Specification {
    double torque = 0, speed = 0; ///< N.m, rad/s
    double dc_voltage = 0;        ///< V
    /// m; empty: free.
    std::optional<double> outer_diameter{}, length{}; ///< of stator or rotor outside; of the stack
    SizingCooling cooling = SizingCooling::Fan;
    double ambient = 313.15; ///< K
};
/// What cannot be a specification.
Problems check(const Specification& specification);

struct SizedDesign {
    Design design;
    QuickFigures figures;
    double outer_diameter = 0, length = 0; ///< m
    double current = 0;                    ///< A, peak of a phase
    bool fits = false;                     ///< torque, voltage and temperature are as wanted
    std::string words;                     ///< how it was found, and what is short where it does not fit
};

/// The rotor's volume begins with the tangential stress sigma that such cooling usually bears, T = 2 sigma V
/// (output coefficient: J. Pyrhonen, T. Jokinen, V. Hrabovcova, Design of Rotating Electrical Machines, 2nd
/// ed., ch. 6), its length over diameter with pi sqrt(p)/(4p) (ibid.); all lengths of the shape's section grow
/// alike but for insulation. Current, turns and stack length then follow the quick fields, whose winding shall
/// come 15 K below its thermal class. Problems where the shape cannot be built so.
Result<SizedDesign> size_design(const Specification& specification, const Design& shape, const Watch& watch);

/// Starting shapes worth a look at this speed, the likeliest first.
std::vector<std::string> shapes_for(const Specification& specification);

} // namespace mavlo
