#pragma once
// Demagnetisation curves of a magnet: measured ones, and what the grade's figures say between them.

#include "material/material.h"

#include <optional>

namespace mavlo {

/// Puts the points in order (from H = 0 down) and checks them. Fields may be given with either sign. Fails when
/// there are fewer than three, the polarisation is not positive at the weakest field, or rises towards
/// stronger demagnetising fields.
Result<DemagnetisationCurve> demagnetisation_curve(double kelvin, std::vector<BhPoint> points);

/// Field, A/m and positive, at which the polarisation lies 5 % of the remanence below the recoil line; that of
/// the last point where it never does.
double knee_field(const DemagnetisationCurve& curve, double recoil_mu_r);

/// Between the measured temperatures linearly, beyond them with the nearest.
double measured_knee_field(const MagnetData& magnet, double kelvin);

/// Points (H, J) from H = 0 to where J is zero (or measured no further), for drawing: the measured curves,
/// interpolated at equal shares of the way down; without any, the recoil line down to the knee and from there
/// a quarter of an ellipse to H_cJ.
std::vector<BhPoint> intrinsic_curve(const MagnetData& magnet, double kelvin, int points = 120);

/// Remanence, recoil permeability, coercivity and both coefficients that fit measured curves best (the straight
/// part down to half the knee; coefficients by least squares against 20 degC). The curves are kept with them.
/// Fails with no curve, or when a recoil line is not to be found.
Result<MagnetData> fit_magnet(std::vector<DemagnetisationCurve> curves);

} // namespace mavlo
