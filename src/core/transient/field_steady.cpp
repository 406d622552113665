#include "transient/field_steady.h"

#include "circuit/decay.h"
#include "circuit/shooting.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

namespace mavlo {
namespace {

/// Of the largest current, by which a carrier's window may miss its beginning.
constexpr double carrier_tolerance = 3e-3;
constexpr int most_carrier_windows = 3, most_carrier_sixths = 3;
constexpr int tangents = 3;   ///< taken before the fields run
constexpr double beat = 0.02; ///< of the largest current, by which periods may differ whose slots pass unevenly
constexpr double decayed = 10; ///< tolerances of one period's change that may still be to come

/// The currents of a stretch's end as they were at its beginning, were the state periodic.
class Stretch {
  public:
    explicit Stretch(bool sixth)
        : m_sixth(sixth) {}
    int in_a_period() const { return m_sixth ? 6 : 1; }
    /// i_k(theta + 60 deg) = -i_(k+1)(theta): half a turn on everything is reversed, a third on the phases have
    /// changed places.
    Currents back(const Currents& end) const { return m_sixth ? Currents(-end[2], -end[0], -end[1]) : end; }
    Currents forth(const Currents& begin) const {
        return m_sixth ? Currents(-begin[1], -begin[2], -begin[0]) : begin;
    }
    /// A sample a sixth of a period later. Potentials of a bridge are turned about the middle of its link.
    static TransientSample forth(const TransientSample& s, const Clock& clock, const Bridge* bridge) {
        const Stretch sixth(true);
        const double rails = bridge ? bridge->dc : 0;
        TransientSample next = s;
        next.t = s.t + clock.period() / 6;
        next.angle = clock.angle(next.t);
        next.current = sixth.forth(s.current);
        next.line = sixth.forth(s.line);
        next.voltage = sixth.forth(s.voltage);
        next.linkage = sixth.forth(s.linkage);
        next.potential = sixth.forth(s.potential).array() + rails;
        next.gates = {-s.gates[1], -s.gates[2], -s.gates[0]};
        return next;
    }

  private:
    bool m_sixth;
};

class FieldFinder {
  public:
    FieldFinder(FieldTransient& run, const Clock& clock, const Supply& supply,
                const FieldTransientOptions& options, const FieldSteadyOptions& steady, int pole_pairs,
                const StepObserver& observe)
        : m_run(run)
        , m_clock(clock)
        , m_supply(supply)
        , m_averaged(steady.tangent && !steady.from_zero && supply.is_scheduled() ? supply.averaged() : nullptr)
        , m_settling(m_averaged ? *m_averaged : supply)
        , m_circuit(options.circuit)
        , m_options(steady)
        , m_pairs(pole_pairs)
        , m_stretch(steady.sixths && m_settling.is_scheduled() && m_settling.repeats_in_sixths())
        , m_observe(observe) {}

    Result<SteadyRun> run() {
        if (m_options.from_zero) {
            if (auto problem = m_run.begin(Currents::Zero())) return *problem;
            return window();
        }
        if (auto problem = start()) return *problem;
        const bool coarse = !m_options.tangent && m_options.settling_steps > 0;
        if (coarse) {
            m_run.take_steps(m_options.settling_steps);
            m_run.be_exact(false);
        }
        const int most = m_options.most_periods * m_stretch.in_a_period();
        int stretches = 0;
        do {
            if (auto problem = forward()) return *problem;
        } while (++stretches < most && !m_out.periodic);
        if (coarse) { // what longer steps left
            m_run.take_steps(m_circuit.steps);
            m_run.be_exact(true);
            if (auto problem = m_run.run(m_run.time() + length() / 4, nullptr)) return *problem;
            ++stretches;
        }
        m_out.periods = (stretches + m_stretch.in_a_period() - 1) / m_stretch.in_a_period();
        return m_averaged ? with_carrier() : window();
    }

  private:
    double length() const { return m_clock.period() / m_stretch.in_a_period(); }
    FreeCurrents free(const Currents& currents) const { return free_currents(currents, m_circuit.delta); }

    /// Where a stretch begins, for tangent_after(); the currents there.
    Currents mark_beginning() {
        m_began = m_run.time();
        m_before = m_run.circuit().supply().copy();
        return m_run.currents();
    }

    /// Tangent machines one after the other, each at a moment of the steady state of the one before.
    std::optional<Problem> start() {
        if (!m_options.tangent) return m_run.begin(m_options.start.value_or(FieldStart{}));
        if (m_averaged) m_run.feed_by(m_averaged->copy());
        Currents at = Currents::Zero();
        for (int k = 0; k < tangents; ++k) {
            if (auto problem = m_run.begin(at)) return problem;
            m_tangent =
                std::make_unique<ConstantMachine>(m_run.state(), m_clock.angle(m_run.time()), at, m_pairs);
            const auto steady = find_steady(*m_tangent, m_clock, m_settling.copy(), m_circuit, {});
            if (!steady) return steady.problems().front();
            at = steady->window.front().state();
        }
        m_largest = std::max(at.cwiseAbs().maxCoeff(), 1e-9);
        return m_run.begin(at);
    }

