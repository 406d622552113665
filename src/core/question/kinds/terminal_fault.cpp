// A fault at the terminals, from its first instant on: currents, torque, and what stays over the speeds.

#include "question/terminal_fault.h"

#include "circuit/dq_frame.h"
#include "quantity/constants.h"
#include "question/circumstances.h"
#include "question/drive_inputs.h"
#include "question/period.h"
#include "question/supply_inputs.h"
#include "question/supply_run.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_terminal_fault {
namespace {

constexpr int steps = 360, speed_steps = 96, angles = 24, most_maps = 3;

Fault asked_fault(const Inputs& inputs) {
    return fault_of(inputs.word("fault"));
}

int solves(const Machine& machine, const Inputs& inputs) {
    constexpr int maps = 2; // the second one reaches as far as the fault's currents do on the first
    return maps * time_map_solves(machine, inputs) +
           (has_common_current(asked_fault(inputs), machine) ? zero_sequence_solves : 0);
}

Problems checked(const QuestionContext& c) {
    if (auto problems = fault_problems("--with fault", asked_fault(c.inputs), c.machine); !problems.empty())
        return problems;
    if (c.input("speed") <= 0)
        return {{"--with speed", "A fault drives currents in a machine that turns: give a speed above zero."}};
    if (c.map && has_common_current(asked_fault(c.inputs), c.machine))
        return {{"--map", "A map over d and q does not say what a current common to all phases meets, which "
                          "flows in this fault; ask without it."}};
    return {};
}

/// What a fault does on one map.
struct Found {
    double angle = 0; ///< electrical, when it happens
    std::vector<NetworkSample> first;
    NetworkWindow steady;
    double beyond = 0; ///< A, of the first periods beyond the map's edge
    double reach = 0;  ///< A, the largest current along d or q
};

class FaultOnMap {
  public:
    FaultOnMap(QuestionContext& context, GridMaps maps, double common)
        : c(context)
        , m_mean(std::move(maps.mean))
        , m_phases(std::move(maps.position), given_end_inductance(context), common,
                   context.machine.pole_pairs())
        , m_circuit(fault_circuit(asked_fault(context.inputs), is_delta(context.machine),
                                  given_resistance(context))) {}

    const FluxMap& mean() const { return m_mean; }
    const Network& network() const { return m_circuit.network; }

    std::unique_ptr<FaultRun> run_of(FaultOnset onset, int per_period) const {
        return std::make_unique<FaultRun>(m_phases, m_circuit, pairs(), onset, per_period, stop_of(c));
    }

    Result<Found> find() const {
        FaultOnset onset{c.input("speed"), c.input("angle"), before()};
        if (std::isnan(onset.angle)) {
            const auto worst = worst_onset(
                m_phases, m_circuit, pairs(), onset, angles,
                [](const FaultRun& run, const NetworkSample& s) {
                    return run.currents(s).cwiseAbs().maxCoeff();
                },
                stop_of(c));
            if (!worst) return worst.problems();
            onset.angle = worst->angle;
        }
        Found out;
        out.angle = onset.angle;
        const auto run = run_of(onset, steps);
        auto first = run->go_on(c.input("periods"));
        if (!first) return first.problems();
        out.first = std::move(*first);
        for (const NetworkSample& s : out.first) {
            const Dq i = run->vector(s);
            out.beyond = std::max(out.beyond, beyond_map(m_mean, i));
            out.reach = std::max({out.reach, std::abs(i.d), std::abs(i.q)});
        }
        auto steady = run->steady();
        if (!steady) return steady.problems();
        out.steady = std::move(*steady);
        return out;
    }

  private:
    int pairs() const { return c.machine.pole_pairs(); }
    Dq before() const {
        if (c.inputs.word("before") == "no-load") return {};
        return current_vector(c.machine.rating.current, c.machine.rating.advance);
    }

