// What stands on a cage machine's plate: its rated point on a mains voltage and how it starts.

#include "quantity/constants.h"
#include "question/induction_inputs.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_rating_plate {
namespace {

/// The slip that is given, or that of the output.
Result<double> rated_slip(const QuestionContext& c, SlipMachine& machine, double voltage, double f) {
    const double slip = c.input("slip"), output = c.input("output");
    if (!std::isnan(slip)) return slip;
    if (std::isnan(output)) return Problem{"--with output", "Say the rated output, or the slip."};
    const auto found = machine.slip_for(output, voltage, f);
    if (!found) return found.problems();
    if (*found) return **found;
    const auto most = machine.pull_out(voltage, f);
    if (!most) return most.problems();
    const auto point = machine.at(voltage, f, most->slip);
    if (!point) return point.problems();
    return Problem{
        "--with output",
        fmt::format("The machine gives {:.4g} W at pull-out, less than {:.4g} W; ask for less, or raise "
                    "the voltage.",
                    point->output(), output)};
}

Problems run(QuestionContext& c) {
    const double voltage = c.input("voltage") / std::sqrt(3.0),
                 f = std::isnan(c.input("frequency")) ? base_frequency(c) : c.input("frequency");
    const auto source = cage_source(c, c.input("voltage"), f, false);
    if (!source) return source.problems();
    SlipMachine& machine = *source->machine;
    const auto slip = rated_slip(c, machine, voltage, f);
    if (!slip) return slip.problems();
    const auto points = machine.over(voltage, f, {*slip, 1});
    if (!points) return points.problems();
    const auto most = machine.pull_out(voltage, f);
    if (!most) return most.problems();
    const SlipPoint &rated = points->front(), &rest = points->back();
    const double torque = rated.shaft_torque();
    c.answer.figures = {{"output_power", rated.output(), "W"},
                        {"speed", rated.speed / rpm, "rpm"},
                        {"current", rated.current, "A"},
                        {"power_factor", rated.power_factor, "1"},
                        {"efficiency", rated.efficiency(), "1"},
                        {"torque", torque, "N.m"},
                        {"slip", *slip, "1"},
                        {"input_power", rated.input, "W"},
                        {"copper_loss_stator", rated.copper_stator, "W"},
                        {"copper_loss_rotor", rated.copper_rotor, "W"},
                        {"iron_loss", rated.iron, "W"},
                        {"friction_loss", rated.friction, "W"},
                        {"starting_torque_ratio", rest.shaft_torque() / torque, "1"},
                        {"starting_current_ratio", rest.current / rated.current, "1"},
                        {"pull_out_torque_ratio", most->torque / torque, "1"},
                        {"efficiency_class", std::nullopt, "1"}};
    c.answer.sentence =
        fmt::format("{:.4g} kW at {:.4g} V, {:.4g} Hz: {:.5g} rpm, {:.4g} A, power factor {:.3f}, efficiency "
                    "{:.1f} %. {} Added load loss is left out, and no table of efficiency classes is at hand.",
                    rated.output() / 1e3, c.input("voltage"), f, rated.speed / rpm, rated.current,
                    rated.power_factor, 100 * rated.efficiency().value_or(std::nan("")), source->told);
    return {};
}

std::vector<QuestionInput> inputs() {
    const auto open = [](QuestionInput input) {
        input.auto_allowed = true;
        return input;
    };
    std::vector<QuestionInput> list{
        open({"output", "Output", "W", "auto", "Of the shaft; auto: that of the slip.", -1e9, 1e9}),
        open({"slip", "Slip", "", "auto", "auto: that of the output.", -1, 1}),
        {"voltage", "Voltage (line, rms)", "V", "400 V", "Of the mains.", 0.001, 1e6},
        open({"frequency", "Frequency", "Hz", "auto", "auto: that of the reactances.", 0.01, 1e5})};
    return with_circuit_inputs(std::move(list));
}

const RegisterQuestion registered{
    {"rating-plate",
     "Drive",
     "Rating plate",
     "The rated point of a cage on its mains voltage, with start and pull-out as ratios.",
     inputs(),
     [](const Machine&, const Inputs& inputs) { return fields_of_source(inputs, false); },
     run,
     94,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_rating_plate
