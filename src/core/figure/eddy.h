#pragma once
// The bodies of a machine that carry eddy currents.

#include "field/stepper.h"
#include "figure/machine_model.h"

namespace mavlo {

/// Magnets by their pieces, a shell, a conducting shaft: what has a resistivity. The conductivity of magnets is
/// lowered to the share of the loss that an axial segment of finite length has (finite_length_share) and to
/// the share of the pocket that is magnet. The currents of a shell close beyond the stack.
std::vector<EddyBody> conducting_bodies(const MachineModel& model);

/// A shell's substance, and no shaft's.
bool is_shell(const Substance& substance);
/// A shell's or shaft's own field is no small one; magnets' is.
Stages stages_for(const MachineModel& model, const std::vector<EddyBody>& bodies);

/// Share of the loss of an infinitely long rectangular conductor of width w that one of length l has, in a
/// uniform alternating field across it, 0 to 1 (torsion of a rectangular bar is the same boundary problem: S.
/// Timoshenko, J.N. Goodier, Theory of Elasticity, 3rd ed., sec. 109).
double finite_length_share(double length, double width);

/// Side of a magnet's body of this area across its remanence, m.
double body_width(const Substance& magnet, double area);

/// Elements of each body of magnet in the sector.
std::vector<std::vector<std::size_t>> magnet_bodies(const MachineModel& model);

/// Losses of bodies summed by what they are, W.
struct EddyLosses {
    double magnets = 0, shaft = 0, shell = 0;
    double total() const { return magnets + shaft + shell; }
};
EddyLosses sorted_losses(const MachineModel& model, const std::vector<EddyBody>& bodies,
                         const std::vector<double>& losses);

} // namespace mavlo
