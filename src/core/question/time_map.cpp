#include "question/time_map.h"

#include "question/period.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int fewest_points = 36, most_points = 240;
constexpr double reach = 1.6; ///< of the map, over the largest current of rating

/// Positions of an electrical period: three for each period of the cogging torque at least, and as many in
/// every sixth.
int map_points(const Machine& machine) {
    const int cogging = machine.symmetry.cogging_periods / std::max(1, machine.pole_pairs());
    return std::clamp((3 * cogging + 5) / 6 * 6, fewest_points, most_points);
}

double standard_most(const Machine& machine) {
    return reach * std::max(machine.rating.max_current, machine.rating.current);
}

FluxGrid grid_of(const Machine& machine, const Inputs& inputs, double most) {
    FluxGrid grid = standard_grid(most, int(inputs.at("map_steps")), {true, machine.symmetry.mirrored});
    grid.points = map_points(machine);
    return grid;
}

} // namespace

std::vector<QuestionInput> time_map_inputs() {
    return {{"map_steps", "Steps of the map", "", "6", "Of the currents on either side of zero.", 3, 60, true}};
}

int time_map_solves(const Machine& machine, const Inputs& inputs) {
    return grid_solves(machine, grid_of(machine, inputs, standard_most(machine)));
}

Result<GridMaps> time_map(QuestionContext& c) {
    return time_map(c, standard_most(c.machine));
}

Result<GridMaps> time_map(QuestionContext& c, double most) {
    if (c.map) return GridMaps{*c.map, PositionMap(*c.map)};
    const FluxGrid grid = grid_of(c.machine, c.inputs, most);
    if (auto kept = kept_grid_maps(c.machine, grid, c.points)) return std::move(*kept);
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    return solve_grid_maps(*model, grid, c.points, c.threads, c.watch, c.answer.effort);
}

double beyond_map(const FluxMap& map, Dq i) {
    return std::max(
        {i.d - map.id().back(), map.id().front() - i.d, i.q - map.iq().back(), map.lowest_iq() - i.q});
}

std::string beyond_map_in_words(const FluxMap& map, double beyond) {
    if (beyond < 1e-3 * map.iq().back()) return "";
    return fmt::format(
        "Currents go up to {:.3g} A beyond the map's edge of {:.4g} A along d and {:.4g} A along q, "
        "where linkages and torque go on along their slopes: take a larger largest current.",
        beyond, map.id().front(), map.iq().back());
}

std::string map_leaves_out(const QuestionContext& c) {
    return c.map ? "By the flux map: the slots' ripple and the carrier's iron loss are left out."
                 : "By the flux map at each position: eddy currents and the carrier's iron loss are left out.";
}

Result<double> zero_sequence_inductance(QuestionContext& c) {
    const double current = 0.1 * std::max(c.machine.rating.current, 1e-3);
    const std::string kind = "zero-sequence";
    const auto known = c.points.read(kind, 1, 2);
    if (const auto kept = known.find({current}); kept != known.end()) return kept->second.back();
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    std::vector<Position> positions;
    const double period = 2 * std::numbers::pi / c.machine.symmetry.periods;
    for (int k = 0; k < zero_sequence_solves / 2; ++k)
        for (double sign : {1.0, -1.0})
            positions.push_back({period * 2 * k / zero_sequence_solves,
                                 PortValues(std::size_t(c.machine.winding.phases), sign * current)});
    const auto solved = sweep(*model, positions, c.threads, c.watch);
    if (!solved) return solved.problems();
    double sum = 0;
    for (const PositionResult& r : *solved)
        sum += mean(r.flux_linkage) / r.position.current.front() / zero_sequence_solves;
    c.answer.effort.solves += zero_sequence_solves;
    c.points.append(kind, {current, sum});
    return sum;
}

} // namespace mavlo
