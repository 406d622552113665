// The steady symmetrical short circuit over speed.

#include "map/steady_current.h"
#include "quantity/constants.h"
#include "question/drive_inputs.h"
#include "question/period.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_short_circuit {
namespace {

FluxGrid grid_up_to(double current, const Machine& machine) {
    FluxGrid grid = standard_grid(current, 8, {false, machine.symmetry.mirrored});
    grid.points = 36;
    return grid;
}

int solves(const Machine& machine, const Inputs&) {
    return 2 * grid_solves(machine, grid_up_to(1, machine));
}

/// A map that reaches beyond the current that cancels the magnets' flux.
Result<FluxMap> wide_map(QuestionContext& c, double& characteristic) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    double reach = std::max(c.machine.rating.max_current, 1e-3);
    for (int round = 0;; ++round) {
        auto map =
            solve_flux_map(*model, grid_up_to(reach, c.machine), c.points, c.threads, c.watch, c.answer.effort);
        if (!map) return map.problems();
        *map = map->with_series_inductance(given_end_inductance(c));
        characteristic = Drive(c.machine, *map, {1, 1}).characteristic_current();
        if (round == 2 || characteristic < 0.9 * reach || characteristic <= 0) return std::move(*map);
        reach = 1.25 * characteristic;
    }
}

Problems run(QuestionContext& c) {
    double characteristic = 0;
    const auto map = wide_map(c, characteristic);
    if (!map) return map.problems();
    const double resistance = machine_conductor(c.machine).resistance;
    Curve current{"short_circuit_current", "A", "speed", "rpm", {}, {}},
        torque{"braking_torque", "N.m", "speed", "rpm", {}, {}};
    Dq i;
    for (double speed : c.inputs.list("speeds")) {
        i = steady_current(*map, resistance, c.machine.pole_pairs() * speed, {}, i);
        current.x.push_back(speed / rpm);
        current.y.push_back(std::hypot(i.d, i.q));
        torque.x.push_back(speed / rpm);
        torque.y.push_back(map->torque(i));
    }
    const auto worst = std::min_element(torque.y.begin(), torque.y.end()) - torque.y.begin();
    c.answer.figures = {{"short_circuit_current", current.y.back(), "A"},
                        {"characteristic_current", characteristic, "A"},
                        {"braking_torque_most", torque.y[std::size_t(worst)], "N.m"},
                        {"speed_at_most_braking", torque.x[std::size_t(worst)], "rpm"},
                        end_inductance_figure(c)};
    c.answer.sentence = fmt::format("Shorted, the winding carries {:.4g} A peak at {:.4g} rpm; it brakes most, "
                                    "with {:.4g} N·m, at {:.4g} rpm. Steady "
                                    "state from the flux map; the first peaks after the fault are higher.",
                                    current.y.back(), current.x.back(), -torque.y[std::size_t(worst)],
                                    torque.x[std::size_t(worst)]);
    c.answer.curves = {std::move(current), std::move(torque)};
    return {};
}

QuestionInput speeds() {
    QuestionInput input = speeds_input();
    input.standard = "1:100:1 %";
    return input;
}

const RegisterQuestion registered{
    {"short-circuit",
     "Drive",
     "Short circuit",
     "Steady current and braking torque of a symmetrical short circuit over speed.",
     {speeds(), end_inductance_input()},
     solves,
     run,
     90,
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_short_circuit
