#pragma once
// The sheet's own skin effect: eddy currents that keep the flux out of its middle lose less than a uniform
// field.

#include "material/sheet.h"

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// What is left of the classical loss of waves of dB/dt whose squares over the orders 1, 2, … are these, the
/// order 1 being of this frequency (Hz).
double share_of_waves(const Eigen::Ref<const Eigen::VectorXd>& squares, double frequency, double corner);

/// The same of a locus that goes straight between instants `steps` (s) apart, x and y having one sample more.
double share_of_locus(const Eigen::ArrayXd& steps, const Eigen::ArrayXd& x, const Eigen::ArrayXd& y,
                      double corner);

/// 1/corner^3 (s3) of a single wave that keeps this share at a frequency (Hz).
double inverse_corner(double share, double frequency);

/// The share that such a wave keeps at another frequency.
double share_by_corner(double inverse_corner, double frequency);

/// Rows 2n - 2 and 2n - 1 take evenly spaced samples of a period to the cosine and sine of order n, for all
/// orders below half the samples.
Eigen::MatrixXd order_rows(Eigen::Index samples);

} // namespace mavlo
