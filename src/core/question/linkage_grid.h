#pragma once
// Solving the linkages of a switched phase over angle and current.

#include "map/linkage_map.h"
#include "question/question.h"

namespace mavlo {

/// From the unaligned position to the aligned one where a phase and its section are mirror images of
/// themselves, else over a whole period; `points` of them in a half. Evenly spaced.
std::vector<double> linkage_angles(const Machine& machine, int points);
/// So many currents up to the largest (A), evenly spaced.
std::vector<double> linkage_currents(double most, int count);

/// A stack's from that of one of its slices, whose angles are evenly spaced: means of what the slices show at
/// the same current, over the whole period.
LinkageGrid skewed_grid(const LinkageGrid& straight, const SkewedStack& stack);

/// The grid of phase U, of the skewed stack. Rows of the store are taken, or solved and put there as they are
/// finished.
Result<LinkageGrid> solve_linkage_grid(const std::shared_ptr<const MachineModel>& model,
                                       const std::vector<double>& angles, const std::vector<double>& currents,
                                       const PointStore& store, int threads, const Watch& watch,
                                       Effort& effort);

/// map_currents, map_positions.
std::vector<QuestionInput> linkage_map_inputs();
int linkage_map_solves(const Machine& machine, const Inputs& inputs);
/// The map that those inputs ask for, up to a current (A); the effort goes into the answer.
Result<LinkageMap> linkage_map(QuestionContext& context, const std::shared_ptr<const MachineModel>& model,
                               double most);

} // namespace mavlo