    QuestionContext& c;
    FluxMap m_mean;
    PhasesByMap m_phases;
    FaultCircuit m_circuit;
};

/// rms of each phase.
Currents rms_of(const Network& network, const NetworkWindow& window) {
    Currents out = Currents::Zero();
    for (int phase = 0; phase < 3; ++phase) {
        const auto i = [&](const NetworkSample& s) { return phase_currents(network, s)[phase]; };
        out[phase] = std::sqrt(window_mean(window.samples, i, i));
    }
    return out;
}

double torque_of(const NetworkSample& s) {
    return s.torque;
}

/// Of a star the voltage of terminal W against the joined ones (two-phase) or the neutral, peak over a steady
/// period: the slope of what is linked, between samples.
std::optional<double> open_voltage(const QuestionContext& c, const Network& network,
                                   const NetworkWindow& window) {
    const Fault fault = asked_fault(c.inputs);
    if (is_delta(c.machine) || fault == Fault::ThreePhase) return std::nullopt;
    const double resistance = given_resistance(c);
    double peak = 0;
    for (std::size_t k = 1; k < window.samples.size(); ++k) {
        const NetworkSample &a = window.samples[k - 1], &b = window.samples[k];
        const double dt = b.rotor.t - a.rotor.t;
        if (dt <= 0) continue;
        double voltage = (b.linkage[2] - a.linkage[2]) / dt;
        if (fault == Fault::TwoPhase)
            voltage -= (b.linkage[0] - a.linkage[0]) / dt +
                       resistance * (phase_currents(network, a)[0] + phase_currents(network, b)[0]) / 2;
        peak = std::max(peak, std::abs(voltage));
    }
    return peak;
}

/// The first periods over time.
void add_waves(QuestionContext& c, const Network& network, const Found& found) {
    const auto add = [&](const std::string& name, const char* unit, auto value) {
        Curve curve{name, unit, "time", "s", {}, {}};
        for (const NetworkSample& s : found.first) {
            curve.x.push_back(s.rotor.t);
            curve.y.push_back(value(s));
        }
        c.answer.curves.push_back(std::move(curve));
    };
    for (int phase = 0; phase < 3; ++phase)
        add("current_" + phase_suffix(std::size_t(phase)), "A",
            [&, phase](const NetworkSample& s) { return phase_currents(network, s)[phase]; });
    add("torque", "N.m", torque_of);
    const auto vector = [&](const NetworkSample& s) {
        return Eigen::Vector2d(DqFrame(s.rotor.angle).in() * phase_currents(network, s));
    };
    add("id", "A", [&](const NetworkSample& s) { return vector(s)[0]; });
    add("iq", "A", [&](const NetworkSample& s) { return vector(s)[1]; });
}

/// What stays, over the speeds; returns whether every run settled.
Result<bool> add_speeds(QuestionContext& c, const FaultOnMap& machine) {
    Curve current{"short_circuit_current_rms", "A", "speed", "rpm", {}, {}},
        torque{"braking_torque", "N.m", "speed", "rpm", {}, {}};
    bool all_settled = true;
    for (double speed : c.inputs.list("speeds")) {
        if (speed <= 0) continue;
        const auto window = machine.run_of({speed, 0, {}}, speed_steps)->steady();
        if (c.watch.stop.stop_requested()) return stopped();
        if (!window) return window.problems();
        all_settled = all_settled && window->periodic;
        for (Curve* curve : {&current, &torque}) curve->x.push_back(speed / rpm);
        current.y.push_back(rms_of(machine.network(), *window).maxCoeff());
        torque.y.push_back(window_mean(window->samples, torque_of));
    }
    if (current.x.empty()) return true;
    const auto worst = std::min_element(torque.y.begin(), torque.y.end()) - torque.y.begin();
    c.answer.figures.push_back({"braking_torque_most", torque.y[std::size_t(worst)], "N.m"});
    c.answer.figures.push_back({"speed_at_most_braking", torque.x[std::size_t(worst)], "rpm"});
    c.answer.curves.push_back(std::move(current));
    c.answer.curves.push_back(std::move(torque));
    return all_settled;
}

void tell(QuestionContext& c, const Network& network, const Found& found) {
    double current = 0, torque = 0, along_d = 0;
    for (const NetworkSample& s : found.first) {
        const Currents i = phase_currents(network, s);
        current = std::max(current, i.cwiseAbs().maxCoeff());
        along_d = std::min(along_d, (DqFrame(s.rotor.angle).in() * i)[0]);
        if (std::abs(s.torque) > std::abs(torque)) torque = s.torque;
    }
    const auto& samples = found.steady.samples;
    const auto [low, high] =
        std::minmax_element(samples.begin(), samples.end(),
                            [](const NetworkSample& a, const NetworkSample& b) { return a.torque < b.torque; });
    const Currents rms = rms_of(network, found.steady);
    const double resistance = given_resistance(c), mean = window_mean(samples, torque_of);
    const bool settled = found.steady.periodic;
    const auto known = [&](double value) { return settled ? std::optional(value) : std::nullopt; };
    const auto open = open_voltage(c, network, found.steady);
    c.answer.figures = {{"current_peak", current, "A"},
                        {"torque_largest", torque, "N.m"},
                        {"id_furthest", along_d, "A"},
                        {"fault_angle", found.angle * 180 / pi, "deg"},
                        {"current_rms", known(rms.maxCoeff()), "A"},
                        {"torque_mean", known(mean), "N.m"},
                        {"torque_peak_to_peak", known(high->torque - low->torque), "N.m"},
                        {"open_voltage_peak", open ? known(*open) : std::nullopt, "V"},
                        {"copper_loss", known(resistance * rms.squaredNorm()), "W"},
                        {"periods_to_steady", known(found.steady.periods + c.input("periods")), "1"},
                        end_inductance_figure(c)};
    c.answer.sentence = fmt::format("A {} fault at {:.4g} rpm drives up to {:.4g} A and {:.4g} N·m",
                                    c.inputs.word("fault"), c.input("speed") / rpm, current, torque);
    c.answer.sentence +=
        settled ? fmt::format("; what stays is {:.4g} A rms and {:.4g} N·m on average.", rms.maxCoeff(), mean)
                : "; no steady state was found.";
    if (open && settled)
        c.answer.sentence += fmt::format(" The open terminal then stands at up to {:.4g} V.", *open);
}

Problems run(QuestionContext& c) {
    if (auto problems = checked(c); !problems.empty()) return problems;
    double common = 0;
    if (has_common_current(asked_fault(c.inputs), c.machine)) {
        const auto found = zero_sequence_inductance(c);
        if (!found) return found.problems();
        common = *found;
    }
    std::unique_ptr<FaultOnMap> machine;
    std::optional<Found> found;
    // Maps that reach further, until the fault's currents stay on one.
    double most = 0;
    for (int k = 0; k < most_maps; ++k) {
        auto map = most > 0 ? time_map(c, most) : time_map(c);
        if (!map) return map.problems();
        machine = std::make_unique<FaultOnMap>(c, std::move(*map), common);
        auto once = machine->find();
        if (c.watch.stop.stop_requested()) return {stopped()};
        if (!once) return once.problems();
        found = std::move(*once);
        most = 1.1 * found->reach;
        if (found->beyond <= 0 || c.map) break;
    }
    tell(c, machine->network(), *found);
    add_waves(c, machine->network(), *found);
    const auto settled = add_speeds(c, *machine);
    if (!settled) return settled.problems();
    std::string& out = c.answer.sentence;
    if (!*settled) out += " At some speeds no steady state was found: the last periods are shown.";
    out = joined_sentences(out, beyond_map_in_words(machine->mean(), found->beyond));
    out += " Everything but the joined terminals is open; torque is the gap's. By the flux map: iron loss and "
           "eddy currents are left out. " +
           conditions_in_words(c.machine);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput fault = choice_input("fault", "Fault", {"two-phase", "phase-to-neutral", "three-phase"},
                                       "Which terminals are joined: of U and V, of U and the star point, or "
                                       "all.");
    QuestionInput angle{"angle",
                        "Angle (electrical)",
                        "deg",
                        "auto",
                        "Of the d axis from phase U when it happens; auto: the one with the largest current.",
                        -360,
                        360};
    angle.auto_allowed = true;
    QuestionInput speeds =
        list_input("speeds", "Speeds", "rpm", "10:100:10 %",
                   "For what stays; from:to:step in rpm, or % of the largest speed.", 0, 500000);
    speeds.percent_of = "rating.max_speed";
    std::vector<QuestionInput> all{
        fault,
        {"speed", "Speed", "rpm", "= rating.speed", "Of the shaft; it is held.", 0, 500000},
        choice_input("before", "Before", {"no-load", "rated"}, "No current, or the rated one at its advance."),
        angle,
        {"periods", "Periods shown", "", "5", "Electrical periods from the fault on.", 1, 200, true},
        speeds};
    for (auto& list : {winding_inputs(), time_map_inputs()}) all.insert(all.end(), list.begin(), list.end());
    return all;
}

const RegisterQuestion registered{
    {"terminal-fault",
     "Drive",
     "Fault at the terminals",
     "Currents and torque after terminals are joined, two of them, one with the neutral, or all.",
     inputs(),
     solves,
     run,
     92,
     {need_winding, need_three_phases, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_terminal_fault
