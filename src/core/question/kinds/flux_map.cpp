// Flux linkage, torque and losses over the plane of currents.

#include "question/flux_grid.h"
#include "question/map_answer.h"
#include "question/period.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo::question_flux_map {
namespace {

constexpr int usual_steps = 10;

FluxGrid grid_of(const Machine& machine, const Inputs& inputs) {
    FluxGrid grid{inputs.list("id"), inputs.list("iq"), int(inputs.at("points"))};
    if (grid.iq.empty())
        grid.iq = standard_grid(machine.rating.max_current, usual_steps, {false, machine.symmetry.mirrored}).iq;
    return grid;
}

/// Where i_q < 0 is no mirror image it must be asked for.
Problems check(const Machine& machine, const FluxGrid& grid) {
    if (grid.id.size() < 2 || grid.iq.size() < 2)
        return {{"--with id", "A map needs at least two values of id and of iq."}};
    if (grid.iq.front() > 0 || grid.iq.back() <= 0)
        return {{"--with iq",
                 "The list of iq must begin with 0, negative currents being its mirror image, or reach "
                 "to both sides of it."}};
    if (grid.iq.front() == 0 && !machine.symmetry.mirrored)
        return {{"--with iq",
                 "The poles of this machine are no mirror images of themselves, so that negative iq is "
                 "another matter: let the list reach to both sides, such as -100:100:10 %."}};
    return {};
}

int solves(const Machine& machine, const Inputs& inputs) {
    const FluxGrid grid = grid_of(machine, inputs);
    return grid_solves(machine, grid);
}

Problems run(QuestionContext& c) {
    const FluxGrid grid = grid_of(c.machine, c.inputs);
    if (auto problems = check(c.machine, grid); !problems.empty()) return problems;
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto map = solve_flux_map(*model, grid, c.points, c.threads, c.watch, c.answer.effort);
    if (!map) return map.problems();
    add_flux_maps(c.answer, *map);
    const auto& points = map->points();
    const auto best =
        std::max_element(points.begin(), points.end(),
                         [](const FluxPoint& a, const FluxPoint& b) { return a.torque < b.torque; });
    c.answer.figures = {{"highest_torque", best->torque, "N.m"},
                        {"id_at_highest_torque", best->current.d, "A"},
                        {"iq_at_highest_torque", best->current.q, "A"},
                        {"flux_linkage_d_idle", map->flux_linkage({}).d, "Wb"}};
    c.answer.sentence = fmt::format(
        "{} x {} currents mapped; the highest torque among them is {:.4g} N·m at {:.4g} A along d and {:.4g} A "
        "along q. Losses are kept per hertz, and scale with speed in every question that uses the map.",
        grid.id.size(), grid.iq.size(), best->torque, best->current.d, best->current.q);
    return {};
}

QuestionInput currents(const char* key, const char* label, const char* standard, const char* help, double low,
                       double high) {
    QuestionInput input{key, label, "A", standard, help, low, high};
    input.kind = InputKind::List;
    input.percent_of = "rating.max_current";
    return input;
}

QuestionInput or_auto(QuestionInput input) {
    input.auto_allowed = true;
    return input;
}

const RegisterQuestion registered{
    {"flux-map",
     "Whole range",
     "Flux map",
     "Flux linkage, torque and losses for every current vector; later questions use it again.",
     {currents("id", "Currents along d (peak)", "-100:0:10 %",
               "from:to:step in A, or % of the largest current.", -1e6, 1e6),
      or_auto(currents(
          "iq", "Currents along q (peak)", "auto",
          "From 0 on, negative currents being the mirror image, or on both sides of it, as poles that are "
          "no mirror images of themselves need. auto: what the machine needs, up to the largest current.",
          -1e6, 1e6)),
      {"points", "Positions", "", "60", "Rotor positions over one electrical period.", 12, 2000, true}},
     solves,
     run,
     60,
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_flux_map
