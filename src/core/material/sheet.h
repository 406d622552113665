#pragma once
// What a steel's sheet says of its eddy currents.

#include "material/bh_curve.h"

#include <vector>

namespace mavlo {

/// Share of a sheet's classical loss that is left, at a frequency over the sheet's corner:
///   F = 3/x (sinh x - sin x)/(cosh x - cos x),   x = d/delta,   delta = sqrt(rho/(pi f mu))
/// (K. Küpfmüller, Theoretische Elektrotechnik, on sheets; J. Lammeraner, M. Štafl, Eddy Currents, 1966, sec.
/// 2.2), here as (1 + r^3)^(-1/6) with r = f/(9 rho/(pi mu d^2)), which has both its ends and lies within 3.5 %
/// of it between.
double sheet_share(double over_corner);

struct Sheet {
    /// pi^2 d^2 / (6 rho density): classical loss at 1 Hz and 1 T, W/kg; 0: thickness or resistivity not known.
    double classical = 0;
    /// Hz: where the sheet's skin effect sets in, with the permeability B/H at peak flux densities of
    /// corner_step, twice that and so on; empty: not known.
    std::vector<double> corners{};

    Sheet(double classical_loss = 0) // NOLINT(google-explicit-constructor): all that may be known of one
        : classical(classical_loss) {}
    /// m, Ohm.m, kg/m3; zero where not known.
    Sheet(double thickness, double resistivity, double density, const BhCurve& curve);
};

inline constexpr double corner_step = 0.05; ///< T

/// Of these corners at a peak flux density (T), straight between; 0 where they are empty.
double corner_at(const std::vector<double>& corners, double peak);

} // namespace mavlo
