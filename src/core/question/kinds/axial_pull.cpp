// The pull along the shaft between an axial machine's rotor and stator, and how it grows as they come nearer.

#include "figure/gap_stress.h"
#include "machine/axial.h"
#include "quantity/constants.h"
#include "question/period.h"
#include "question/stroke_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_axial_pull {
namespace {

constexpr double gap_step = 0.02; ///< of the gap, for the slope over it

int solves(const Machine& machine, const Inputs& inputs) {
    return 3 * period_solves(machine, int(inputs.at("points")), false);
}

/// Of one gap, at every position of a period.
Result<std::vector<double>> pulls(QuestionContext& c, const Machine& machine) {
    const auto model = prepare_model(c, machine, c.mesh);
    if (!model) return model.problems();
    const auto positions = electrical_period(machine, int(c.input("points")), asked_wave(machine, c.inputs));
    std::vector<double> pull(positions.size());
    const auto results =
        sweep(*model, positions, c.threads, c.watch,
              [&](std::size_t k, const FieldSolution& field) { pull[k] = axial_pull(**model, field); });
    if (!results) return results.problems();
    for (const PositionResult& r : *results) c.answer.effort.newton_steps += r.newton_steps;
    c.answer.effort.solves += int(positions.size());
    return pull;
}

/// Mean over a period with another gap.
Result<double> mean_with_gap(QuestionContext& c, double gap) {
    const auto design = with_text(c.ask.design, "gap", fmt::format("{:.12g} mm", gap * 1e3));
    if (!design) return design.problems();
    const auto machine = c.other(*design);
    if (!machine) return machine.problems();
    const auto pull = pulls(c, *machine);
    if (!pull) return pull.problems();
    return mean(*pull);
}

/// Something stands between two gaps that pull at it.
bool has_middle(const AxialForm& form) {
    return form.halves == 2 && !form.coreless;
}

/// What holds the part in the middle: nothing while it stands there, twice one gap's slope as it leaves it.
std::string of_the_middle(const AxialForm& form, double slope) {
    if (form.coreless) return " The discs pull each other; the coils without iron between them are not pulled.";
    if (!has_middle(form)) return {};
    return fmt::format(
        " The {} in the middle is pulled to neither side while both gaps are alike; {:.3g} N more for "
        "each 0.1 mm that it stands off the middle.",
        form.stator_between ? "stator" : "rotor", 2 * std::abs(slope) * 1e-4);
}

Problems run(QuestionContext& c) {
    const auto pull = pulls(c, c.machine);
    if (!pull) return pull.problems();
    const double gap = c.machine.gap, step = gap_step * gap;
    const auto nearer = mean_with_gap(c, gap - step), farther = mean_with_gap(c, gap + step);
    if (!nearer) return nearer.problems();
    if (!farther) return farther.problems();
    const double slope = (*farther - *nearer) / (2 * step);
    const AxialForm form = axial_form(c.machine.values);
    Curve curve{"axial_pull", "N", "rotor_angle", "deg", {}, *pull};
    for (std::size_t k = 0; k < pull->size(); ++k)
        curve.x.push_back(360.0 / c.machine.pole_pairs() * double(k) / double(pull->size()));
    c.answer.curves.push_back(std::move(curve));
    c.answer.figures = {
        {"axial_pull_mean", mean(*pull), "N"},
        {"axial_pull_peak", *std::max_element(pull->begin(), pull->end()), "N"},
        {"axial_pull_peak_to_peak", peak_to_peak(*pull), "N"},
        {"axial_stiffness", slope, "N/m"},
        {"axial_stiffness_of_middle", has_middle(form) ? std::optional(2 * slope) : std::nullopt, "N/m"}};
    c.answer.sentence = fmt::format(
        "{} pull each other with {:.4g} N on average and {:.4g} N at most; the pull changes by {:.3g} N "
        "for each 0.1 mm of {}.",
        form.coreless ? "Across both gaps and the coils the discs" : "Across one gap rotor and stator",
        mean(*pull), *std::max_element(pull->begin(), pull->end()), std::abs(slope) * 1e-4,
        form.halves == 2 ? "both gaps" : "the gap");
    c.answer.sentence += of_the_middle(form, slope);
    return {};
}

const RegisterQuestion registered{
    {"axial-pull",
     "With current",
     "Pull along the shaft",
     "What draws the discs of an axial machine together, and how it grows as the gap closes.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      turn_on_input(),
      turn_off_input(),
      {"points", "Positions", "", "24", "Rotor positions over one electrical period.", 8, 2000, true}},
     solves,
     run,
     38,
     {need_axial, need_winding, need_no_shell},
     true,
     true}};

} // namespace
} // namespace mavlo::question_axial_pull