    /// The tangent machine's currents after a stretch from these, as seen from its beginning.
    Result<FreeCurrents> tangent_after(const FreeCurrents& x) {
        Transient trial(*m_tangent, m_clock, m_before->copy(), m_circuit);
        trial.start_at(m_began, all_currents(x));
        if (auto problem = trial.run(m_began + length(), nullptr)) return *problem;
        return free(m_stretch.back(trial.currents()));
    }

    std::optional<Problem> forward() {
        const Currents begin = mark_beginning();
        std::vector<TransientSample> samples;
        if (auto problem = m_run.run(m_began + length(), &samples)) return problem;
        const Currents end = m_stretch.back(m_run.currents()), wrong = end - begin;
        m_largest = std::max(m_largest, m_run.currents().cwiseAbs().maxCoeff());
        if (!m_options.tangent && m_settling.is_scheduled()) {
            compare_means(samples);
            return std::nullopt;
        }
        m_out.change = wrong.cwiseAbs().maxCoeff() / m_largest;
        const double undecided = 2 * m_run.current_noise() + (m_settling.is_scheduled() ? 0 : m_options.band);
        m_out.periodic = m_out.change <= m_options.tolerance + undecided / m_largest;
        if (m_out.periodic || !m_options.tangent || !m_settling.is_scheduled()) return std::nullopt;
        return correct(begin, wrong);
    }

    /// Without a tangent to correct by periods only come nearer, as fast as the slowest of what conducts lets
    /// them: one small change is no end yet.
    void compare_means(const std::vector<TransientSample>& period) {
        const Eigen::Vector4d now = means(period) / m_largest;
        if (m_has_means) m_decay.add(now - m_means);
        m_means = now;
        m_has_means = true;
        m_out.change = m_decay.left();
        const bool beats = m_decay.is_beat() && m_decay.change() <= beat;
        if (beats) m_out.change = m_decay.change();
        m_out.periodic = m_out.change <= decayed * m_options.tolerance || beats;
    }

    /// Of the currents over a period, as a vector in the plane (E. Clarke): its mean, and its mean as seen from
    /// axes that turn with the supply.
    Eigen::Vector4d means(const std::vector<TransientSample>& period) const {
        Eigen::Vector4d sum = Eigen::Vector4d::Zero();
        const auto vector = [](const TransientSample& s) {
            const Currents i = s.state();
            return std::complex<double>((2 * i[0] - i[1] - i[2]) / 3, (i[1] - i[2]) / std::numbers::sqrt3);
        };
        for (std::size_t k = 1; k < period.size(); ++k) {
            const TransientSample &a = period[k - 1], &b = period[k];
            const double share = (b.t - a.t) / length() / 2;
            for (const TransientSample* s : {&a, &b}) {
                const std::complex<double> i = vector(*s), seen = i * std::polar(1.0, -m_clock.angle(s->t));
                sum += share * Eigen::Vector4d(i.real(), i.imag(), seen.real(), seen.imag());
            }
        }
        return sum;
    }

    /// A stretch has ended `wrong` from where it began: the next begins where it shall have ended, and
    /// `expected` from that.
    std::optional<Problem> correct(const Currents& begin, const Currents& wrong,
                                   const Currents& expected = Currents::Zero()) {
        const FreeCurrents x = free(begin);
        const auto f = tangent_after(x);
        if (!f) return f.problems().front();
        const auto change = shooting_step([this](const FreeCurrents& from) { return tangent_after(from); }, x,
                                          *f, free(wrong), 1e-3 * m_largest);
        if (!change) return change.problems().front();
        if (!change->allFinite() || change->cwiseAbs().maxCoeff() > m_largest) return std::nullopt;
        return m_run.begin(m_stretch.forth(all_currents(x + *change) + expected));
    }

    /// Currents of a steady window so long after its beginning, s.
    static Currents current_after(const SteadyRun& run, double time) {
        const auto& w = run.window;
        const auto next = std::lower_bound(w.begin(), w.end(), w.front().t + time,
                                           [](const TransientSample& s, double t) { return s.t < t; });
        if (next == w.begin()) return next->state();
        if (next == w.end()) return w.back().state();
        const auto &a = *(next - 1), &b = *next;
        return a.state() + (w.front().t + time - a.t) / (b.t - a.t) * (b.state() - a.state());
    }

