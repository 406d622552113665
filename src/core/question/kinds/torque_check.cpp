// The torque of one field by two independent ways, with its energy and coenergy.

#include "figure/current_wave.h"
#include "quantity/constants.h"
#include "question/question.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_torque_check {
namespace {

int solves(const Machine&, const Inputs&) {
    return 3;
}

/// Torque as the slope of the coenergy with the currents held: central difference over two angles (S.J. Salon,
/// Finite Element Analysis of Electrical Machines, 1995, ch. 5). The step is a small part of the slot and pole
/// pitches, so that the third derivative plays no part, and large against the solver's tolerance.
Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const double angle = c.input("angle"), step = 2e-3 * 2 * pi / (c.machine.slots * c.machine.poles);
    const PhaseValues current = rated_wave(c.machine, c.input("current"), c.input("advance"))
                                    .at(electrical_angle(c.machine, angle), c.machine.winding.layout.lags);
    FieldSolver solver(*model);
    solver.use_two_cores();
    const auto at = solver.solve(angle, current);
    if (!at) return at.problems();
    const auto before = solver.solve(angle - step, current, &*at),
               after = solver.solve(angle + step, current, &*at);
    if (!before) return before.problems();
    if (!after) return after.problems();
    const double slope = (after->coenergy - before->coenergy) / (2 * step);
    c.answer.figures = {{"torque_gap_field", at->torque, "N.m"},
                        {"torque_virtual_work", slope, "N.m"},
                        {"torque_difference", at->torque - slope, "N.m"},
                        {"field_energy", at->energy, "J"},
                        {"field_coenergy", at->coenergy, "J"}};
    c.answer.effort.solves = 3;
    c.answer.effort.newton_steps = at->newton_steps + before->newton_steps + after->newton_steps;
    c.answer.sentence =
        fmt::format("At {:.3f}° the gap's field pulls with {:.6g} N·m and the coenergy rises with "
                    "{:.6g} N·m; the two differ by {:.2g} N·m.",
                    angle * 180 / pi, at->torque, slope, std::abs(at->torque - slope));
    return {};
}

const RegisterQuestion registered{
    {"torque-check",
     "With current",
     "Torque two ways",
     "The torque of one field from the gap and from virtual work: how far to trust it.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6,
       false},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360, false},
      {"angle", "Rotor angle", "deg", "1 deg", "Mechanical, from a north pole's axis on slot 1's middle.", -360,
       360, false}},
     solves,
     run,
     35}};

} // namespace
} // namespace mavlo::question_torque_check
