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

/// Something stands between two gaps that pull at it.
bool has_middle(const AxialForm& form) {
    return form.halves == 2 && !form.coreless;
}

bool are_alike(const Machine& machine) {
    return other_gap(machine.values) == machine.gap;
}

int solves(const Machine& machine, const Inputs& inputs) {
    const int moved = !has_middle(axial_form(machine.values)) ? 0 : are_alike(machine) ? 1 : 2;
    return (3 + moved) * period_solves(machine, int(inputs.at("points")), false);
}

/// At every position of a period, N.
struct Pulls {
    std::vector<double> first, second; ///< across the gaps
    /// On what stands in the middle, towards the first gap, on average.
    double on_middle() const { return mean(first) - mean(second); }
};

Result<Pulls> pulls(QuestionContext& c, const Machine& machine) {
    const auto model = prepare_model(c, machine, c.mesh);
    if (!model) return model.problems();
    const auto positions = electrical_period(machine, int(c.input("points")), asked_wave(machine, c.inputs));
    Pulls out{std::vector<double>(positions.size()), std::vector<double>(positions.size())};
    const auto results =
        sweep(*model, positions, c.threads, c.watch, [&](std::size_t k, const FieldSolution& field) {
            out.first[k] = axial_pull(**model, field);
            out.second[k] = axial_pull(**model, field, true);
        });
    if (!results) return results.problems();
    for (const PositionResult& r : *results) c.answer.effort.newton_steps += r.newton_steps;
    c.answer.effort.solves += int(positions.size());
    return out;
}

/// The same machine with other gaps, m; the second one as it is in the design when empty.
Result<Pulls> with_gaps(QuestionContext& c, double gap, std::optional<double> second) {
    Design design = c.ask.design;
    design.texts["gap"] = fmt::format("{:.12g} mm", gap * 1e3);
    if (second) design.texts["gap.second"] = fmt::format("{:.12g} mm", *second * 1e3);
    const auto machine = c.other(design);
    if (!machine) return machine.problems();
    return pulls(c, *machine);
}

/// How the pull on what stands in the middle changes as it leaves the first gap, N/m. Where both gaps are
/// alike one way tells of the other.
Result<double> stiffness_of_middle(QuestionContext& c, double step) {
    const double first = c.machine.gap, second = other_gap(c.machine.values);
    const auto away = with_gaps(c, first + step, second - step);
    if (!away) return away.problems();
    if (are_alike(c.machine)) return away->on_middle() / step;
    const auto near = with_gaps(c, first - step, second + step);
    if (!near) return near.problems();
    return (away->on_middle() - near->on_middle()) / (2 * step);
}

std::string of_the_middle(const AxialForm& form, const Pulls& pull, bool alike, double stiffness) {
    const std::string middle = form.stator_between ? "stator" : "rotor";
    const std::string now =
        alike ? fmt::format(" The {} in the middle is pulled to neither side while both gaps are alike", middle)
              : fmt::format(" The {} in the middle is pulled with {:.4g} N towards the {} gap", middle,
                            std::abs(pull.on_middle()), pull.on_middle() > 0 ? "first" : "other");
    return now + fmt::format("; for each 0.1 mm that it moves the pull that way grows by {:.3g} N.",
                             -stiffness * 1e-4);
}

/// What one pulls the other with.
std::string in_words(const AxialForm& form, const Pulls& pull, bool alike, double slope) {
    const double most = *std::max_element(pull.first.begin(), pull.first.end());
    const char* who = form.coreless      ? "Across both gaps and the coils the discs"
                      : form.halves == 1 ? "Across the gap rotor and stator"
                      : alike            ? "Across one gap rotor and stator"
                                         : "Across the first gap rotor and stator";
    std::string text = fmt::format("{} pull each other with {:.4g} N on average and {:.4g} N at most", who,
                                   mean(pull.first), most);
    if (!alike && !form.coreless)
        text += fmt::format(", across the other one with {:.4g} N", mean(pull.second));
    return text + fmt::format("; the pull changes by {:.3g} N for each 0.1 mm of {}.", std::abs(slope) * 1e-4,
                              form.halves == 1 ? "the gap"
                              : alike          ? "both gaps"
                                               : "the first gap");
}

Problems run(QuestionContext& c) {
    const auto pull = pulls(c, c.machine);
    if (!pull) return pull.problems();
    const double gap = c.machine.gap, step = gap_step * std::min(gap, other_gap(c.machine.values));
    const auto nearer = with_gaps(c, gap - step, {}), farther = with_gaps(c, gap + step, {});
    if (!nearer) return nearer.problems();
    if (!farther) return farther.problems();
    const double slope = (mean(farther->first) - mean(nearer->first)) / (2 * step);
    const AxialForm form = axial_form(c.machine.values);
    const bool alike = are_alike(c.machine), middle = has_middle(form);
    const auto stiffness = middle ? stiffness_of_middle(c, step) : Result<double>(0);
    if (!stiffness) return stiffness.problems();
    Curve curve{"axial_pull", "N", "rotor_angle", "deg", {}, pull->first};
    for (std::size_t k = 0; k < pull->first.size(); ++k)
        curve.x.push_back(360.0 / c.machine.pole_pairs() * double(k) / double(pull->first.size()));
    c.answer.curves.push_back(std::move(curve));
    const auto where = [](bool there, double value) { return there ? std::optional(value) : std::nullopt; };
    c.answer.figures = {{"axial_pull_mean", mean(pull->first), "N"},
                        {"axial_pull_peak", *std::max_element(pull->first.begin(), pull->first.end()), "N"},
                        {"axial_pull_peak_to_peak", peak_to_peak(pull->first), "N"},
                        {"axial_pull_second_mean", where(form.halves == 2, mean(pull->second)), "N"},
                        {"axial_stiffness", slope, "N/m"},
                        {"axial_pull_on_middle_mean", where(middle, pull->on_middle()), "N"},
                        {"axial_stiffness_of_middle", where(middle, *stiffness), "N/m"}};
    c.answer.sentence = in_words(form, *pull, alike, slope);
    if (middle) c.answer.sentence += of_the_middle(form, *pull, alike, *stiffness);
    return {};
}

const RegisterQuestion registered{
    {"axial-pull",
     "With current",
     "Pull across the gap",
     "What draws the two sides of a flat gap together, and how it grows as the gap closes.",
     {{"current", "Current (phase, peak)", "A", "= rating.current", "Peak value of the phase current.", 0, 1e6},
      {"advance", "Advance (electrical)", "deg", "= rating.advance", "From +q towards -d.", -360, 360},
      turn_on_input(),
      turn_off_input(),
      {"points", "Positions", "", "24", "Rotor positions over one electrical period.", 8, 2000, true}},
     solves,
     run,
     38,
     {need_flat_gap, need_winding, need_no_shell},
     true,
     true}};

} // namespace
} // namespace mavlo::question_axial_pull
