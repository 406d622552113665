#include "map/strokes.h"

#include "circuit/decay.h"
#include "circuit/network_window.h"
#include "map/linkage_machine.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr int most_periods = 200, torque_points = 1440;
constexpr double same_current = 1e-4; ///< of the current's peak: what two periods may differ by
constexpr double at_rest = 1e-3;      ///< of it: what may still be to come

// Places of half_bridges() for one phase.
enum Place : Eigen::Index { Link, High, Low, HighDiode, LowDiode, Phase };

double time(const NetworkSample& s) {
    return s.rotor.t;
}

/// W in a valve that conducts.
double loss(const NetworkSample& s, Place place, double drop, double resistance) {
    if (!s.closed[std::size_t(place)]) return 0;
    const double i = s.current[place];
    return i * (drop + resistance * i);
}

constexpr auto current = stroke_current;

} // namespace

double stroke_current(const NetworkSample& sample) {
    return sample.current[Phase];
}

Result<StrokePeriod> run_strokes(const LinkageMap& map, const StrokeDrive& drive) {
    const double omega = drive.periods * drive.speed, length = 2 * pi / omega;
    const LinkageMachine machine(map, {0}, drive.periods, drive.inductance);
    const Network network = half_bridges(drive.bridge, 1, drive.resistance);
    StrokeSettings stroke = drive.stroke;
    stroke.turn_on *= drive.periods;
    stroke.turn_off *= drive.periods;
    stroke.aligned = {0};
    auto owned = std::make_unique<StrokeControl>(stroke);
    const StrokeControl& control = *owned;
    NetworkOptions options;
    options.rotor.start = {0, stroke.turn_on, omega, 0};
    options.longest_step = length / drive.steps;
    options.stop = drive.stop;
    NetworkRun run(network, machine, std::move(owned), options);
    StrokePeriod period;
    Decay decay;
    for (int n = 1; n <= most_periods; ++n) {
        period.samples.clear();
        const int before = control.switchings();
        if (auto problem = run.run(n * length, &period.samples)) return *problem;
        // The last sample stands after the next turn-on, whose current is the same.
        double peak = 1e-12;
        for (const NetworkSample& s : period.samples) peak = std::max(peak, current(s));
        period.periods = n - 1;
        period.switchings = control.switchings() - before;
        const double change = current(period.samples.back()) - current(period.samples.front());
        decay.add(Eigen::VectorXd::Constant(1, change / peak));
        period.periodic = std::abs(change) < same_current * peak && decay.left() < at_rest;
        if (period.periodic) break;
        // A current that never ends between strokes creeps up on the resistance alone: on to its end at once.
        if (stroke.chopping == Chopping::Single && decay.is_one_mode()) {
            const double linked = period.samples.back().linkage[0] - period.samples.front().linkage[0];
            run.set_linkages(run.state() + Eigen::VectorXd::Constant(1, decay.rest() * linked));
            decay.forget();
        }
    }
    return period;
}

StrokeFigures stroke_figures(const StrokePeriod& period, const StrokeDrive& drive) {
    const auto& samples = period.samples;
    const double length = time(samples.back()) - time(samples.front());
    const auto mean = [&](const auto& f) { return window_mean(samples, f); };
    const Bridge& b = drive.bridge;
    StrokeFigures out;
    out.torque_mean = drive.phases * mean([](const NetworkSample& s) { return s.torque; });
    out.current_rms = std::sqrt(mean([](const NetworkSample& s) { return current(s) * current(s); }));
    out.current_mean = mean(current);
    for (const NetworkSample& s : samples) {
        out.current_peak = std::max(out.current_peak, current(s));
        out.linkage_peak = std::max(out.linkage_peak, s.linkage[0]);
    }
    // i dpsi round the loop, the linkage without what stands in series, whose energy comes back.
    for (std::size_t k = 1; k < samples.size(); ++k)
        out.energy += (current(samples[k - 1]) + current(samples[k])) / 2 *
                      (samples[k].linkage[0] - samples[k - 1].linkage[0]);
    const auto from_link = [](const NetworkSample& s) { return -s.current[Link]; };
    out.dc_current_mean = drive.phases * mean(from_link);
    out.input_power = b.dc * out.dc_current_mean;
    out.energy_in = b.dc * length * mean([&](const NetworkSample& s) { return std::max(0.0, from_link(s)); });
    out.energy_back =
        b.dc * length * mean([&](const NetworkSample& s) { return std::max(0.0, -from_link(s)); });
    out.copper = drive.phases * drive.resistance * out.current_rms * out.current_rms;
    out.switches = drive.phases * mean([&](const NetworkSample& s) {
                       return loss(s, High, b.switch_drop, b.switch_resistance) +
                              loss(s, Low, b.switch_drop, b.switch_resistance);
                   });
    out.diodes = drive.phases * mean([&](const NetworkSample& s) {
                     return loss(s, HighDiode, b.diode_drop, b.diode_resistance) +
                            loss(s, LowDiode, b.diode_drop, b.diode_resistance);
                 });
    const double start = drive.stroke.turn_on, off = drive.stroke.turn_off;
    double ended = start;
    const StrokeWave wave(period, current);
    out.current_at_turn_off = wave.at(drive.periods * off);
    for (std::size_t k = 0; k + 1 < samples.size(); ++k)
        if (current(samples[k]) > same_current * out.current_peak)
            ended = samples[k + 1].rotor.angle / drive.periods;
    // Counted on from this period's own turn-on.
    out.extinction = start + ended - samples.front().rotor.angle / drive.periods;
    out.switching_frequency = period.switchings / 2.0 / length;
    const StrokeWave torque(period, [](const NetworkSample& s) { return s.torque; });
    out.torque_peak_to_peak = ripple_of_phases(torque, drive.phases, torque_points);
    return out;
}

StrokeWave::StrokeWave(const StrokePeriod& period, const std::function<double(const NetworkSample&)>& value) {
    for (const NetworkSample& s : period.samples) {
        m_angle.push_back(s.rotor.angle);
        m_value.push_back(value(s));
    }
}

/// The first sample after an angle, which is taken into the period.
std::size_t StrokeWave::after(double& angle) const {
    const double place = angle - m_angle.front();
    angle = m_angle.front() + place - 2 * pi * std::floor(place / (2 * pi));
    return std::size_t(std::upper_bound(m_angle.begin(), m_angle.end(), angle) - m_angle.begin());
}

double StrokeWave::at(double angle) const {
    const std::size_t k = after(angle);
    if (k == 0) return m_value.front();
    if (k == m_angle.size()) return m_value.back();
    const double width = m_angle[k] - m_angle[k - 1], share = width > 0 ? (angle - m_angle[k - 1]) / width : 1;
    return m_value[k - 1] + share * (m_value[k] - m_value[k - 1]);
}

double StrokeWave::step_at(double angle) const {
    const std::size_t k = after(angle);
    return m_value[k == 0 ? 0 : k - 1];
}

double torque_of_phases(const StrokeWave& torque, double angle, int phases) {
    double sum = 0;
    for (int k = 0; k < phases; ++k) sum += torque.at(angle - 2 * pi * k / phases);
    return sum;
}

double ripple_of_phases(const StrokeWave& torque, int phases, int points) {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (int k = 0; k < points; ++k) {
        const double sum = torque_of_phases(torque, 2 * pi * k / points / phases, phases);
        low = std::min(low, sum);
        high = std::max(high, sum);
    }
    return high - low;
}

} // namespace mavlo
