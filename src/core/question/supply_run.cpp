#include "question/supply_run.h"

#include "circuit/dq_frame.h"
#include "question/found_supply.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace mavlo {
namespace {

/// int i dtheta from the window's start on, of one phase; the window goes on as it began.
class Charge {
  public:
    Charge(const SteadyRun& run, int phase) {
        for (const TransientSample& s : run.window) {
            const double i = s.current[phase];
            if (!m_angle.empty() && s.angle <= m_angle.back()) { // the other side of an event
                m_current.back().right = i;
                continue;
            }
            const double before =
                m_sum.empty() ? 0
                              : m_sum.back() + (s.angle - m_angle.back()) * (m_current.back().right + i) / 2;
            m_angle.push_back(s.angle);
            m_current.push_back({i, i});
            m_sum.push_back(before);
        }
    }

    double length() const { return m_angle.back() - m_angle.front(); }

    double to(double angle) const {
        const double turns = std::floor((angle - m_angle.front()) / length()), at = angle - turns * length();
        const auto next = std::upper_bound(m_angle.begin() + 1, m_angle.end() - 1, at);
        const auto k = std::size_t(next - m_angle.begin());
        const double a = m_angle[k - 1], share = (at - a) / (m_angle[k] - a), i = m_current[k - 1].right,
                     here = i + share * (m_current[k].left - i);
        return turns * m_sum.back() + m_sum[k - 1] + (at - a) * (i + here) / 2;
    }

  private:
    struct Sides {
        double left, right;
    };
    std::vector<double> m_angle, m_sum;
    std::vector<Sides> m_current;
};

} // namespace

double run_beyond_map(const FluxMap& map, const SteadyRun& run) {
    double beyond = 0;
    for (const TransientSample& s : run.window) {
        const Eigen::Vector2d i = DqFrame(s.angle).in() * s.current;
        beyond = std::max(beyond, beyond_map(map, {i[0], i[1]}));
    }
    return beyond;
}

std::string joined_sentences(const std::string& first, const std::string& second) {
    return first.empty() || second.empty() ? first + second : first + " " + second;
}

MachineOnTerminals::MachineOnTerminals(PositionMap map, double end_inductance, double zero_sequence,
                                       const Machine& machine)
    : m_phases(std::move(map), end_inductance, zero_sequence, machine.pole_pairs())
    , m_delta(m_phases)
    , m_is_delta(is_delta(machine)) {}

Result<double> zero_sequence_of_terminals(QuestionContext& c) {
    if (!is_delta(c.machine)) return 0.0;
    // In a map brought along the phases have nothing in common: no current is driven round, whatever it meets.
    constexpr double any = 1e-3;
    return c.map ? Result<double>(any) : zero_sequence_inductance(c);
}

int zero_sequence_of_terminals_solves(const Machine& machine) {
    return is_delta(machine) ? zero_sequence_solves : 0;
}

Result<MapRun> run_supply_by_map(QuestionContext& c, double omega, int steps, SteadyOptions steady) {
    auto map = time_map(c);
    if (!map) return map.problems();
    const FoundSupply given = found_supply(c, map->mean, supply_settings(c.inputs, omega));
    const SupplySettings& settings = given.settings;
    auto supply = given_supply(c, settings);
    if (!supply) return supply.problems();
    steady.band = settings.band;
    const auto zero_sequence = zero_sequence_of_terminals(c);
    if (!zero_sequence) return zero_sequence.problems();
    const MachineOnTerminals machine(std::move(map->position), given_end_inductance(c), *zero_sequence,
                                     c.machine);
    auto found = find_steady(machine, settings.clock, (*supply)->copy(), circuit_options(c, steps), steady);
    if (c.watch.stop.stop_requested()) return stopped();
    if (!found) return found.problems();
    std::string words =
        joined_sentences(given.words, beyond_map_in_words(map->mean, run_beyond_map(map->mean, *found)));
    return MapRun{std::move(*found), std::move(*supply), std::move(map->mean), std::move(words)};
}

CurrentWave wave_of_run(const SteadyRun& run, double theta, int positions) {
    constexpr double turn = 2 * std::numbers::pi;
    const double width = turn / positions;
    CurrentWave wave(Dq{});
    for (int phase = 0; phase < 3; ++phase) {
        const Charge charge(run, phase);
        const int periods = std::max(1, int(std::lround(charge.length() / turn)));
        std::vector<double> amperes;
        for (int i = 0; i < positions; ++i) {
            double sum = 0;
            for (int period = 0; period < periods; ++period) {
                const double from = theta + (i - 0.5) * width + period * turn;
                sum += charge.to(from + width) - charge.to(from);
            }
            amperes.push_back(sum / (periods * width));
        }
        wave.set_series(phase, theta, std::move(amperes));
    }
    return wave;
}

} // namespace mavlo
