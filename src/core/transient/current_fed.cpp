#include "transient/current_fed.h"

#include "circuit/delta.h"
#include "transient/settling.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Settling takes steps this much longer than the window's.
constexpr int coarser = 4;
constexpr int few_steps = 8;

class CurrentFed {
  public:
    CurrentFed(StackStepper& stepper, const Machine& machine, const CurrentFedOptions& options,
               const StepObserver& observe)
        : m_stepper(stepper)
        , m_machine(machine)
        , m_options(options)
        , m_observe(observe) {}

    Result<SteadyRun> run() {
        if (auto problem = m_stepper.begin(position(0), m_options.start)) return *problem;
        if (!m_options.from_start)
            if (auto problem = m_stepper.stages() == Stages::Two ? settle() : warm_up()) return *problem;
        m_out.window_periods = m_options.window;
        record();
        for (int k = 0; k < m_options.window * m_options.steps; ++k) {
            if (auto problem = step(m_options.steps, &m_observe)) return *problem;
            record();
        }
        find_potentials();
        return std::move(m_out);
    }

  private:
    struct Means {
        double torque = 0, loss = 0;
    };

    Currents currents(double t) const {
        const PhaseValues i = m_options.wave.at(m_options.clock.angle(t), m_machine.winding.layout.lags);
        return {i[0], i[1], i[2]};
    }
    Position position(double t) const {
        const Currents i = currents(t);
        return {m_options.motion.at(t), {i[0], i[1], i[2]}};
    }

    std::optional<Problem> step(int steps, const StepObserver* observe) {
        if (m_options.stop && m_options.stop()) return Problem{"", "Stopped."};
        const double dt = m_options.clock.period() / steps, from = m_t, to = m_t + dt;
        auto next = m_stepper.step(dt, position(from + StackStepper::first_stage * dt), position(to));
        if (!next) return next.problems().front();
        if (observe && *observe) (*observe)({from, to, m_out.window.size() == 1, *next});
        m_loss = 0;
        for (double loss : next->eddy_loss) m_loss += loss;
        m_stepper.take(std::move(*next), dt);
        m_t = to;
        if (m_options.stepped) {
            TransientSample here;
            here.t = m_t;
            here.current = here.line = currents(m_t);
            here.torque = m_stepper.torque();
            m_options.stepped(here);
        }
        return std::nullopt;
    }

    Result<Means> period(int steps) {
        Means means;
        for (int k = 0; k < steps; ++k) {
            if (auto problem = step(steps, nullptr)) return *problem;
            means.torque += m_stepper.torque() / steps;
            means.loss += m_loss / steps;
        }
        ++m_out.periods;
        return means;
    }

    /// Currents in magnets die within a few steps.
    std::optional<Problem> warm_up() {
        m_out.periodic = true;
        for (int k = 0; k < few_steps; ++k)
            if (auto problem = step(m_options.steps, nullptr)) return problem;
        return std::nullopt;
    }

    std::optional<Problem> settle() {
        const int steps = std::max(60, m_options.steps / coarser);
        Settling settling;
        while (settling.periods() < m_options.most_periods && settling.left() > m_options.tolerance) {
            const auto now = period(steps);
            if (!now) return now.problems().front();
            settling.add(now->torque, now->loss);
        }
        m_out.change = settling.left();
        m_out.periodic = m_out.change <= m_options.tolerance;
        // What longer steps left.
        const auto fine = period(m_options.steps);
        return fine ? std::nullopt : std::optional(fine.problems().front());
    }

    void record() {
        TransientSample sample;
        sample.t = m_t;
        sample.angle = m_options.clock.angle(m_t);
        sample.current = sample.line = currents(m_t);
        sample.torque = m_stepper.torque();
        for (int k = 0; k < 3; ++k)
            sample.linkage[k] =
                m_stepper.flux_linkage()[std::size_t(k)] + m_options.end_inductance * sample.current[k];
        m_out.window.push_back(sample);
    }

    void find_potentials() {
        auto& w = m_out.window;
        const std::size_t last = w.size() - 1;
        const double dt = m_options.clock.period() / m_options.steps;
        for (std::size_t i = 0; i <= last; ++i) {
            const Eigen::Vector3d slope =
                i == 0 ? Eigen::Vector3d((-3 * w[0].linkage + 4 * w[1].linkage - w[2].linkage) / (2 * dt))
                : i == last
                    ? Eigen::Vector3d((3 * w[last].linkage - 4 * w[last - 1].linkage + w[last - 2].linkage) /
                                      (2 * dt))
                    : Eigen::Vector3d((w[i + 1].linkage - w[i - 1].linkage) / (2 * dt));
            const Eigen::Vector3d u = m_options.resistance * w[i].current + slope;
            w[i].voltage = w[i].potential = u;
            if (m_machine.winding.connection != Connection::Delta) continue;
            w[i].potential = {u[0], 0, -u[1]}; // a terminal is joined to nothing else
            w[i].line = terminals_of_delta(w[i].current);
        }
    }

    StackStepper& m_stepper;
    const Machine& m_machine;
    const CurrentFedOptions& m_options;
    const StepObserver& m_observe;
    double m_t = 0, m_loss = 0;
    SteadyRun m_out;
};

} // namespace

Result<SteadyRun> run_with_currents(StackStepper& stepper, const Machine& machine,
                                    const CurrentFedOptions& options, const StepObserver& observe) {
    return CurrentFed(stepper, machine, options, observe).run();
}

} // namespace mavlo
