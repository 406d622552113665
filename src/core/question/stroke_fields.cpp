#include "question/stroke_fields.h"

#include "circuit/network_window.h"
#include "figure/gap_stress.h"
#include "figure/stack_losses.h"
#include "quantity/constants.h"
#include "question/supply_inputs.h"
#include "transient/network_field.h"

#include <algorithm>
#include <cmath>
#include <memory>

namespace mavlo {
namespace {

constexpr int elements_of_a_phase = 5; ///< of half_bridges(), behind the link's source

/// Places in half_bridges() of a phase: its winding, and its two switches.
Eigen::Index winding(std::size_t phase) {
    return Eigen::Index(elements_of_a_phase * (phase + 1));
}
std::size_t upper_switch(std::size_t phase) {
    return elements_of_a_phase * phase + 1;
}

/// Those of the first phase, with torque, link and copper of all.
StrokeFigures figures_of(const FullStrokes& full, const StrokeDrive& drive) {
    const auto& samples = full.period.samples;
    StrokeFigures f = stroke_figures(full.period, drive);
    const auto& t = full.torque;
    f.torque_mean = 0;
    for (std::size_t k = 1; k < t.size(); ++k) f.torque_mean += (t[k] + t[k - 1]) / 2 / double(t.size() - 1);
    const auto [low, high] = std::minmax_element(t.begin(), t.end());
    f.torque_peak_to_peak = *high - *low;
    f.dc_current_mean = window_mean(samples, [](const NetworkSample& s) { return -s.current[0]; });
    f.input_power = drive.bridge.dc * f.dc_current_mean;
    f.copper = f.switches = f.diodes = 0;
    for (std::size_t k = 0; k < std::size_t(drive.phases); ++k) {
        f.copper += window_mean(samples, [&](const NetworkSample& s) {
            return drive.resistance * s.current[winding(k)] * s.current[winding(k)];
        });
        for (std::size_t valve = 0; valve < 4; ++valve) {
            const bool is_switch = valve < 2;
            const double drop = is_switch ? drive.bridge.switch_drop : drive.bridge.diode_drop,
                         resistance =
                             is_switch ? drive.bridge.switch_resistance : drive.bridge.diode_resistance;
            const std::size_t at = upper_switch(k) + valve;
            (is_switch ? f.switches : f.diodes) += window_mean(samples, [&](const NetworkSample& s) {
                const double i = s.closed[at] ? s.current[Eigen::Index(at)] : 0;
                return i * (drop + resistance * i);
            });
        }
    }
    return f;
}

} // namespace

int full_stroke_solves(const Machine& machine, int steps) {
    return 2 * steps * (machine.winding.phases + 1) / machine.winding.phases *
           int(machine.skew.slices().size());
}

Result<FullStrokes> full_strokes(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                                 const StrokeDrive& drive, const StrokePeriod& quick, int steps) {
    const auto& lags = c.machine.winding.layout.lags;
    const double omega = drive.periods * drive.speed;
    StrokeSettings stroke = drive.stroke;
    stroke.turn_on *= drive.periods;
    stroke.turn_off *= drive.periods;
    stroke.aligned = lags;
    NetworkOptions circuit;
    // A little before the first phase is switched on, so that its beginning lies within.
    circuit.rotor.start = {0, stroke.turn_on, omega, 0};
    circuit.longest_step = 2 * pi / omega / drive.steps;
    circuit.tolerance = 1e-5;
    circuit.stop = drive.stop;
    NetworkFieldOptions options;
    options.start = phase_axis(c.machine.winding.layout);
    options.pole_pairs = drive.periods;
    options.steps = steps;
    options.series = drive.inductance;
    options.slices = c.machine.skew.slices();
    options.stop = drive.stop;
    FullStrokes full;
    StackLosses losses(*model, options.slices, omega);
    bool counts = false; // the first period only settles
    double last = 0;
    const auto tooth = std::size_t(tooth_of_phase(c.machine, 0));
    const auto look = [&](double dt, const std::vector<FieldSolution>& fields) {
        double force = 0;
        for (std::size_t k = 0; k < fields.size(); ++k) {
            losses.add(k, dt, fields[k]);
            force += options.slices[k].share *
                     tooth_forces(c.machine, gap_stress(*model, fields[k], stroke_places(c.machine)))[tooth];
        }
        full.tooth_force.push_back(force);
    };
    options.seen = [&](double angle, const std::vector<FieldSolution>& fields) {
        if (counts) look((angle - last) / omega, fields);
        last = angle;
    };
    const Network network = half_bridges(drive.bridge, drive.phases, drive.resistance);
    NetworkField run(model, network, std::make_unique<StrokeControl>(stroke), circuit, options);
    const StrokeWave current(quick, stroke_current);
    Eigen::VectorXd begin(drive.phases);
    for (Eigen::Index k = 0; k < begin.size(); ++k)
        begin[k] = std::max(0.0, current.at(stroke.turn_on - lags[std::size_t(k)]));
    begin[0] = quick.periodic ? stroke_current(quick.samples.front()) : begin[0];
    auto problem = run.run(1.0, begin, nullptr);
    const std::size_t before = run.torques().size();
    counts = true;
    if (!problem) look(0, run.fields());
    if (!problem) problem = run.run(1, begin, &full.period.samples);
    c.answer.effort.solves += run.solves();
    c.answer.effort.newton_steps += run.newton_steps();
    if (c.watch.stop.stop_requested()) return stopped();
    if (problem) return *problem;
    full.period.periodic = quick.periodic;
    full.period.periods = 1;
    for (std::size_t k = before - 1; k < run.torques().size(); ++k) {
        full.torque_angle.push_back(run.torques()[k].angle);
        full.torque.push_back(run.torques()[k].torque);
    }
    full.iron = losses.iron({});
    full.figures = figures_of(full, drive);
    return full;
}

namespace {

double conducting(const NetworkSample& s, std::size_t phase) {
    return double(s.closed[upper_switch(phase)] + s.closed[upper_switch(phase) + 1]) - 1;
}

/// Nodes "a" and "b" of a phase follow the link's.
double across(const NetworkSample& s, std::size_t phase) {
    const auto high = Eigen::Index(2 + 2 * phase);
    return s.potential[high] - s.potential[high + 1];
}

} // namespace

StrokeCurves curves_of(const StrokePeriod& quick, const std::vector<double>& lags) {
    const StrokeWave torque(quick, [](const NetworkSample&s) { return s.torque; }),
        current(quick, stroke_current), voltage(quick, [](const NetworkSample&s) { return across(s, 0); }),
        linkage(quick, [](const NetworkSample&s) { return s.linkage[0]; }),
        link(quick, [](const NetworkSample&s) { return -s.current[0]; }),
        gate(quick, [](const NetworkSample&s) { return conducting(s, 0); });
    const int phases = int(lags.size());
    StrokeCurves out;
    out.current = [=](std::size_t k, double angle) { return current.at(angle - lags[k]); };
    out.voltage = [=](std::size_t k, double angle) { return voltage.at(angle - lags[k]); };
    out.linkage = [=](std::size_t k, double angle) { return linkage.at(angle - lags[k]); };
    out.gate = [=](std::size_t k, double angle) { return gate.step_at(angle - lags[k]); };
    out.torque = [=](double angle) { return torque_of_phases(torque, angle, phases); };
    out.link = [=](double angle) { return torque_of_phases(link, angle, phases); };
    return out;
}

StrokeCurves curves_of(const FullStrokes& full, std::size_t phases) {
    std::vector<StrokeWave> current, voltage, linkage, gate;
    for (std::size_t k = 0; k < phases; ++k) {
        current.emplace_back(full.period, [k](const NetworkSample& s) { return s.current[winding(k)]; });
        voltage.emplace_back(full.period, [k](const NetworkSample& s) { return across(s, k); });
        linkage.emplace_back(full.period, [k](const NetworkSample& s) { return s.linkage[Eigen::Index(k)]; });
        gate.emplace_back(full.period, [k](const NetworkSample& s) { return conducting(s, k); });
    }
    const StrokeWave link(full.period, [](const NetworkSample&s) { return -s.current[0]; }),
        torque(full.torque_angle, full.torque);
    StrokeCurves out;
    out.current = [=](std::size_t k, double angle) { return current[k].at(angle); };
    out.voltage = [=](std::size_t k, double angle) { return voltage[k].at(angle); };
    out.linkage = [=](std::size_t k, double angle) { return linkage[k].at(angle); };
    out.gate = [=](std::size_t k, double angle) { return gate[k].step_at(angle); };
    out.torque = [=](double angle) { return torque.at(angle); };
    out.link = [=](double angle) { return link.at(angle); };
    return out;
}

} // namespace mavlo