    /// The carrier moves the currents from their average as it moves the tangent machine's. Sixths of a period
    /// with it tell what is left of that, so that the window begins in its steady state.
    Result<SteadyRun> with_carrier() {
        const auto average = find_steady(*m_tangent, m_clock, m_averaged->copy(), m_circuit, {}),
                   switched = find_steady(*m_tangent, m_clock, m_supply.copy(), m_circuit, {});
        if (!average) return average.problems();
        if (!switched) return switched.problems();
        const double t = std::fmod(m_run.time(), m_clock.period());
        m_run.feed_by(m_supply.copy());
        if (auto problem =
                m_run.begin(m_run.currents() + current_after(*switched, t) - current_after(*average, t)))
            return *problem;
        if (auto problem = sixths_with_carrier(*switched)) return *problem;
        for (int k = 0; k < most_carrier_windows; ++k) {
            if (auto problem = carrier_window()) return *problem;
            if (m_out.periodic) break;
        }
        return std::move(m_out);
    }

    /// Currents a stretch on, as seen from its beginning, less those there, as the tangent machine has them: a
    /// carrier need not stand alike at both.
    Currents carrier_mismatch(const SteadyRun& switched, double t) const {
        return m_stretch.back(current_after(switched, std::fmod(t + length(), m_clock.period()))) -
               current_after(switched, std::fmod(t, m_clock.period()));
    }

    std::optional<Problem> sixths_with_carrier(const SteadyRun& switched) {
        for (int k = 0; k < most_carrier_sixths && m_stretch.in_a_period() > 1; ++k) {
            const Currents begin = mark_beginning(), expected = carrier_mismatch(switched, m_began);
            if (auto problem = m_run.run(m_began + length(), nullptr)) return problem;
            const Currents wrong = m_stretch.back(m_run.currents()) - begin - expected;
            if (wrong.cwiseAbs().maxCoeff() <= carrier_tolerance / m_stretch.in_a_period() * m_largest) break;
            if (auto problem = correct(begin, wrong, expected)) return problem;
        }
        return std::nullopt;
    }

    /// The window with its carrier; where it does not meet its beginning it is corrected for the next attempt.
    std::optional<Problem> carrier_window() {
        m_out.window.clear();
        m_out.window_periods = m_options.window;
        const Currents begin = mark_beginning();
        const double end = m_began + m_options.window * m_clock.period();
        if (auto problem = m_run.run(end, &m_out.window, m_observe)) return problem;
        const Currents wrong = m_run.currents() - begin;
        m_out.change = wrong.cwiseAbs().maxCoeff() / m_largest;
        m_out.periods += m_options.window;
        m_out.periodic = m_out.change <= carrier_tolerance;
        m_stretch = Stretch(false);
        return m_out.periodic ? std::nullopt : correct(begin, wrong);
    }

    Result<SteadyRun> window() {
        m_out.window_periods = m_options.window;
        const bool part = m_out.periodic && m_stretch.in_a_period() > 1;
        const double end = m_run.time() + (part ? length() : m_options.window * m_clock.period());
        if (auto problem = m_run.run(end, &m_out.window, m_observe)) return *problem;
        if (part) unfold();
        m_out.is_part = part;
        return std::move(m_out);
    }

    /// The sixth that was run, over the whole window.
    void unfold() {
        auto& w = m_out.window;
        const std::size_t each = w.size(), all = each * std::size_t(6 * m_options.window);
        while (w.size() < all) w.push_back(Stretch::forth(w[w.size() - each], m_clock, m_supply.bridge()));
    }

    FieldTransient& m_run;
    Clock m_clock;
    const Supply& m_supply;
    std::unique_ptr<Supply> m_averaged; ///< of a supply with a carrier
    const Supply& m_settling;           ///< what feeds the machine until it is steady
    TransientOptions m_circuit;
    FieldSteadyOptions m_options;
    int m_pairs;
    Stretch m_stretch;
    const StepObserver& m_observe;
    std::unique_ptr<ConstantMachine> m_tangent;
    std::unique_ptr<Supply> m_before;
    double m_began = 0, m_largest = 1e-9;
    Decay m_decay;
    Eigen::Vector4d m_means = Eigen::Vector4d::Zero(); ///< of the last period's currents, over the largest
    bool m_has_means = false;
    SteadyRun m_out;
};

} // namespace

Result<SteadyRun> find_field_steady(FieldTransient& run, const Clock& clock, const Supply& supply,
                                    const FieldTransientOptions& options, const FieldSteadyOptions& steady,
                                    int pole_pairs, const StepObserver& observe) {
    return FieldFinder(run, clock, supply, options, steady, pole_pairs, observe).run();
}

} // namespace mavlo
