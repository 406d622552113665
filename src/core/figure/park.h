#pragma once
// Phase quantities and their d and q parts, amplitude-invariant (R.H. Park, AIEE Trans. 48, 1929; of m
// phases: D.C. White, H.H. Woodson, Electromechanical Energy Conversion, 1959, ch. 10).

#include "figure/machine_model.h"

namespace mavlo {

struct Dq {
    double d = 0, q = 0;
    bool operator==(const Dq&) const = default;
};

using PhaseValues = PortValues;

/// x_k = d cos(theta - lag_k) - q sin(theta - lag_k), theta the electrical angle of the d axis from phase U,
/// the lags those of the winding's layout.
PhaseValues to_phases(Dq dq, double theta, const std::vector<double>& lags);
/// The inverse without what turns otherwise: d + jq = 2/m sum x_k e^{j lag_k} e^{-j theta}.
Dq to_dq(const PhaseValues& x, double theta, const std::vector<double>& lags);
/// A vector turned by an angle (rad).
Dq turned(Dq v, double angle);
/// Current vector of this peak value, `advance` rad from +q towards -d.
Dq current_vector(double peak, double advance);
/// Electrical angle of the d axis from phase U with the rotor at this mechanical angle.
double electrical_angle(const Machine& machine, double rotor_angle);

} // namespace mavlo
