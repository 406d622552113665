#pragma once
// How far a figure is from the one of an infinitely fine mesh.

#include "question/accuracy.h"
#include "question/answer.h"

namespace mavlo {

/// Element sizes of the coarser of the two meshes, against those of the answer's own.
inline constexpr double coarser_mesh = 1.6;

/// Two estimates, of which the larger is stated. Richardson's extrapolation (L.F. Richardson, Phil. Trans. R.
/// Soc. A 210, 1911) with two meshes of sizes h and r h: a figure whose error falls as h^p is off by (f(h) -
/// f(rh)) / (r^p - 1). Second-order elements give p = 4 for torque and flux linkage on meshes that are graded
/// at the corners of steel, even meshes 4/3 (G. Strang, G. Fix, An Analysis of the Finite Element Method, 1973,
/// ch. 8); 4/3 is taken, the safe side. Where two meshes agree by chance that says too little; torques, flux
/// linkages and back-EMFs have at least what their adjoint fields found (`left`, see GoalErrors). Figures that
/// do not differ by more than rounding do not depend on the mesh and get no error.
void estimate_errors(Answer& answer, const Answer& coarser, const Leftover& left);

} // namespace mavlo
