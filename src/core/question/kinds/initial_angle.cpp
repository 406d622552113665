// The rotor angle that lays a north pole's axis on phase U.

#include "figure/sample.h"
#include "quantity/constants.h"
#include "question/period.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_initial_angle {
namespace {

int solves(const Machine&, const Inputs&) {
    return 2;
}

/// Angle (mechanical, in [0, 2 pi/p)) of the largest value of the gap field's wave of p periods.
double wave_axis(const MachineModel& model, const FieldSolution& field) {
    const Machine& m = model.machine;
    const int points = std::max(720, 64 * m.poles), p = m.pole_pairs();
    const auto ring = model.gap().ring(gap_traces(model, field), model.middle_of_gap(), points);
    const auto waves = harmonics(ring.radial);
    const double period = 2 * pi / p, axis = -std::arg(waves[std::size_t(p)]) / p;
    const double within = axis - period * std::floor(axis / period);
    return std::min(within, period - within) < 1e-9 * period ? 0 : within;
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    // A small current in U alone (the other phases return it) turns the magnets' field towards U's axis; what
    // it adds is U's own field, at the iron's working point.
    FieldSolver solver(*model);
    solver.use_two_cores();
    const auto idle = solver.solve(0, {});
    if (!idle) return idle.problems();
    const double probe = 1e-3 * std::max(1.0, c.machine.rating.current);
    const auto excited = solver.solve(0, to_phases({probe, 0}, 0, c.machine.winding.layout.lags), &*idle);
    if (!excited) return excited.problems();
    FieldSolution phase = *excited;
    for (std::size_t i = 0; i < phase.potential.size(); ++i) phase.potential[i] -= idle->potential[i];
    const double period = 2 * pi / c.machine.pole_pairs();
    const double rotor = wave_axis(**model, *idle), coil = wave_axis(**model, phase);
    double angle = std::fmod(coil - rotor + 2 * period, period);
    if (period - angle < 1e-4 * period) angle -= period;
    const double expected = phase_axis(c.machine.winding.layout);
    c.answer.effort.solves = 2;
    c.answer.effort.newton_steps = idle->newton_steps + excited->newton_steps;
    c.answer.figures = {{"initial_angle", angle * 180 / pi, "deg"},
                        {"phase_axis", expected * 180 / pi, "deg"},
                        {"magnet_axis", (rotor > period / 2 ? rotor - period : rotor) * 180 / pi, "deg"}};
    c.answer.sentence =
        fmt::format("Turned by {:.4g}° mechanical from its zero the rotor has a north pole on the axis of "
                    "phase U, by the fundamental of the gap's field; the winding's layout says {:.4g}°.",
                    angle * 180 / pi, expected * 180 / pi);
    return {};
}

const RegisterQuestion registered{{"initial-angle",
                                   "No current",
                                   "Initial angle",
                                   "The rotor angle that lays the magnets' axis on phase U.",
                                   {},
                                   solves,
                                   run,
                                   25,
                                   {need_winding, need_magnets},
                                   true,
                                   true}};

} // namespace
} // namespace mavlo::question_initial_angle
