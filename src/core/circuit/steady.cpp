#include "circuit/steady.h"

#include "circuit/shooting.h"
#include "quantity/straight_wave.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr int first_periods = 3, most_shooting = 12;
/// Periods in a row whose ends lie within the band, before nothing but wandering is left.
constexpr int returns_wanted = 10;

double size_of(const Currents& i) {
    return i.cwiseAbs().maxCoeff();
}

class Finder {
  public:
    Finder(const PhaseMachine& machine, const Clock& clock, std::unique_ptr<Supply> supply,
           const TransientOptions& transient, const SteadyOptions& options)
        : m_run(machine, clock, std::move(supply), transient)
        , m_period(clock.period())
        , m_delta(transient.delta)
        , m_options(options) {}

    Result<SteadyRun> run() {
        if (m_options.from_zero) return window(m_options.window);
        for (int k = 0; k < first_periods; ++k)
            if (auto problem = forward()) return *problem;
        const bool scheduled = m_run.supply().is_scheduled();
        if (scheduled) {
            if (auto problem = shoot()) return *problem;
        }
        while (m_out.change > m_options.tolerance && m_returns < returns_wanted &&
               m_out.periods < (scheduled ? 40 : m_options.most_periods))
            if (auto problem = forward()) return *problem;
        m_out.periodic = m_out.change <= m_options.tolerance;
        return window(m_out.periodic ? m_options.window : std::max(12, m_options.window));
    }

  private:
    /// One period; how much the currents change over it.
    std::optional<Problem> forward() {
        const Currents before = m_run.currents();
        const auto gates = m_run.supply().gates() ? *m_run.supply().gates() : Gates{};
        if (auto problem = m_run.run(m_run.time() + m_period, nullptr)) return problem;
        const auto after = m_run.supply().gates() ? *m_run.supply().gates() : Gates{};
        ++m_out.periods;
        m_largest = std::max({m_largest, size_of(m_run.currents()), 1e-9});
        const double change = size_of(m_run.currents() - before);
        m_out.change = gates == after ? change / m_largest : 1;
        m_returns = !m_run.supply().is_scheduled() && change < m_options.band ? m_returns + 1 : 0;
        return std::nullopt;
    }

    /// After a period from these currents.
    Result<FreeCurrents> after(const FreeCurrents& x) {
        Transient trial(m_run);
        trial.set_currents(all_currents(x));
        if (auto problem = trial.run(trial.time() + m_period, nullptr)) return *problem;
        ++m_out.periods;
        return free_currents(trial.currents(), m_delta);
    }

    std::optional<Problem> shoot() {
        FreeCurrents x = free_currents(m_run.currents(), m_delta);
        const double largest = m_largest;
        for (int n = 0; n < most_shooting && m_out.change > m_options.tolerance; ++n) {
            const auto f = after(x);
            if (!f) return f.problems().front();
            const auto change = shooting_step([this](const FreeCurrents& from) { return after(from); }, x, *f,
                                              *f - x, 1e-4 * largest);
            if (!change) return change.problems().front();
            if (!change->allFinite() || change->cwiseAbs().maxCoeff() > 1e3 * m_largest) break;
            m_run.set_currents(all_currents(x + *change));
            if (auto problem = forward()) return problem;
            x = free_currents(m_run.currents(), m_delta);
        }
        return std::nullopt;
    }

    Result<SteadyRun> window(int periods) {
        m_out.window_periods = periods;
        if (auto problem = m_run.run(m_run.time() + periods * m_period, &m_out.window)) return *problem;
        return std::move(m_out);
    }

    Transient m_run;
    double m_period, m_largest = 1e-9;
    int m_returns = 0; ///< periods in a row that came back to within the band
    bool m_delta;
    SteadyOptions m_options;
    SteadyRun m_out;
};

/// Integral over the window over its length.
template <typename Value>
auto mean_of(const SteadyRun& run, const Value& value) {
    decltype(value(run.window.front())) sum = 0;
    for (std::size_t i = 1; i < run.window.size(); ++i) {
        const auto &a = run.window[i - 1], &b = run.window[i];
        if (b.t > a.t) sum += (b.t - a.t) / 2 * (value(a) + value(b));
    }
    return sum / (run.window.back().t - run.window.front().t);
}

