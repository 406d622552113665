#include "question/terminal_fault.h"

#include "circuit/dq_frame.h"
#include "circuit/phase_ports.h"
#include "quantity/constants.h"
#include "quantity/dense.h"
#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_held = 30, most_settling = 2000;

Element phase_between(int phase, int from, int to, double resistance) {
    Element e;
    e.kind = Element::Phase;
    e.name = fmt::format("X{}", phase + 1);
    e.from = from;
    e.to = to;
    e.phase = phase;
    e.value = resistance;
    return e;
}

Eigen::MatrixXd matrix_of_columns(std::initializer_list<Eigen::Vector3d> list) {
    Eigen::MatrixXd out(3, Eigen::Index(list.size()));
    Eigen::Index column = 0;
    for (const Eigen::Vector3d& c : list) out.col(column++) = c;
    return out;
}

FaultCircuit of_star(Fault fault, double resistance) {
    FaultCircuit out;
    if (fault == Fault::PhaseToNeutral) {
        out.network.elements = {phase_between(0, 0, 0, resistance)};
        out.loops = matrix_of_columns({{1, 0, 0}});
        return out;
    }
    const int joined = out.network.node("joined");
    for (int phase = 0; phase < (fault == Fault::TwoPhase ? 2 : 3); ++phase)
        out.network.elements.push_back(phase_between(phase, joined, 0, resistance));
    out.loops = fault == Fault::TwoPhase ? matrix_of_columns({{1, -1, 0}}) : matrix_of_columns({{1, -1, 0}, {0, 1, -1}});
    return out;
}

FaultCircuit of_delta(Fault fault, double resistance) {
    FaultCircuit out;
    if (fault == Fault::TwoPhase) {
        const int open = out.network.node("open");
        out.network.elements = {phase_between(0, 0, 0, resistance), phase_between(1, 0, open, resistance),
                                phase_between(2, open, 0, resistance)};
        out.loops = matrix_of_columns({{1, 0, 0}, {0, 1, 1}});
        return out;
    }
    for (int phase = 0; phase < 3; ++phase)
        out.network.elements.push_back(phase_between(phase, 0, 0, resistance));
    out.loops = Eigen::MatrixXd::Identity(3, 3);
    return out;
}

} // namespace

const std::vector<std::string>& fault_words() {
    static const std::vector<std::string> words{"three-phase", "two-phase", "phase-to-neutral"};
    return words;
}

Fault fault_of(const std::string& word) {
    const auto& words = fault_words();
    return Fault(std::find(words.begin(), words.end(), word) - words.begin());
}

bool has_common_current(Fault fault, const Machine& machine) {
    return is_delta(machine) || fault == Fault::PhaseToNeutral;
}

Problems fault_problems(const std::string& path, Fault fault, const Machine& machine) {
    if (auto problems = terminal_problems(machine); !problems.empty()) return problems;
    if (fault == Fault::PhaseToNeutral && is_delta(machine))
        return {{path, "A delta has no neutral that a terminal could be joined to."}};
    return {};
}

FaultCircuit fault_circuit(Fault fault, bool delta, double resistance) {
    return delta ? of_delta(fault, resistance) : of_star(fault, resistance);
}

Currents phase_currents(const Network& network, const NetworkSample& sample) {
    Currents out = Currents::Zero();
    const auto& elements = network.elements;
    for (std::size_t k = 0; k < elements.size(); ++k) out[elements[k].phase] = sample.current[Eigen::Index(k)];
    return out;
}

Currents held_currents(const PhaseMachine& machine, const FaultCircuit& circuit, double angle,
                       const Currents& before) {
    const Eigen::MatrixXd& loops = circuit.loops;
    const Eigen::VectorXd held = loops.transpose() * machine.at(angle, before).linkage;
    Eigen::VectorXd x = least_squares(loops, before);
    for (int k = 0; k < most_held; ++k) {
        const PhaseState s = machine.at(angle, loops * x);
        const Eigen::VectorXd wrong = held - loops.transpose() * s.linkage;
        if (wrong.cwiseAbs().maxCoeff() <= 1e-10 * std::max(1e-12, held.cwiseAbs().maxCoeff())) break;
        x += least_squares(loops.transpose() * s.inductance * loops, wrong);
    }
    return loops * x;
}

struct FaultRun::Parts {
    PhasePorts ports;
    FaultCircuit circuit;
    double period;
    NetworkRun run;

    Parts(const PhaseMachine& phases, FaultCircuit given, int pole_pairs, const FaultOnset& onset, int steps,
          std::function<bool()> stop)
        : ports(phases)
        , circuit(std::move(given))
        , period(2 * pi / (pole_pairs * onset.speed))
        , run(circuit.network, ports, nullptr, options(pole_pairs, onset, period / steps, std::move(stop))) {
        const Currents before = DqFrame(onset.angle).out * Eigen::Vector2d(onset.before.d, onset.before.q);
        run.set_linkages(phases.at(onset.angle, held_currents(phases, circuit, onset.angle, before)).linkage);
    }

    static NetworkOptions options(int pole_pairs, const FaultOnset& onset, double step,
                                  std::function<bool()> stop) {
        NetworkOptions o;
        o.rotor.start = {0, onset.angle, pole_pairs * onset.speed, 0};
        o.rotor.pole_pairs = pole_pairs;
        o.longest_step = step;
        o.stop = std::move(stop);
        return o;
    }
};

FaultRun::FaultRun(const PhaseMachine& phases, FaultCircuit circuit, int pole_pairs, FaultOnset onset,
                   int steps, std::function<bool()> stop)
    : m(std::make_unique<Parts>(phases, std::move(circuit), pole_pairs, onset, steps, std::move(stop))) {}

FaultRun::~FaultRun() = default;

double FaultRun::period() const {
    return m->period;
}

Result<std::vector<NetworkSample>> FaultRun::go_on(double periods) {
    std::vector<NetworkSample> samples;
    if (auto problem = m->run.run(m->run.now().t + periods * m->period, &samples)) return *problem;
    return samples;
}

Result<NetworkWindow> FaultRun::steady() {
    NetworkSteady options;
    options.period = m->period;
    options.most_periods = most_settling;
    return find_network_steady(m->run, options);
}

Currents FaultRun::currents(const NetworkSample& sample) const {
    return phase_currents(m->circuit.network, sample);
}

Dq FaultRun::vector(const NetworkSample& sample) const {
    const Eigen::Vector2d i = DqFrame(sample.rotor.angle).in() * currents(sample);
    return {i[0], i[1]};
}

Result<WorstFault> worst_onset(const PhaseMachine& phases, const FaultCircuit& circuit, int pole_pairs,
                               FaultOnset onset, int angles,
                               const std::function<double(const FaultRun&, const NetworkSample&)>& badness,
                               const std::function<bool()>& stop) {
    constexpr int steps = 120;
    constexpr double first_periods = 1.25;
    WorstFault worst{0, -1};
    for (int k = 0; k < angles; ++k) {
        onset.angle = 2 * pi * k / angles;
        FaultRun run(phases, circuit, pole_pairs, onset, steps, stop);
        const auto samples = run.go_on(first_periods);
        if (!samples) return samples.problems();
        for (const NetworkSample& s : *samples)
            // Of onsets that are alike the first.
            if (const double bad = badness(run, s); bad > worst.value * (1 + 1e-6)) worst = {onset.angle, bad};
    }
    return worst;
}

} // namespace mavlo
