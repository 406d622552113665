#include "circuit/run_up.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Of synchronous speed: the change a step aims at, what counts as run up, and as hanging below it.
constexpr double run_up_step = 0.004, run_up_close = 0.01, run_up_far = 0.7;
constexpr double run_up_longest_step = 2e-3; ///< of the longest time, a step's
constexpr int most_run_up_steps = 20000;

class RunUpRunner {
  public:
    RunUpRunner(SlipMachine& machine, const RunUp& run)
        : m_machine(machine)
        , m_run(run) {}

    Result<RunUpCourse> go() {
        double time = 0, speed = 0, before = 0, before_speed = 0;
        for (int k = 0; k < most_run_up_steps && time < m_run.longest; ++k) {
            const auto here = at(time, speed);
            if (!here) return here.problems();
            m_out.points.push_back(*here);
            const double acceleration = (here->at.torque - here->load_torque) / m_run.inertia;
            const double synchronous = m_machine.synchronous_speed(m_run.supply(time, speed).frequency);
            if (settled(time, acceleration, synchronous)) break;
            double dt = std::min(run_up_step * synchronous / std::max(std::abs(acceleration), 1e-9),
                                 run_up_longest_step * m_run.longest);
            // Near its end the course decays, which steps must be short against.
            const double moved = std::abs(speed - before_speed);
            if (k > 0 && moved > 1e-9 * synchronous)
                dt = std::min(dt, 0.5 * moved / std::max(std::abs(acceleration - before), 1e-12));
            before = acceleration;
            before_speed = speed;
            const auto next = stepped(time, speed, dt, acceleration);
            if (!next) return next.problems();
            // A load that holds back does not turn the machine backward.
            speed = std::max(*next, 0.0);
            time += dt;
        }
        return finished();
    }

  private:
    Result<RunUpPoint> at(double time, double speed) {
        const RunUpSupply supply = m_run.supply(time, speed);
        const double slip = 1 - speed / m_machine.synchronous_speed(supply.frequency);
        auto point = m_machine.at(supply.voltage, supply.frequency, slip);
        if (!point) return point.problems();
        point->current *= supply.line_current;
        return RunUpPoint{time, speed, m_run.load_torque(speed), *point};
    }

    Result<double> stepped(double time, double speed, double dt, double first) {
        double slopes[4] = {first, 0, 0, 0};
        for (int k = 1; k < 4; ++k) {
            const double share = k == 3 ? 1 : 0.5;
            const auto there = at(time + share * dt, std::max(speed + share * dt * slopes[k - 1], 0.0));
            if (!there) return there.problems();
            slopes[k] = (there->at.torque - there->load_torque) / m_run.inertia;
        }
        return speed + dt / 6 * (slopes[0] + 2 * slopes[1] + 2 * slopes[2] + slopes[3]);
    }

    /// Nothing changes any more, or it cannot begin to turn.
    bool settled(double time, double acceleration, double synchronous) const {
        if (time < m_run.supply_ends) return false;
        const bool held = m_out.points.back().speed == 0 && acceleration <= 0;
        return held || std::abs(acceleration) < 1e-4 * synchronous / std::max(m_run.longest, 1e-9);
    }

    /// By the trapezoidal rule.
    void add_heat() {
        for (std::size_t k = 0; k < m_out.points.size(); ++k) {
            const SlipPoint& here = m_out.points[k].at;
            m_out.largest_current = std::max(m_out.largest_current, here.current);
            if (k == 0) continue;
            const SlipPoint& before = m_out.points[k - 1].at;
            const double half = (m_out.points[k].time - m_out.points[k - 1].time) / 2;
            m_out.cage_heat += half * (here.copper_rotor + before.copper_rotor);
            m_out.stator_heat += half * (here.copper_stator + before.copper_stator);
        }
    }

    RunUpCourse finished() {
        add_heat();
        const RunUpPoint& last = m_out.points.back();
        const double synchronous = m_machine.synchronous_speed(m_run.supply(last.time, last.speed).frequency);
        m_out.stands = last.speed < run_up_far * synchronous;
        const bool ended = last.time < m_run.longest && !m_out.stands;
        if (!ended) return std::move(m_out);
        const double wanted = (1 - run_up_close) * last.speed;
        const auto there = std::find_if(m_out.points.begin(), m_out.points.end(), [&](const RunUpPoint& p) {
            return p.time >= m_run.supply_ends && p.speed >= wanted;
        });
        m_out.time = there->time;
        if (there == m_out.points.begin()) return std::move(m_out);
        const RunUpPoint& short_of = *(there - 1);
        if (short_of.speed < wanted && there->speed > short_of.speed)
            m_out.time = short_of.time + (there->time - short_of.time) * (wanted - short_of.speed) /
                                             (there->speed - short_of.speed);
        return std::move(m_out);
    }

    SlipMachine& m_machine;
    const RunUp& m_run;
    RunUpCourse m_out;
};

} // namespace

Result<RunUpCourse> run_up(SlipMachine& machine, const RunUp& run) {
    return RunUpRunner(machine, run).go();
}

} // namespace mavlo
