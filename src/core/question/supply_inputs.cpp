#include "question/supply_inputs.h"

#include "circuit/delta.h"

#include <cmath>

namespace mavlo {

QuestionInput choice_input(const char* key, const char* label, std::vector<std::string> words,
                           const char* help) {
    QuestionInput input{key, label, "", words.front(), help};
    input.kind = InputKind::Choice;
    input.words = std::move(words);
    return input;
}

namespace {

QuestionInput left_open(QuestionInput input) {
    input.auto_allowed = true;
    return input;
}

} // namespace

std::vector<QuestionInput> supply_inputs() {
    std::vector<QuestionInput> list{
        left_open({"voltage", "Voltage (phase, peak)", "V", "auto",
                   "Of sinusoidal voltages; auto: what the rated torque needs, up to half the rated link's.", 0,
                   1e6}),
        left_open({"voltage_angle", "Voltage angle (electrical)", "deg", "auto",
                   "Of voltages, six-step and modulation, ahead of the no-load EMF; auto: what gives the rated "
                   "torque, or the most there is.",
                   -360, 360}),
        {"dc_voltage", "DC voltage", "V", "= rating.dc_voltage", "Of the bridge's link.", 0, 1e6},
        left_open({"lead", "Lead (electrical)", "deg", "auto",
                   "Of blocks, ahead of the no-load EMF; auto: none, or the axis of most torque where there is "
                   "no EMF.",
                   -180, 180}),
        {"chop_current", "Current limit (peak)", "A", "0", "Of blocks; 0: none.", 0, 1e6},
        {"band", "Band", "A", "0", "Below the limit, or of current control about its reference.", 0, 1e6},
        choice_input("chop", "At the limit", {"soft", "hard"}, "The upper switch opens, or both."),
        {"current", "Current (peak)", "A", "= rating.current", "Of given currents and of current control.", 0,
         1e6},
        {"advance", "Advance (electrical)", "deg", "= rating.advance", "Of the current, from +q towards -d.",
         -360, 360},
        {"least_interval", "Least interval", "s", "0", "Between two switchings of a leg under current control.",
         0, 1},
        {"carrier_frequency", "Carrier frequency", "Hz", "8000", "Of pulse-width modulation.", 0, 1e6},
        left_open({"modulation", "Modulation index", "", "auto",
                   "Fundamental of the phase voltage over half the link's voltage; auto: what the rated torque "
                   "needs.",
                   0, 4}),
        choice_input("sampling", "Sampling", {"natural", "regular", "regular-twice"},
                     "Of the references: always, once or twice a carrier period."),
        {"dead_time", "Dead time", "s", "0", "Between the switches of a leg.", 0, 1}};
    for (const QuestionInput& input : valve_inputs()) list.push_back(input);
    list.push_back({"shorted", "Terminals joined", "", "3", "Of a short circuit: two or three.", 2, 3, true});
    return list;
}

std::vector<QuestionInput> valve_inputs() {
    return {{"switch_drop", "Switch drop", "V", "0", "Of a switch that conducts.", 0, 100},
            {"switch_resistance", "Switch resistance", "Ohm", "0", "Of a switch that conducts.", 0, 1e3},
            {"diode_drop", "Diode drop", "V", "0", "Of a diode that conducts.", 0, 100},
            {"diode_resistance", "Diode resistance", "Ohm", "0", "Of a diode that conducts.", 0, 1e3}};
}

std::vector<QuestionInput> winding_inputs(const char* end_inductance) {
    QuestionInput resistance{"resistance", "Phase resistance", "Ohm", "auto", "auto: the winding's.", 0, 1e6};
    resistance.auto_allowed = true;
    return {resistance, end_inductance_input(end_inductance)};
}

QuestionInput end_inductance_input(const char* standard) {
    QuestionInput input{"end_inductance",
                        "End-winding inductance",
                        "mH",
                        standard,
                        "Of a phase, beside what the section links; auto: the winding's, none beside a map "
                        "that is brought along; 0: left out.",
                        0,
                        1e3};
    input.auto_allowed = true;
    return input;
}

SupplySettings supply_settings(const Inputs& inputs, double omega) {
    const auto of = [&](const char* key) { return inputs.number_or(key, 0); };
    SupplySettings s;
    s.bridge = {of("dc_voltage"), of("switch_drop"), of("switch_resistance"), of("diode_drop"),
                of("diode_resistance")};
    s.clock.omega = omega;
    s.voltage = of("voltage");
    s.voltage_angle = of("voltage_angle");
    s.lead = of("lead");
    s.chop_current = of("chop_current");
    s.band = of("band");
    s.hard_chop = inputs.word_or("chop", "soft") == "hard";
    s.carrier_frequency = of("carrier_frequency");
    s.modulation = of("modulation");
    const std::string sampling = inputs.word_or("sampling", "natural");
    s.sampling = sampling == "natural"   ? Sampling::Natural
                 : sampling == "regular" ? Sampling::Symmetric
                                         : Sampling::Asymmetric;
    s.dead_time = of("dead_time");
    s.least_interval = of("least_interval");
    s.current = of("current");
    s.advance = of("advance");
    s.shorted = int(of("shorted"));
    return s;
}

double given_resistance(const QuestionContext& c) {
    const double given = c.input("resistance");
    return std::isnan(given) ? machine_conductor(c.machine).resistance : given;
}

double given_end_inductance(const QuestionContext& c) {
    const double given = c.input("end_inductance");
    if (!std::isnan(given)) return given;
    // A map from elsewhere links what it links, ends and all.
    return c.map ? 0 : machine_conductor(c.machine).end_inductance;
}

Figure end_inductance_figure(const QuestionContext& c) {
    return {"end_winding_inductance", given_end_inductance(c), "H"};
}

std::function<bool()> stop_of(const QuestionContext& c) {
    return [stop = c.watch.stop] { return stop.stop_requested(); };
}

TransientOptions circuit_options(const QuestionContext& c, int steps) {
    TransientOptions options;
    options.resistance = given_resistance(c);
    options.steps = steps;
    options.stop = stop_of(c);
    options.delta = is_delta(c.machine);
    return options;
}

Result<std::unique_ptr<Supply>> given_supply(const QuestionContext& c, const SupplySettings& settings) {
    const SupplyKind* kind = registry<SupplyKind>().find(c.inputs.word("supply"));
    return kind->make(is_delta(c.machine) ? at_terminals_of_delta(settings) : settings);
}

bool is_delta(const Machine& machine) {
    return machine.winding.connection == Connection::Delta;
}

Problems terminal_problems(const Machine& machine) {
    if (machine.winding.connection != Connection::Open) return {};
    return {{"winding.connection",
             "This supply has three terminals; set the connection to star or delta, or describe what feeds "
             "the open phases as a circuit of your own (in-time, supply=own)."}};
}

} // namespace mavlo
