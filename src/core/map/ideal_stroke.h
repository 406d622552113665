#pragma once
// A stroke whose current is held at its limit without ripple: what planning needs thousands of.

#include "map/strokes.h"

namespace mavlo {

/// A period of one phase from its turn-on, angles electrical from its aligned position.
struct IdealStroke {
    std::vector<double> angle, current, linkage, torque;
    bool periodic = false;
    double torque_mean = 0;                   ///< of all phases, N.m
    double current_rms = 0, current_peak = 0; ///< A
    double copper = 0, input = 0;             ///< of all phases, W
    double ripple(int phases) const;          ///< of all phases' torque, peak to peak
};

/// +V from turn-on until `limit`, where the voltage is what holds it as long as the link has so much; -V from
/// turn-off until the current ends. The linkage is followed by the midpoint rule, so that the energy is kept.
IdealStroke ideal_stroke(const LinkageMap& map, const StrokeDrive& drive, double limit);

} // namespace mavlo
