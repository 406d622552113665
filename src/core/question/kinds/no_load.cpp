// Flux linkage, back-EMF and the gap's field without current.

#include "figure/axial_curvature.h"
#include "figure/circulating.h"
#include "figure/loss.h"
#include "figure/loss_part.h"
#include "figure/sample.h"
#include "quantity/constants.h"
#include "question/circumstances.h"
#include "question/delta_round.h"
#include "question/line_values.h"
#include "question/period.h"
#include "question/skew_inputs.h"
#include "question/solid_loss.h"
#include "question/spectrum_curve.h"
#include "question/stray_field.h"
#include "question/unknown_losses.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_no_load {
namespace {

int solves(const Machine& machine, const Inputs& inputs) {
    const int points = int(inputs.at("points"));
    if (!machine.wound()) return 1;
    return 1 + period_solves(machine, points) + solid_loss_solves(machine, inputs.at("speed"), points);
}

Curve spectrum_of(const Curve& curve, const std::string& x_name) {
    return spectrum_curve(curve.name, curve.unit, curve.y, {x_name, "1", 1, 0, 100});
}

/// The field across the gap's middle over angle and radius, as every slice has it.
void add_field_over_radius(QuestionContext& c, const MachineModel& model, const FieldSolution& field) {
    const int points = std::max(360, 36 * c.machine.poles);
    Map map{"gap_flux_density_axial", "T", "gap_angle", "deg", "radius", "m", {}, {}, {}};
    for (int i = 0; i < points; ++i) map.x.push_back(360.0 * i / points);
    for (std::size_t k = 0; k < model.sections.size(); ++k) {
        if (model.sections[k].second) continue;
        map.y.push_back(model.sections[k].chart.flat);
        const auto ring = model.gap(k).ring(gap_traces(model, field, k), model.middle_of_gap(k), points);
        map.z.emplace_back(ring.radial.begin(), ring.radial.end());
    }
    c.answer.maps.push_back(std::move(map));
}

/// The gap's field over a whole turn at its middle with the rotor at its zero.
Problems add_gap_field(QuestionContext& c, const std::shared_ptr<const MachineModel>& model) {
    FieldSolver solver(model);
    solver.use_two_cores();
    const auto field = solver.solve(0, {});
    if (!field) return field.problems();
    std::size_t middle = model->sections.size() / 2;
    if (model->sections[middle].second) --middle;
    const auto traces = gap_traces(*model, *field, middle);
    Curve radial{c.machine.facts().axial    ? "gap_flux_density_axial"
                 : c.machine.facts().linear ? "gap_flux_density_normal"
                                            : "gap_flux_density_radial",
                 "T",
                 "gap_angle",
                 "deg",
                 {},
                 {}},
        tangential = radial;
    tangential.name = "gap_flux_density_tangential";
    const int points = std::max(1440, 128 * c.machine.poles);
    auto ring = model->gap(middle).ring(traces, model->middle_of_gap(middle), points);
    for (int i = 0; i < points; ++i)
        for (Curve* curve : {&radial, &tangential}) curve->x.push_back(360.0 * i / points);
    radial.y = std::move(ring.radial);
    tangential.y = std::move(ring.tangential);
    c.answer.curves.push_back(spectrum_of(radial, "mechanical_order"));
    c.answer.curves.push_back(spectrum_of(tangential, "mechanical_order"));
    c.answer.curves.push_back(std::move(radial));
    c.answer.curves.push_back(std::move(tangential));
    c.answer.effort.newton_steps += field->newton_steps;
    if (std::count_if(model->sections.begin(), model->sections.end(),
                      [](const auto& place) { return !place.second; }) > 1)
        add_field_over_radius(c, *model, *field);
    return {};
}

/// What slices leave out of an axial machine, computed but not corrected for.
void add_curvature(QuestionContext& c) {
    if (!c.machine.facts().axial) return;
    const auto ratio = linkage_in_three_dimensions(c.machine);
    c.answer.figures.push_back({"linkage_three_dimensional_ratio", ratio, "1"});
    if (ratio)
        c.answer.sentence +=
            fmt::format(" With smooth ideal iron the field in space would link {:.4g} times what "
                        "slices of it do; the figures here are the slices'.",
                        *ratio);
}

void add_voltages(QuestionContext& c, const PeriodSeries& series) {
    const double speed = c.input("speed");
    const auto e = induced_voltage(series, c.machine, speed);
    const auto flux = harmonics(series.flux_linkage[0]), voltage = harmonics(e[0]);
    double distortion = 0;
    for (std::size_t h = 2; h < voltage.size(); ++h) distortion += std::norm(voltage[h]);
    const double fundamental = std::abs(voltage[1]);
    const std::size_t phases = e.size();
    // In delta the phase lies between two lines, and its own voltage is the line voltage.
    const auto line = c.machine.winding.star() ? less_other(e, 1) : e;
    // psi_u = Re(c e^{ip theta}): largest, so the d axis on phase U, where p theta = -arg c.
    const double period = 2 * pi / c.machine.pole_pairs();
    double axis = std::fmod(-std::arg(flux[1]) / c.machine.pole_pairs() + 2 * period, period);
    if (period - axis < 1e-9) axis = 0;
    const bool turning = speed > 0;
    auto if_turning = [&](double value) { return turning ? std::optional(value) : std::nullopt; };
    c.answer.figures = {{"flux_linkage_peak", std::abs(flux[1]), "Wb"},
                        {"back_emf_phase_fundamental", if_turning(fundamental), "V"},
                        {"back_emf_phase_rms", if_turning(rms(e[0])), "V"},
                        {"back_emf_line_rms", if_turning(rms(line[0])), "V"},
                        {"back_emf_thd", if_turning(std::sqrt(distortion) / fundamental), "1"},
                        {"d_axis_angle", axis * 180 / pi, "deg"}};
    const bool paths = c.machine.winding.paths > 1;
    const CirculatingCurrent circulating = circulating_current(c.machine, fundamental, speed);
    c.answer.figures.push_back(
        {"circulating_current", paths ? std::optional(circulating.largest) : std::nullopt, "A"});
    c.answer.figures.push_back(
        {"circulating_loss", paths ? std::optional(circulating.loss) : std::nullopt, "W"});
    auto& curves = c.answer.curves;
    const auto add = [&](const std::string& name, const char* unit, std::size_t k,
                         const std::vector<double>& y) {
        curves.push_back(over_angle(name + phase_suffix(k), unit, series, y));
    };
    for (std::size_t k = 0; k < phases; ++k) add("back_emf_", "V", k, e[k]);
    for (std::size_t k = 0; k < phases; ++k) add("back_emf_" + phase_suffix(k), "V", (k + 1) % phases, line[k]);
    for (std::size_t k = 0; k < phases; ++k) add("flux_linkage_", "Wb", k, series.flux_linkage[k]);
    curves.push_back(spectrum_of(curves[0], "electrical_order"));
    curves.push_back(spectrum_of(curves[2 * phases], "electrical_order"));
    c.answer.sentence =
        fmt::format("At {:.4g} rpm the back-EMF is {:.4g} V rms between lines ({:.4g} V peak of a phase's "
                    "fundamental), with {:.2g} % distortion; "
                    "a phase links {:.4g} Wb at its peak.",
                    speed * 30 / pi, rms(line[0]), fundamental,
                    100 * std::sqrt(distortion) / std::max(fundamental, 1e-300), std::abs(flux[1]));
    if (!turning)
        c.answer.sentence = fmt::format(
            "A phase links {:.4g} Wb at its peak; at standstill there is no back-EMF.", std::abs(flux[1]));
    c.answer.sentence += " " + conditions_in_words(c.machine);
    if (circulating.largest > 1e-6)
        c.answer.sentence +=
            fmt::format(" The parallel paths differ: up to {:.3g} A rms run round them without "
                        "load and lose up to {:.3g} W.",
                        circulating.largest, circulating.loss);
}

/// Iron and magnets at the speed asked for; empty where the material's loss is not known.
void add_losses(QuestionContext& c, const FieldLosses& losses, const SolidLoss& solid) {
    const double f = electrical_frequency(c.machine, c.input("speed"));
    LossParts unknown = unknown_losses(c.machine);
    unknown.remove(solid.found);
    const auto figure = [&](const char* name, bool known, double value) {
        c.answer.figures.push_back({name, known ? std::optional(value) : std::nullopt, "W"});
    };
    figure("iron_loss_stator", !unknown.has(LossPart::IronStator), losses.stator.at(f));
    figure("iron_loss_rotor", !unknown.has(LossPart::IronRotor), losses.rotor.at(f));
    figure("magnet_loss", c.machine.magnet() && !unknown.has(LossPart::Magnets), losses.magnet(f));
    for (const auto& [name, part] :
         {std::pair{"solid_loss_stator", LossPart::SolidStator}, {"solid_loss_rotor", LossPart::SolidRotor}}) {
        const auto found = solid.loss.find(part);
        figure(name, found != solid.loss.end(), found == solid.loss.end() ? 0 : found->second);
    }
    tell_extrapolated_losses(c, losses, f);
    if (!solid.words.empty()) c.answer.sentence += " " + solid.words;
    tell_unknown_losses(c, solid.found);
}

Problems add_winding(QuestionContext& c, const std::shared_ptr<const MachineModel>& model) {
    const int points = int(c.input("points"));
    StrayField outside(*model);
    const auto period = sweep_period_with_loci(model, points, {}, c.threads, c.watch, outside.observer());
    if (!period) return period.problems();
    const auto solid = solid_loss(c, model, {});
    if (!solid) return solid.problems();
    PeriodSeries series = period_series(period->results);
    for (auto& phase : series.flux_linkage)
        phase = skewed(phase, 2 * pi / c.machine.pole_pairs(), skew_of(c.machine, c.inputs));
    add_voltages(c, series);
    const auto round = delta_round_of(c, series);
    if (!round) return round.problems();
    tell_delta_round(c, *round);
    add_losses(c, field_losses(*model, period->loci), *solid);
    add_curvature(c);
    tell_stray_field(c, outside.largest());
    c.answer.effort.newton_steps = series.newton_steps;
    return {};
}

/// A smooth stator links nothing; what would be the winding's does not apply.
void leave_winding_out(QuestionContext& c) {
    for (const auto& [name, unit] : {std::pair{"flux_linkage_peak", "Wb"},
                                     {"back_emf_phase_fundamental", "V"},
                                     {"back_emf_phase_rms", "V"},
                                     {"back_emf_line_rms", "V"},
                                     {"back_emf_thd", "1"},
                                     {"d_axis_angle", "deg"},
                                     {"circulating_current", "A"},
                                     {"circulating_loss", "W"},
                                     {"iron_loss_stator", "W"},
                                     {"iron_loss_rotor", "W"},
                                     {"magnet_loss", "W"},
                                     {"solid_loss_stator", "W"},
                                     {"solid_loss_rotor", "W"},
                                     {"stray_flux_density", "T"}})
        c.answer.figures.push_back({name, std::nullopt, unit});
    c.answer.sentence = "The stator has no winding; the answer holds the gap's field alone.";
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    if (c.machine.wound()) {
        if (auto problems = add_winding(c, *model); !problems.empty()) return problems;
    } else {
        leave_winding_out(c);
    }
    c.answer.effort.solves = solves(c.machine, c.inputs);
    return add_gap_field(c, *model);
}

const RegisterQuestion registered{
    {"no-load",
     "No current",
     "Back-EMF and gap field",
     "What the turning magnets induce in the winding, and their field in the gap.",
     with_skew(
         {{"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000, false},
          {"points", "Positions", "", "120", "Rotor positions over one electrical period.", 8, 2000, true}}),
     solves,
     run,
     20,
     {need_magnets},
     true,
     true}};

} // namespace
} // namespace mavlo::question_no_load
