// The torque of one field by two independent ways, with its energy and coenergy.

#include "figure/current_wave.h"
#include "quantity/constants.h"
#include "question/question.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_torque_check {
namespace {

int solves(const Machine& machine, const Inputs&) {
    return 3 * int(machine.skew.slices().size());
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
    double torque = 0, slope = 0, energy = 0, coenergy = 0; // means over the stack, whose slices share currents
    for (const Slice& slice : c.machine.skew.slices()) {
        const double here = angle + slice.turn;
        const auto at = solver.solve(here, current);
        if (!at) return at.problems();
        const auto before = solver.solve(here - step, current, &*at),
                   after = solver.solve(here + step, current, &*at);
        if (!before) return before.problems();
        if (!after) return after.problems();
        torque += slice.share * at->torque;
        slope += slice.share * (after->coenergy - before->coenergy) / (2 * step);
        energy += slice.share * at->energy;
        coenergy += slice.share * at->coenergy;
        c.answer.effort.newton_steps += at->newton_steps + before->newton_steps + after->newton_steps;
    }
    c.answer.figures = {{"torque_gap_field", torque, "N.m"},
                        {"torque_virtual_work", slope, "N.m"},
                        {"torque_difference", torque - slope, "N.m"},
                        {"field_energy", energy, "J"},
                        {"field_coenergy", coenergy, "J"}};
    c.answer.effort.solves = solves(c.machine, c.inputs);
    c.answer.sentence =
        fmt::format("At {:.3f}° the gap's field pulls with {:.6g} N·m and the coenergy rises with "
                    "{:.6g} N·m; the two differ by {:.2g} N·m.",
                    angle * 180 / pi, torque, slope, std::abs(torque - slope));
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
     35,
     {need_winding},
     true,
     true}};

} // namespace
} // namespace mavlo::question_torque_check
