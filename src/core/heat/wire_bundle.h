#pragma once
// Heat across a bundle of parallel wires in resin.

#include <utility>

namespace mavlo {

/// Conductivities in W/(m K). `fill`: share of the area that wires take, with their coat where they have one.
struct WireBundle {
    double fill = 0;
    double wire = 0, resin = 0;
    double coat = 0;        ///< of the enamel; 0: none
    double bare_radius = 1; ///< of the wire's conductor over the radius of its coat's outside
};

enum class WireArray { Square, Hexagonal };

/// Exact, across round wires whose centres stand on a lattice: Lord Rayleigh's method (Phil. Mag. 34, 1892)
/// with the lattice's sums as Eisenstein series (W.T. Perrins, D.R. McKenzie, R.C. McPhedran, Proc. R. Soc. A
/// 369, 1979), each wire's multipoles answered by conductor and coat. Fails for nothing below where wires
/// touch: pi/4 of a square array, pi/(2 sqrt 3) of a hexagonal one; at or above it the answer is not a number.
double across_wires(const WireBundle& bundle, WireArray array);

/// Between what lies in series and in parallel (O. Wiener, 1912), and of two parts that are the same all round
/// (Z. Hashin, S. Shtrikman, J. Appl. Phys. 33, 1962, in two dimensions). Without coat.
std::pair<double, double> wiener_bounds(const WireBundle& bundle);
std::pair<double, double> hashin_shtrikman_bounds(const WireBundle& bundle);

/// One material that conducts as a wire with its coat does in a field that is the same all round it.
double coated_wire(const WireBundle& bundle);

} // namespace mavlo
