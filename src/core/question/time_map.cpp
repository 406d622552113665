#include "question/time_map.h"

#include "question/period.h"

#include <algorithm>

namespace mavlo {
namespace {

constexpr int map_points = 36;
constexpr double reach = 1.6; ///< of the map, over the largest current of rating

FluxGrid grid_of(const Machine& machine, const Inputs& inputs) {
    const double most = reach * std::max(machine.rating.max_current, machine.rating.current);
    const int steps = int(inputs.at("map_steps"));
    FluxGrid grid = standard_grid(most, steps);
    for (int k = 1; k <= steps; ++k) grid.id.push_back(most * k / steps);
    grid.points = map_points;
    return grid;
}

} // namespace

std::vector<QuestionInput> time_map_inputs() {
    return {{"map_steps", "Steps of the map", "", "6", "Of the currents on either side of zero.", 3, 60, true}};
}

int time_map_solves(const Machine& machine, const Inputs& inputs) {
    const FluxGrid grid = grid_of(machine, inputs);
    return int(grid.id.size() * grid.iq.size()) * period_solves(machine, map_points);
}

Result<FluxMap> time_map(QuestionContext& c) {
    if (c.map) return *c.map;
    const FluxGrid grid = grid_of(c.machine, c.inputs);
    if (auto kept = kept_flux_map(grid, c.points)) return std::move(*kept);
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    return solve_flux_map(*model, grid, c.points, c.threads, c.watch, c.answer.effort);
}

} // namespace mavlo
