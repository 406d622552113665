// Torque, current and powers of a cage over its slip, by the circuit.

#include "quantity/constants.h"
#include "question/induction_inputs.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace mavlo::question_slip_curves {
namespace {

constexpr const char *constant_voltage = "constant-voltage", *volts_per_hertz = "constant-volts-per-hertz";

/// One curve of each kind: a voltage (line, rms) and a frequency.
struct Family {
    double voltage = 0, frequency = 0;
    double phase_voltage() const { return voltage / std::sqrt(3.0); }
};

std::vector<Family> families(const QuestionContext& c) {
    const bool by_frequency = c.inputs.word("rule") == volts_per_hertz;
    const double base = base_frequency(c);
    std::vector<double> frequencies = c.inputs.list("frequency");
    if (frequencies.empty()) frequencies = {base};
    std::vector<Family> list;
    for (double voltage : c.inputs.list("voltage"))
        for (double f : frequencies)
            list.push_back({by_frequency ? voltage * std::min(1.0, f / base) : voltage, f});
    return list;
}

/// Close together near the synchronous speed.
std::vector<double> usual_slips() {
    std::vector<double> slips;
    constexpr int steps = 120;
    for (int k = 1; k <= steps; ++k) slips.push_back(std::pow(double(k) / steps, 2));
    return slips;
}

std::vector<double> slips_of(const QuestionContext& c, const InductionCircuit& circuit, double frequency) {
    std::vector<double> slips;
    for (double speed : c.inputs.list("speeds"))
        slips.push_back(1 - speed / circuit.synchronous_speed(frequency));
    if (!slips.empty()) return slips;
    return c.inputs.list("slips").empty() ? usual_slips() : c.inputs.list("slips");
}

void add_curves(QuestionContext& c, const InductionCircuit& circuit, const Family& family,
                const std::string& suffix) {
    std::vector<SlipPoint> points;
    std::vector<double> slips;
    for (double slip : slips_of(c, circuit, family.frequency)) {
        points.push_back(circuit.at(family.phase_voltage(), family.frequency, slip));
        slips.push_back(slip);
    }
    const auto add = [&](const char* name, const char* unit, const auto& value) {
        Curve curve{name + suffix, unit, "slip", "1", slips, {}};
        for (const SlipPoint& p : points) curve.y.push_back(value(p));
        c.answer.curves.push_back(std::move(curve));
    };
    add("torque", "N.m", [](const SlipPoint& p) { return p.torque; });
    add("current", "A", [](const SlipPoint& p) { return p.current; });
    add("power_factor", "1", [](const SlipPoint& p) { return p.power_factor; });
    add("efficiency", "1",
        [](const SlipPoint& p) { return p.efficiency().value_or(std::numeric_limits<double>::quiet_NaN()); });
    add("input_power", "W", [](const SlipPoint& p) { return p.input; });
    add("output_power", "W", [](const SlipPoint& p) { return p.output(); });
}

/// Torque at its largest and at rest over the frequency.
void add_over_frequency(QuestionContext& c, const InductionCircuit& circuit, const std::vector<Family>& list) {
    Curve most{"pull_out_torque", "N.m", "frequency", "Hz", {}, {}}, rest = most;
    rest.name = "starting_torque";
    for (const Family& f : list) {
        most.x.push_back(f.frequency);
        rest.x.push_back(f.frequency);
        most.y.push_back(circuit.pull_out(f.phase_voltage(), f.frequency).torque);
        rest.y.push_back(circuit.at(f.phase_voltage(), f.frequency, 1).torque);
    }
    c.answer.curves.push_back(std::move(most));
    c.answer.curves.push_back(std::move(rest));
}

Problems run(QuestionContext& c) {
    const auto circuit = given_circuit(c);
    if (!circuit) return circuit.problems();
    const std::vector<Family> list = families(c);
    for (const Family& family : list)
        add_curves(c, *circuit, family,
                   list.size() == 1 ? ""
                                    : fmt::format("_at_{:.4g}_V_{:.4g}_Hz", family.voltage, family.frequency));
    if (c.inputs.list("frequency").size() > 1 && c.inputs.list("voltage").size() == 1)
        add_over_frequency(c, *circuit, list);
    const Family& first = list.front();
    const double voltage = first.phase_voltage(), f = first.frequency;
    const auto most = circuit->pull_out(voltage, f), braking = circuit->pull_out(voltage, f, false);
    const SlipPoint rest = circuit->at(voltage, f, 1), idle = circuit->at(voltage, f, 0);
    c.answer.figures = {{"pull_out_torque", most.torque, "N.m"},
                        {"pull_out_slip", most.slip, "1"},
                        {"starting_torque", rest.torque, "N.m"},
                        {"starting_current", rest.current, "A"},
                        {"no_load_current", idle.current, "A"},
                        {"pull_out_torque_generating", braking.torque, "N.m"},
                        {"synchronous_speed", circuit->synchronous_speed(f) / rpm, "rpm"}};
    c.answer.sentence = fmt::format("At {:.4g} V and {:.4g} Hz the torque is {:.4g} N·m at most, at a slip of "
                                    "{:.3g}; at rest it gives {:.4g} N·m "
                                    "and draws {:.4g} A. By the circuit with constant elements: saturation, "
                                    "skin effect in the bars and the "
                                    "field's harmonics are in them as far as they were given.",
                                    first.voltage, f, most.torque, most.slip, rest.torque, rest.current);
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{
        list_input("voltage", "Voltage (line, rms)", "V", "400 V", "One, or a list for a family of curves.",
                   0.001, 1e6),
        auto_list_input("frequency", "Frequency", "Hz", "One, or a list; auto: that of the reactances.", 0.01,
                        1e5),
        choice_input("rule", "Voltage over frequency", {constant_voltage, volts_per_hertz},
                     "The same at every frequency, or in proportion to it up to the reactances' own."),
        auto_list_input("slips", "Slips", "", "auto: from synchronous speed to rest.", -10, 10),
        auto_list_input("speeds", "Speeds", "rpm", "Instead of slips; auto: none.", -1e6, 1e6),
        choice_input("way", "Way", {"circuit"}, "By the circuit of one phase.")};
    for (QuestionInput& input : list) input.any_order = input.kind == InputKind::List;
    return with_circuit_inputs(std::move(list));
}

const RegisterQuestion registered{
    {"slip-curves",
     "Drive",
     "Torque over slip",
     "Torque, current, power factor and efficiency of a cage from rest to synchronous "
     "speed, with pull-out and start.",
     inputs(),
     [](const Machine&, const Inputs&) { return 0; },
     run,
     93,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_slip_curves
