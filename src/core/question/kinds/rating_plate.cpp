// What stands on a cage machine's plate: its rated point on a mains voltage and how it starts.

#include "quantity/constants.h"
#include "question/induction_inputs.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_rating_plate {
namespace {

/// The slip that is given, or that of the output.
Result<double> rated_slip(const QuestionContext& c, const InductionCircuit& circuit, double voltage, double f) {
    const double slip = c.input("slip"), output = c.input("output");
    if (!std::isnan(slip)) return slip;
    if (std::isnan(output)) return Problem{"--with output", "Say the rated output, or the slip."};
    const auto found = circuit.slip_for(output, voltage, f);
    if (found) return *found;
    const auto most = circuit.pull_out(voltage, f);
    return Problem{
        "--with output",
        fmt::format("The machine gives {:.4g} W at pull-out, less than {:.4g} W; ask for less, or raise "
                    "the voltage.",
                    circuit.at(voltage, f, most.slip).output(), output)};
}

Problems run(QuestionContext& c) {
    const auto circuit = given_circuit(c);
    if (!circuit) return circuit.problems();
    const double voltage = c.input("voltage") / std::sqrt(3.0),
                 f = std::isnan(c.input("frequency")) ? base_frequency(c) : c.input("frequency");
    const auto slip = rated_slip(c, *circuit, voltage, f);
    if (!slip) return slip.problems();
    const SlipPoint rated = circuit->at(voltage, f, *slip), rest = circuit->at(voltage, f, 1);
    const auto most = circuit->pull_out(voltage, f);
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
                        {"pull_out_torque_ratio", most.torque / torque, "1"},
                        {"efficiency_class", std::nullopt, "1"}};
    c.answer.sentence =
        fmt::format("{:.4g} kW at {:.4g} V, {:.4g} Hz: {:.5g} rpm, {:.4g} A, power factor {:.3f}, efficiency "
                    "{:.1f} %. By the "
                    "circuit with constant elements; added load loss is left out, and no table of efficiency "
                    "classes is at hand.",
                    rated.output() / 1e3, c.input("voltage"), f, rated.speed / rpm, rated.current,
                    rated.power_factor, 100 * rated.efficiency().value_or(std::nan("")));
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
     [](const Machine&, const Inputs&) { return 0; },
     run,
     94,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_rating_plate
