#pragma once
// Mesh and field as a VTU file (VTK's XML format for unstructured grids), which ParaView and others read.

#include "figure/machine_model.h"

#include <string>
#include <utility>
#include <vector>

namespace mavlo {

/// Quadratic triangles of the meshed bodies with the rotor turned, in metres; B jumps between elements, so each
/// has nodes of its own. Points: `A` (Wb/m) and `B` (T, as a vector). Cells: `use` (0 air, 1 iron, 2 conductor,
/// 3 magnet, 4 solid), `body` (0 the inner), `mu_r` (relative permeability, B over mu0 H; of magnets their
/// recoil line's) and `remanence` (T, as a vector). `whole`: all sectors, else the one that is computed.
/// `more`: further values of the model's elements, by their names.
std::string vtu_text(const MachineModel& model, const FieldSolution& solution, bool whole,
                     const std::vector<std::pair<std::string, std::vector<double>>>& more = {});

} // namespace mavlo
