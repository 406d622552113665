#pragma once
// The flux map that runs in time take their machine from.

#include "question/flux_grid.h"

namespace mavlo {

std::vector<QuestionInput> time_map_inputs(); ///< map_steps
int time_map_solves(const Machine& machine, const Inputs& inputs);
/// One brought along (the same at every position), one that is kept, or one solved now; currents on both sides
/// of zero, since they swing.
Result<GridMaps> time_map(QuestionContext& context);
/// The same up to other currents (A, peak) than a little more than the rating's.
Result<GridMaps> time_map(QuestionContext& context, double most);

/// How far a vector of currents lies beyond the map's edge, A; 0 or less: on the map.
double beyond_map(const FluxMap& map, Dq current);
/// A sentence where the run's currents leave the map by so much; empty where they stay on it.
std::string beyond_map_in_words(const FluxMap& map, double beyond);

/// H: what all phases link of a small current that flows in all of them alike, the mean over the positions of a
/// period. No map over d and q knows it; circuits without a star point drive such a current.
Result<double> zero_sequence_inductance(QuestionContext& context);
constexpr int zero_sequence_solves = 12;

/// What a run on such a map leaves out, in a sentence.
std::string map_leaves_out(const QuestionContext& context);

} // namespace mavlo
