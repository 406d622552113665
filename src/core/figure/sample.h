#pragma once
// The field as numbers at places: flux density in elements, in the gap, and the extremes in teeth and yoke.

#include "figure/machine_model.h"

#include <vector>

namespace mavlo {

/// A_z of every mesh node (body by body) in one sector, Wb/m.
std::vector<double> nodal_potential(const FieldModel& model, const FieldSolution& solution);

/// B at the three corners of each element (T) in its body's frame, from its own shape functions, body by body.
std::vector<std::array<Point, 3>> corner_flux_density(const FieldModel& model, const FieldSolution& solution);

/// Traces of the solution on the circles of a section's gap, for GapElement's field functions.
GapElement::Traces gap_traces(const FieldModel& model, const FieldSolution& solution, std::size_t section = 0);

/// |B| exceeded by only 2 % of the area of the stator's teeth (inside the slots' radii) and of its yoke, T: a
/// measure of saturation that a sharp corner does not spoil.
struct IronLevels {
    double tooth = 0, yoke = 0, rotor = 0;
};
IronLevels iron_levels(const MachineModel& model, const FieldSolution& solution);

} // namespace mavlo
