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

bool by_fields(const Inputs& inputs) {
    return inputs.word("way") == "field";
}

/// Close together near the synchronous speed; few where each is a field.
std::vector<double> usual_slips(const Inputs& inputs) {
    std::vector<double> slips;
    const int steps = by_fields(inputs) ? 20 : 120;
    for (int k = 1; k <= steps; ++k) slips.push_back(std::pow(double(k) / steps, 2));
    return slips;
}

std::vector<double> slips_of(const QuestionContext& c, const SlipMachine& machine, double frequency) {
    std::vector<double> slips;
    for (double speed : c.inputs.list("speeds"))
        slips.push_back(1 - speed / machine.synchronous_speed(frequency));
    if (!slips.empty()) return slips;
    return c.inputs.list("slips").empty() ? usual_slips(c.inputs) : c.inputs.list("slips");
}

Problems add_curves(QuestionContext& c, SlipMachine& machine, const Family& family, const std::string& suffix) {
    const std::vector<double> slips = slips_of(c, machine, family.frequency);
    const auto found = machine.over(family.phase_voltage(), family.frequency, slips);
    if (!found) return found.problems();
    const std::vector<SlipPoint>& points = *found;
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
    return {};
}

/// Torque at its largest and at rest over the frequency.
Problems add_over_frequency(QuestionContext& c, SlipMachine& machine, const std::vector<Family>& list) {
    Curve most{"pull_out_torque", "N.m", "frequency", "Hz", {}, {}}, rest = most;
    rest.name = "starting_torque";
    for (const Family& f : list) {
        const auto top = machine.pull_out(f.phase_voltage(), f.frequency);
        if (!top) return top.problems();
        const auto start = machine.at(f.phase_voltage(), f.frequency, 1);
        if (!start) return start.problems();
        most.x.push_back(f.frequency);
        rest.x.push_back(f.frequency);
        most.y.push_back(top->torque);
        rest.y.push_back(start->torque);
    }
    c.answer.curves.push_back(std::move(most));
    c.answer.curves.push_back(std::move(rest));
    return {};
}

/// Of the first family.
Problems add_figures(QuestionContext& c, SlipMachine& machine, const Family& first, const std::string& told) {
    const double voltage = first.phase_voltage(), f = first.frequency;
    const auto most = machine.pull_out(voltage, f);
    if (!most) return most.problems();
    const auto rest = machine.over(voltage, f, {1, 0});
    if (!rest) return rest.problems();
    // Fields of a generating machine are asked for where its slips are.
    const auto& slips = c.inputs.list("slips");
    const bool generating =
        !by_fields(c.inputs) || std::any_of(slips.begin(), slips.end(), [](double slip) { return slip < 0; });
    std::optional<double> braking;
    if (generating) {
        const auto found = machine.pull_out(voltage, f, false);
        if (!found) return found.problems();
        braking = found->torque;
    }
    const SlipPoint &start = rest->front(), &idle = rest->back();
    c.answer.figures = {{"pull_out_torque", most->torque, "N.m"},
                        {"pull_out_slip", most->slip, "1"},
                        {"starting_torque", start.torque, "N.m"},
                        {"starting_current", start.current, "A"},
                        {"no_load_current", idle.current, "A"},
                        {"pull_out_torque_generating", braking, "N.m"},
                        {"synchronous_speed", machine.synchronous_speed(f) / rpm, "rpm"}};
    c.answer.sentence =
        fmt::format("At {:.4g} V and {:.4g} Hz the torque is {:.4g} N·m at most, at a slip of "
                    "{:.3g}; at rest it gives {:.4g} N·m and draws {:.4g} A. {}",
                    first.voltage, f, most->torque, most->slip, start.torque, start.current, told);
    return {};
}

Problems run(QuestionContext& c) {
    const std::vector<Family> list = families(c);
    const Family& first = list.front();
    const auto source = cage_source(c, first.voltage, first.frequency, by_fields(c.inputs));
    if (!source) return source.problems();
    SlipMachine& machine = *source->machine;
    for (const Family& family : list) {
        const std::string suffix =
            list.size() == 1 ? "" : fmt::format("_at_{:.4g}_V_{:.4g}_Hz", family.voltage, family.frequency);
        if (auto problems = add_curves(c, machine, family, suffix); !problems.empty()) return problems;
    }
    if (c.inputs.list("frequency").size() > 1 && c.inputs.list("voltage").size() == 1)
        if (auto problems = add_over_frequency(c, machine, list); !problems.empty()) return problems;
    return add_figures(c, machine, first, source->told);
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
        choice_input(
            "way", "Way", {"circuit", "field"},
            "By the circuit of one phase, given or made from harmonic fields; or each slip by a field.")};
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
     [](const Machine&, const Inputs& inputs) {
         return fields_of_source(inputs, by_fields(inputs));
     },
     run,
     93,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_slip_curves
