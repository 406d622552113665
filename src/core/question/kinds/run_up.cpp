// A cage runs its load up: time, currents and heat, by its circuit.

#include "circuit/run_up.h"

#include "quantity/constants.h"
#include "question/induction_inputs.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_run_up {
namespace {

constexpr const char *direct = "direct", *star_delta = "star-delta", *soft = "soft",
                     *volts_per_hertz = "volts-per-hertz";
constexpr const char *constant = "constant", *linear = "linear", *square = "square";

/// The mains, of a phase in star.
struct Mains {
    double voltage, frequency;
};

/// Voltage and frequency by the method's rule.
std::function<RunUpSupply(double, double)> supply_of(const QuestionContext& c, Mains mains,
                                                     double synchronous) {
    const std::string& method = c.inputs.word("method");
    const double ramp = c.input("ramp"), from = c.input("first_voltage"), at = c.input("switch_speed");
    if (method == star_delta)
        return [=, in_delta = false](double, double speed) mutable {
            in_delta = in_delta || speed >= at * synchronous; // it stays there
            const double share = in_delta ? 1 : 1 / std::sqrt(3.0);
            return RunUpSupply{share * mains.voltage, mains.frequency, share};
        };
    if (method == soft)
        return [=](double time, double) {
            const double share = std::min(1.0, from + (1 - from) * time / ramp);
            return RunUpSupply{share * mains.voltage, mains.frequency};
        };
    if (method == volts_per_hertz)
        return [=](double time, double) {
            // From a tenth on, since without a frequency there is no wave.
            const double share = std::min(1.0, 0.1 + 0.9 * time / ramp);
            return RunUpSupply{share * mains.voltage, share * mains.frequency};
        };
    return [=](double, double) { return RunUpSupply{mains.voltage, mains.frequency}; };
}

std::function<double(double)> load_of(const QuestionContext& c, double synchronous) {
    const double torque = c.input("load_torque");
    const std::string& form = c.inputs.word("load_form");
    const double power = form == constant ? 0 : form == linear ? 1 : 2;
    return [=](double speed) { return torque * std::pow(std::max(speed, 0.0) / synchronous, power); };
}

Problems check(const QuestionContext& c) {
    if (c.inputs.word("method") == star_delta && c.machine.winding.connection != Connection::Delta)
        return {{"winding.connection",
                 "Star, then delta starts a machine that runs in delta; set the connection "
                 "to delta."}};
    return {};
}

void add_curves(Answer& answer, const RunUpCourse& course) {
    const auto add = [&](const char* name, const char* unit, const auto& value) {
        Curve curve{name, unit, "time", "s", {}, {}};
        for (const RunUpPoint& p : course.points) {
            curve.x.push_back(p.time);
            curve.y.push_back(value(p));
        }
        answer.curves.push_back(std::move(curve));
    };
    add("speed", "rpm", [](const RunUpPoint& p) { return p.speed / rpm; });
    add("torque", "N.m", [](const RunUpPoint& p) { return p.at.torque; });
    add("load_torque", "N.m", [](const RunUpPoint& p) { return p.load_torque; });
    add("current_rms", "A", [](const RunUpPoint& p) { return p.at.current; });
    add("cage_loss", "W", [](const RunUpPoint& p) { return p.at.copper_rotor; });
}

std::string in_words(const RunUpCourse& course, double longest) {
    const RunUpPoint& last = course.points.back();
    if (course.time)
        return fmt::format(
            "It runs up in {:.3g} s to {:.5g} rpm, draws {:.4g} A at most and puts {:.4g} kJ into "
            "the cage.",
            *course.time, last.speed / rpm, course.largest_current, course.cage_heat / 1e3);
    if (course.stands)
        return fmt::format("It does not run up: it stays at {:.4g} rpm, where the load takes what the machine "
                           "gives. Lower the load, raise the voltage or choose another way to start.",
                           last.speed / rpm);
    return fmt::format("After {:.4g} s it has come to {:.4g} rpm and is not done; give it longer.", longest,
                       last.speed / rpm);
}

Problems run(QuestionContext& c) {
    if (auto problems = check(c); !problems.empty()) return problems;
    const double given = c.input("frequency"), f = std::isnan(given) ? base_frequency(c) : given;
    const auto source = cage_source(c, c.input("voltage"), f, false);
    if (!source) return source.problems();
    const Mains mains{c.input("voltage") / std::sqrt(3.0), f};
    const double synchronous = source->machine->synchronous_speed(f);
    RunUp plan;
    plan.supply = supply_of(c, mains, synchronous);
    plan.inertia = c.input("inertia");
    const auto load = load_of(c, synchronous);
    const double friction = given_friction(c);
    plan.load_torque = [=](double speed) { return load(speed) + (speed > 0 ? friction / synchronous : 0); };
    plan.longest = c.input("longest");
    const std::string& method = c.inputs.word("method");
    plan.supply_ends = method == soft || method == volts_per_hertz ? c.input("ramp") : 0;
    const auto course = run_up(*source->machine, plan);
    if (!course) return course.problems();
    add_curves(c.answer, *course);
    const RunUpPoint &first = course->points.front(), &last = course->points.back();
    c.answer.figures = {
        {"run_up_time", course->time, "s"},         {"largest_current", course->largest_current, "A"},
        {"cage_energy", course->cage_heat, "J"},    {"stator_energy", course->stator_heat, "J"},
        {"final_speed", last.speed / rpm, "rpm"},   {"final_current", last.at.current, "A"},
        {"starting_torque", first.at.torque, "N.m"}};
    c.answer.sentence =
        fmt::format("{} {} Through steady states: the currents' first peaks, the torque's swings at switching "
                    "and what the heat does to the resistances are left out.",
                    in_words(*course, plan.longest), source->told);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput frequency{"frequency", "Frequency", "Hz", "auto", "auto: that of the reactances.", 0.01, 1e5};
    frequency.auto_allowed = true;
    std::vector<QuestionInput> list{
        {"voltage", "Voltage (line, rms)", "V", "400 V", "Of the mains.", 0.001, 1e6},
        frequency,
        choice_input(
            "method", "Start", {direct, star_delta, soft, volts_per_hertz},
            "On the full voltage; in star, then in delta; on a rising voltage; on a rising voltage and "
            "frequency."),
        {"inertia", "Inertia", "kg.m2", "0.05 kg.m2", "Of machine and load, at the machine's speed.", 1e-9,
         1e9},
        {"load_torque", "Load torque", "N.m", "0 N.m", "At synchronous speed.", 0, 1e9},
        choice_input("load_form", "Load over speed", {constant, linear, square},
                     "The same at every speed, in proportion to it, or to its square."),
        {"ramp", "Ramp", "s", "3 s", "In which a rising voltage or frequency is at its end.", 1e-6, 1e5},
        {"first_voltage", "First voltage", "", "0.4", "Share of the mains' that a rising voltage begins with.",
         0, 1},
        {"switch_speed", "Change to delta at", "", "0.85", "Share of synchronous speed.", 0, 1},
        {"longest", "Give up after", "s", "60 s", "When it has not run up by then.", 1e-3, 1e6}};
    return with_circuit_inputs(std::move(list));
}

const RegisterQuestion registered{
    {"run-up",
     "Drive",
     "Running up",
     "How long a cage takes to run its load up, with what current, and what heat that puts into it.",
     inputs(),
     [](const Machine&, const Inputs& inputs) { return fields_of_source(inputs, false); },
     run,
     95,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_run_up
