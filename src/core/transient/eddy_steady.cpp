#include "transient/eddy_steady.h"

#include "transient/settling.h"

#include <numeric>

namespace mavlo {
namespace {

/// One period on; `out` holds its means.
std::optional<Problem> run_period(FieldStepper& stepper, const EddySteadyOptions& options, int number,
                                  EddySteady& out) {
    out.loss.assign(stepper.conductance().bodies.size(), 0.0);
    out.torque = 0;
    const double dt = options.period / options.steps;
    for (int k = 0; k < options.steps; ++k) {
        if (options.stop && options.stop()) return Problem{"", "Stopped."};
        const double from = (number * options.steps + k) * dt;
        auto step = stepper.step(dt, options.position(from + FieldStepper::first_stage * dt),
                                 options.position(from + dt));
        if (!step) return step.problems().front();
        out.torque += step->field.torque / options.steps;
        for (std::size_t i = 0; i < out.loss.size(); ++i) out.loss[i] += step->eddy_loss[i] / options.steps;
        stepper.take(std::move(*step), dt);
    }
    return std::nullopt;
}

} // namespace

Result<EddySteady> find_eddy_steady(FieldStepper& stepper, const EddySteadyOptions& options) {
    if (auto problem = stepper.begin(options.position(0))) return *problem;
    EddySteady out;
    Settling settling;
    while (out.periods < options.most_periods && !out.settled) {
        if (auto problem = run_period(stepper, options, out.periods, out)) return *problem;
        settling.add(out.torque, std::accumulate(out.loss.begin(), out.loss.end(), 0.0));
        ++out.periods;
        out.settled = settling.left() <= options.tolerance;
    }
    return out;
}

} // namespace mavlo
