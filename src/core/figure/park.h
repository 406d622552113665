#pragma once
// Phase quantities and their d and q parts, amplitude-invariant (R.H. Park, AIEE Trans. 48, 1929; IEC 60034-1
// phases).

#include "field/model.h"

namespace mavlo {

struct Dq {
    double d = 0, q = 0;
};

/// x_k = d cos(theta - 2 pi k/3) - q sin(theta - 2 pi k/3), theta the electrical angle of the d axis from phase
/// U.
PhaseValues to_phases(Dq dq, double theta);
/// The inverse without zero sequence: d + jq = 2/3 sum x_k e^{j 2 pi k/3} e^{-j theta}.
Dq to_dq(const PhaseValues& x, double theta);
/// Current vector of this peak value, `advance` rad from +q towards -d.
Dq current_vector(double peak, double advance);
/// Electrical angle of the d axis from phase U with the rotor at this mechanical angle.
double electrical_angle(const Machine& machine, double rotor_angle);

} // namespace mavlo
