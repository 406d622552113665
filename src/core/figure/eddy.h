#pragma once
// The bodies of a machine that carry eddy currents.

#include "field/stepper.h"
#include "figure/loss_part.h"
#include "figure/machine_model.h"

#include <map>

namespace mavlo {

/// Magnets by their pieces, a shell, a conducting shaft, massive steel by its pieces: what has a resistivity.
/// The conductivity of magnets is lowered to the share of the loss that axial segments of finite length keep
/// (`kept`, of each of magnet_bodies(), as kept_in_pieces() finds them; empty: finite_length_share, that of a
/// field that is the same all over their width) and to the share of the pocket that is magnet. The currents of
/// a shell close beyond the stack; those of every other piece stay in it.
std::vector<EddyBody> conducting_bodies(const MachineModel& model, const std::vector<double>& kept = {});
/// Of them what is no magnet.
std::vector<EddyBody> solid_bodies(const MachineModel& model);

/// The rings of a cage, whose bars are among these bodies; empty: there are none.
EndRings end_rings(const MachineModel& model, const std::vector<EddyBody>& bodies);

/// With the rings of a cage among them.
Conductance conductance_of(const MachineModel& model, std::vector<EddyBody> bodies);

/// A shell's substance, and no shaft's.
bool is_shell(const Substance& substance);
/// The own field of what is massive is no small one; magnets' is.
Stages stages_for(const MachineModel& model, const std::vector<EddyBody>& bodies);

/// Share of the loss of an infinitely long rectangular conductor of width w that one of length l has, in a
/// uniform alternating field across it, 0 to 1 (torsion of a rectangular bar is the same boundary problem: S.
/// Timoshenko, J.N. Goodier, Theory of Elasticity, 3rd ed., sec. 109).
double finite_length_share(double length, double width);

/// Side of a magnet's body of this area across its remanence, m.
double body_width(const Substance& magnet, double area);

/// Elements of each body of magnet in the sector.
std::vector<std::vector<std::size_t>> magnet_bodies(const MachineModel& model);

/// Losses of bodies (W) summed by what they are.
std::map<LossPart, double> sorted_losses(const MachineModel& model, const std::vector<EddyBody>& bodies,
                                         const std::vector<double>& losses);

} // namespace mavlo