/// Of a product over the window, both factors straight between samples.
template <typename A, typename B>
double mean_of_product(const SteadyRun& run, const A& one, const B& other) {
    double sum = 0;
    for (std::size_t i = 1; i < run.window.size(); ++i) {
        const auto &a = run.window[i - 1], &b = run.window[i];
        if (b.t <= a.t) continue;
        const double p = one(a), q = one(b), r = other(a), s = other(b);
        sum += (b.t - a.t) / 6 * (2 * p * r + p * s + q * r + 2 * q * s);
    }
    return sum / (run.window.back().t - run.window.front().t);
}

} // namespace

Result<SteadyRun> find_steady(const PhaseMachine& machine, const Clock& clock, std::unique_ptr<Supply> supply,
                              const TransientOptions& transient, const SteadyOptions& options) {
    return Finder(machine, clock, std::move(supply), transient, options).run();
}

double link_current(const TransientSample& sample) {
    double sum = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        const double i = sample.line[Eigen::Index(k)];
        if (leg_path(sample.gates[k], i).upper) sum += i;
    }
    return sum;
}

WindowFigures window_figures(const SteadyRun& run, const Bridge* bridge, double resistance) {
    WindowFigures f;
    double low = 1e300, high = -1e300;
    int turned_on = 0;
    for (std::size_t i = 0; i < run.window.size(); ++i) {
        const TransientSample& s = run.window[i];
        low = std::min(low, s.torque);
        high = std::max(high, s.torque);
        f.current_peak = std::max(f.current_peak, std::abs(s.current[0]));
        for (std::size_t k = 0; i > 0 && k < 3; ++k)
            if (s.gates[k] > 0 && run.window[i - 1].gates[k] <= 0) ++turned_on;
    }
    f.torque_peak_to_peak = high - low;
    f.torque_mean = mean_of(run, [](const TransientSample& s) { return s.torque; });
    for (int k = 0; k < 3; ++k) {
        const auto current = [k](const TransientSample& s) { return s.current[k]; };
        f.current_rms[k] = std::sqrt(mean_of_product(run, current, current));
    }
    const auto line = [](const TransientSample& s) { return s.potential[0] - s.potential[1]; };
    const auto line_current = [](const TransientSample& s) { return s.line[0]; };
    f.line_current_rms = std::sqrt(mean_of_product(run, line_current, line_current));
    f.line_voltage_rms = std::sqrt(mean_of_product(run, line, line));
    f.copper = resistance * f.current_rms.squaredNorm();
    if (bridge) {
        f.dc_current_mean = mean_of(run, link_current);
        f.input_power = bridge->dc * f.dc_current_mean;
        const auto device_loss = [&](bool of_switches) {
            return mean_of(run, [&](const TransientSample& s) {
                double sum = 0;
                for (std::size_t k = 0; k < 3; ++k) {
                    const double i = s.line[Eigen::Index(k)];
                    if (leg_path(s.gates[k], i).by_switch == of_switches)
                        sum += leg_loss(*bridge, s.gates[k], i);
                }
                return sum;
            });
        };
        f.switches = device_loss(true);
        f.diodes = device_loss(false);
        f.switching_frequency = turned_on / 3.0 / (run.window.back().t - run.window.front().t);
    } else {
        for (int k = 0; k < 3; ++k)
            f.input_power += mean_of_product(
                run, [k](const TransientSample& s) { return s.current[k]; },
                [k](const TransientSample& s) { return s.voltage[k]; });
    }
    return f;
}

std::complex<double> window_harmonic(const SteadyRun& run, int order,
                                     const std::function<double(const TransientSample&)>& value) {
    std::complex<double> sum = 0;
    double before = value(run.window.front());
    for (std::size_t k = 1; k < run.window.size(); ++k) {
        const auto &a = run.window[k - 1], &b = run.window[k];
        const double here = value(b);
        if (b.t > a.t) {
            const auto [first, last] = straight_wave(order * a.angle, order * b.angle, b.t - a.t);
            sum += before * first + here * last;
        }
        before = here;
    }
    return (order == 0 ? 1.0 : 2.0) / (run.window.back().t - run.window.front().t) * sum;
}

} // namespace mavlo
