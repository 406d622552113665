// The least current, and its angle, that give a wanted torque.

#include "quantity/constants.h"
#include "quantity/search.h"
#include "question/better_side.h"
#include "question/period.h"

#include <cmath>
#include <fmt/format.h>
#include <map>

namespace mavlo::question_current_for_torque {
namespace {

constexpr int points = 60;

int solves(const Machine& machine, const Inputs&) {
    return int(machine.skew.slices().size()) *
           (62 * period_solves(machine, rough_points) + 5 * period_solves(machine, points));
}

/// Mean torques of current vectors, each found once.
class Torques {
  public:
    Torques(QuestionContext& context, std::shared_ptr<const MachineModel> model)
        : m_c(context)
        , m_model(std::move(model)) {}

    /// Of a generator, its currents reversed along q.
    void brake() { m_sign = -1; }
    int sign() const { return m_sign; }

    /// Over `count` positions; not a number after a failure, which failed() tells.
    double operator()(double current, double advance, int count) {
        if (!m_failed.empty()) return 0;
        const CurrentWave wave = current_vector(current, advance_for(m_sign, advance));
        double sum = 0;
        for (const Slice& slice : m_c.machine.skew.slices()) {
            const auto mean = mean_torque(wave.advanced(-m_c.machine.pole_pairs() * slice.turn), count);
            if (!mean) {
                m_failed = mean.problems();
                return 0;
            }
            sum += m_sign * slice.share * *mean;
        }
        if (m_c.watch.progress)
            m_c.watch.progress(m_c.answer.effort.solves,
                               std::max(m_c.answer.effort.solves + 1, solves(m_c.machine, m_c.inputs)));
        return sum;
    }
    const Problems& failed() const { return m_failed; }

  private:
    Result<double> mean_torque(const CurrentWave& wave, int count) {
        const auto results = sweep_period(m_model, count, wave, m_c.threads, {{}, m_c.watch.stop});
        if (!results) return results.problems();
        const int needed = period_solves(m_c.machine, count);
        double sum = 0;
        for (int i = 0; i < needed; ++i) {
            sum += (*results)[std::size_t(i)].torque / needed;
            m_c.answer.effort.newton_steps += (*results)[std::size_t(i)].newton_steps;
        }
        m_c.answer.effort.solves += needed;
        return sum;
    }

    QuestionContext& m_c;
    std::shared_ptr<const MachineModel> m_model;
    Problems m_failed;
    int m_sign = 1;
};

/// The torque asked for; where the rating leaves it open, that of the rated current at its advance.
double wanted_torque(QuestionContext& c, Torques& torque) {
    const double asked = c.input("torque");
    return std::isnan(asked) ? torque(c.machine.rating.current, c.machine.rating.advance, points) : asked;
}

/// The advance with the most torque for this current, on one side of q (1: towards -d).
double best_advance(Torques& torque, double current, double near, int side) {
    const auto less = [&](double off) { return -torque(current, side * off, rough_points); };
    const double off = side * near;
    return side * least_between(less, std::max(0.0, off - 0.35), std::min(pi / 2, off + 0.35), 0.02);
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    Torques torque(c, *model);
    const double asked = wanted_torque(c, torque), wanted = std::abs(asked), most = c.input("max_current");
    if (asked < 0) torque.brake();
    const auto side = better_side(c, *model, most, torque.sign());
    if (!side) return side.problems();
    double advance = best_advance(torque, most, *side * 0.6, *side);
    const double highest = torque(most, advance, points);
    if (!torque.failed().empty()) return torque.failed();
    if (highest < wanted)
        return {{"--with torque",
                 fmt::format("{:.4g} N·m cannot be had with {:.4g} A; the most is {:.4g} N·m, at {:.3g}° "
                             "advance.",
                             wanted, most, highest, advance * 180 / pi)}};
    // Secants along the best angle; at a top the angle matters little, so it may lag a step behind.
    std::map<double, double> visited{{0, 0}, {most, highest}}; // current -> torque
    double low = 0, low_torque = 0, high = most, high_torque = highest, current = most, got = highest;
    for (int i = 0; i < 12 && std::abs(got - wanted) > 5e-4 * wanted; ++i) {
        current = low + (high - low) * (wanted - low_torque) / (high_torque - low_torque);
        if (i < 3) advance = best_advance(torque, current, advance, *side);
        got = torque(current, advance, points);
        if (!torque.failed().empty()) return torque.failed();
        visited[current] = got;
        (got > wanted ? high : low) = current;
        (got > wanted ? high_torque : low_torque) = got;
    }
    const int sign = torque.sign();
    const double angle = advance_for(sign, advance);
    c.answer.figures = {{"current", current, "A"},
                        {"advance", angle * 180 / pi, "deg"},
                        {"torque_mean", sign * got, "N.m"},
                        {"id", current_vector(current, angle).d, "A"},
                        {"iq", current_vector(current, angle).q, "A"}};
    Curve curve{"torque", "N.m", "current", "A", {}, {}};
    for (const auto& [i, t] : visited) {
        curve.x.push_back(i);
        curve.y.push_back(sign * t);
    }
    c.answer.curves.push_back(std::move(curve));
    c.answer.sentence = fmt::format("{:.4g} N·m need {:.4g} A peak at {:.3g}° electrical advance", sign * got,
                                    current, angle * 180 / pi);
    if (const Substance* magnet = c.machine.magnet())
        c.answer.sentence += fmt::format(" with the magnets at {:.3g} °C", magnet->temperature - 273.15);
    c.answer.sentence += ".";
    return {};
}

const RegisterQuestion registered{
    {"current-for-torque",
     "With current",
     "Current for a torque",
     "The least current and its angle that give a wanted torque.",
     {{"torque", "Torque", "N.m", "= rating.torque",
       "Wanted mean torque; negative as a generator. auto: what the rated current gives.", -1e6, 1e6},
      {"max_current", "Largest current (peak)", "A", "= rating.max_current", "No more than this.", 1e-6, 1e6}},
     solves,
     run,
     34,
     {need_winding, need_no_shell, need_dq_frame},
     false,
     true}};

} // namespace
} // namespace mavlo::question_current_for_torque
