#pragma once
// The part of the winding beyond the stack: its length and its leakage inductance.

namespace mavlo {

/// Length of one end of a turn between the two slots, m: straight `overhang` out of either slot, and between
/// them a half circle (tooth coils) or two straight flanks at `slope` to the face that lie `coil_width` apart
/// (form coils of distributed windings; J. Pyrhönen et al., Design of Rotating Electrical Machines, 2nd ed.,
/// sec. 4.3.5). rad; slope 0: the half circle.
double end_turn_length(double coil_width, double overhang, double slope);

/// Leakage inductance of one end of a coil of `turns` that goes round one tooth, H: half of a ring of diameter
/// `coil_width` whose bundle has this cross-section, with the ring's
///   L = mu0 a N^2 (ln(8a/r) - 2 + 1/4),  r = sqrt(section/pi)
/// (F.W. Grover, Inductance Calculations, 1946, ch. 13; J.C. Maxwell, Treatise, art. 704).
double ring_inductance(double radius, double section, double turns);

/// Of a phase of a distributed winding, H:
/// with the permeance factors of end windings of two planes, lambda_l = 0.50 and lambda_w = 0.20:
///   L = (4 m/Q) q N^2 mu0 (2 l_e lambda_l + W lambda_w)
/// (R. Richter, Elektrische Maschinen I, 1951; J. Pyrhönen et al., eq. 4.73 and table 4.2).
/// `series_turns` N of a phase, `q` slots a pole and phase, `l_e` the axial length of the overhang, `W` the
/// coil's width, m.
double overhang_inductance(int phases, int slots, double q, double series_turns, double l_e, double width);

} // namespace mavlo
