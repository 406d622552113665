#pragma once
// How far a figure is from the one of an infinitely fine mesh.

#include "question/answer.h"

namespace mavlo {

/// Element sizes of the coarser of the two meshes, against those of the answer's own.
inline constexpr double coarser_mesh = 1.6;

/// Richardson's extrapolation (L.F. Richardson, Phil. Trans. R. Soc. A 210, 1911) with two meshes of sizes h
/// and r h: a figure whose error falls as h^p is off by (f(h) - f(rh)) / (r^p - 1). Second-order elements give
/// p = 4 for torque and flux linkage of smooth fields, but at the re-entrant corners of steel the field is
/// singular, and on meshes of even size p = 4/3 is left (G. Strang, G. Fix, An Analysis of the Finite Element
/// Method, 1973, ch. 8); grading gives some of it back. With p = 4/3 and the absolute value the estimate errs
/// on the safe side: it is a little more than the difference of the two meshes. Figures that do not differ by
/// more than rounding do not depend on the mesh and get no error.
void estimate_errors(Answer& answer, const Answer& coarser);

} // namespace mavlo
