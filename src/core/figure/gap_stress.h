#pragma once
// Stress of the gap's field on what faces it, the pull on a tooth and on the rotor.

#include "figure/machine_model.h"

#include <vector>

namespace mavlo {

/// Over a whole turn of the gap from angle 0 of the stator's frame, N/m2; outwards, and counter-clockwise.
/// Maxwell's stress (J.D. Jackson, Classical Electrodynamics, sec. 6.7) on the cylinder in the middle of the
/// gap.
struct GapStress {
    std::vector<double> radial, tangential;
};

/// Of an axial machine: the pull of the first gap's field that draws its two sides together, or of the second
/// one's, N (Maxwell's stress on the plane in the gap's middle, summed over the sections).
double axial_pull(const MachineModel& model, const FieldSolution& field, bool second = false);

/// At so many places, evenly round.
GapStress gap_stress(const MachineModel& model, const FieldSolution& field, int places);

/// What pulls the rotor aside, N, in the stator's frame: the stress over any cylinder in the gap.
Point rotor_pull(const MachineModel& model, const FieldSolution& field);

/// Places that are a whole number for each slot, at least `least`.
int places_round(const Machine& machine, int least);

/// Pull towards the gap on each tooth over its slot pitch, N; tooth k lies between slots k and k + 1. The
/// places are those of places_round.
std::vector<double> tooth_forces(const Machine& machine, const GapStress& stress);

/// The tooth that the first coil of a phase goes round, or its first one.
int tooth_of_phase(const Machine& machine, int phase);

} // namespace mavlo
