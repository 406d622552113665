#pragma once
// What iron loss laws need of one component of a locus.

#include "material/material.h"

#include <Eigen/Dense>

namespace mavlo {

/// (2 pi)^1.5 <|cos|^1.5>: what an excess coefficient for B sin(2 pi f t) is divided by in the time domain.
inline constexpr double excess_divisor = 8.763363;

/// J/kg a cycle of one component: every closed loop, large or within another, by itself. The loops are found by
/// rainflow counting (M. Matsuishi, T. Endo 1968; ASTM E1049) from the largest value on, so that each closes.
double component_hysteresis(const IronLossLaw& law, const Eigen::Ref<const Eigen::VectorXd>& b);

/// <|cos|^alpha> over a period: Euler's beta function.
double mean_cosine_power(double alpha);

/// Angle (rad) of a locus's longer principal axis, from the means of x^2, y^2 and x y about their centre.
double principal_angle(double xx, double yy, double xy);

} // namespace mavlo
