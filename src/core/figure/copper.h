#pragma once
// Loss of the winding with direct and alternating current.

#include "machine/machine.h"

namespace mavlo {

/// R_ac / R_dc of the phase at an electrical frequency (Hz).
///
/// In the slots: strands as rows of conductors on top of each other in the leakage field of a rectangular slot,
///   k = phi(xi) + (m^2 - 1)/3 psi(xi),   xi = h sqrt(pi f mu0 sigma b_c/b)
/// with h the side of the square of a round strand's area, b_c/b the share of the slot's width that is copper
/// and m the rows (F. Emde 1908, R. Richter 1951; J. Pyrhönen, T. Jokinen, V. Hrabovcová, Design of Rotating
/// Electrical Machines, 2nd ed., sec. 5.2). The strands are taken as transposed, so that they share the current
/// evenly; end turns as with direct current.
double ac_factor(const Machine& machine, double frequency);

/// W: bearings and seals at the given torque, and the rotor's rim in air with Vrancik's drag coefficient,
///   P = pi C_d rho r^4 omega^3 L,   1/sqrt(C_d) = 2.04 + 1.768 ln(Re sqrt(C_d)),   Re = omega r g / nu
/// (J.E. Vrancik, NASA TN D-4849, 1968), air at 60 degC. `speed` in rad/s.
struct MechanicalLoss {
    double bearings = 0, windage = 0;
    double total() const { return bearings + windage; }
};
MechanicalLoss mechanical_loss(const Machine& machine, double speed);

} // namespace mavlo
