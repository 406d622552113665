#include "circuit/network_window.h"

#include "circuit/decay.h"
#include "quantity/straight_wave.h"

namespace mavlo {
namespace {

constexpr double same_state = 1e-5; ///< from one period to the next
constexpr double at_rest = 1e-4;    ///< of what is still to come

} // namespace

Result<NetworkWindow> find_network_steady(NetworkRun& run, const NetworkSteady& options) {
    NetworkWindow out;
    double end = run.now().t;
    Eigen::VectorXd before = run.state(), largest = before.cwiseAbs();
    Decay decay;
    for (; !options.from_start && out.periods < options.most_periods && !out.periodic; ++out.periods) {
        end += options.period;
        if (auto problem = run.run(end, nullptr)) return *problem;
        largest = largest.cwiseMax(run.state().cwiseAbs());
        const Eigen::VectorXd change = run.state() - before, scale = largest.array() + 1e-12;
        decay.add(change.cwiseQuotient(scale));
        out.periodic = out.periods > 0 &&
                       (change.array().abs() <= same_state * largest.array() + 1e-15).all() &&
                       decay.left() <= at_rest;
        // A slow mode alone (a link's capacitor, a winding of little resistance) is taken to its end at once.
        if (!out.periodic && decay.is_one_mode()) {
            run.set_state(run.state() + decay.rest() * change);
            decay.forget();
        }
        before = run.state();
    }
    end += options.window * options.period;
    if (auto problem = run.run(end, &out.samples)) return *problem;
    return out;
}

double window_mean(const std::vector<NetworkSample>& samples,
                   const std::function<double(const NetworkSample&)>& one,
                   const std::function<double(const NetworkSample&)>& other) {
    double sum = 0;
    for (std::size_t i = 1; i < samples.size(); ++i) {
        const NetworkSample &a = samples[i - 1], &b = samples[i];
        const double dt = b.rotor.t - a.rotor.t;
        if (dt <= 0) continue;
        const double p = one(a), q = one(b), r = other(a), s = other(b);
        sum += dt / 6 * (2 * p * r + p * s + q * r + 2 * q * s);
    }
    return sum / (samples.back().rotor.t - samples.front().rotor.t);
}

double window_mean(const std::vector<NetworkSample>& samples,
                   const std::function<double(const NetworkSample&)>& value) {
    return window_mean(samples, value, [](const NetworkSample&) { return 1.0; });
}

std::complex<double> window_harmonic(const std::vector<NetworkSample>& samples, double omega, int order,
                                     const std::function<double(const NetworkSample&)>& value) {
    const double start = samples.front().rotor.t, turn = order * omega;
    std::complex<double> sum = 0;
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const double from = samples[k - 1].rotor.t - start, to = samples[k].rotor.t - start;
        if (to <= from) continue;
        const auto [first, last] = straight_wave(turn * from, turn * to, to - from);
        sum += value(samples[k - 1]) * first + value(samples[k]) * last;
    }
    return (order == 0 ? 1.0 : 2.0) / (samples.back().rotor.t - start) * sum;
}

double voltage_across(const NetworkSample& sample, const Element& e) {
    return sample.potential[e.from] - sample.potential[e.to];
}

} // namespace mavlo
