#include "question/sweep.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>
#include <thread>

namespace mavlo {
namespace {

constexpr int run_length = 48; ///< positions at the most

/// The last fields of a run, to guess the next from.
class History {
  public:
    void add(FieldSolution solution) {
        if (m_fields.size() == most) m_fields.erase(m_fields.begin());
        m_fields.push_back(std::move(solution));
    }

    /// Extrapolates the potentials by the polynomial through the last fields: over equal steps of the angle,
    /// a parabola at the most; at one angle over currents in proportion, a cubic. Past a jump the last field
    /// itself is the best guess.
    const FieldSolution* guess(const Position& next) {
        if (m_fields.empty()) return nullptr;
        std::vector<double> places = at_one_angle(next);
        if (places.size() < 2) places = turning(next);
        if (places.size() < 2) return &m_fields.back();
        m_guess = m_fields.back();
        std::fill(m_guess.potential.begin(), m_guess.potential.end(), 0.0);
        for (std::size_t k = 0; k < places.size(); ++k) {
            double weight = 1; // of Lagrange's polynomial, the next place being 0
            for (std::size_t j = 0; j < places.size(); ++j)
                if (j != k) weight *= places[j] / (places[j] - places[k]);
            const auto& field = m_fields[m_fields.size() - 1 - k].potential;
            for (std::size_t i = 0; i < field.size(); ++i) m_guess.potential[i] += weight * field[i];
        }
        return &m_guess;
    }

  private:
    static constexpr std::size_t most = 4;

    /// How far the last fields lie behind the next, last first, in currents that differ by a factor alone.
    std::vector<double> at_one_angle(const Position& next) const {
        std::vector<double> places;
        const std::vector<double>& last = m_fields.back().current;
        std::vector<double> step(next.current.size());
        double size = 0;
        for (std::size_t k = 0; k < step.size(); ++k) {
            step[k] = next.current[k] - last[k];
            size += step[k] * step[k];
        }
        if (size == 0) return places;
        for (auto field = m_fields.rbegin(); field != m_fields.rend() && field->angle == next.angle; ++field) {
            double along = 0, off = 0;
            for (std::size_t k = 0; k < step.size(); ++k)
                along += (next.current[k] - field->current[k]) * step[k] / size;
            for (std::size_t k = 0; k < step.size(); ++k)
                off = std::max(off, std::abs(next.current[k] - field->current[k] - along * step[k]));
            // Onwards, and not by a leap.
            const double before = places.empty() ? 0 : places.back();
            if (off > 1e-9 * std::sqrt(size) * along || along < before + 0.2) break;
            places.push_back(along);
        }
        return places;
    }

    std::vector<double> turning(const Position& next) const {
        std::vector<double> places{1};
        const std::size_t n = m_fields.size();
        while (places.size() < std::min<std::size_t>(n, 3) && equal_step(n - places.size(), next))
            places.push_back(double(places.size()) + 1);
        return places;
    }

    /// Whether the turn to field i was the one wanted next, with currents that flow on without a jump.
    bool equal_step(std::size_t i, const Position& next) const {
        const FieldSolution &from = m_fields[i - 1], &to = m_fields[i], &last = m_fields.back();
        const double turn = to.angle - from.angle;
        double jump = 0, size = 0;
        for (std::size_t k = 0; k < next.current.size(); ++k) {
            jump = std::max(jump, std::abs(to.current[k] - from.current[k]));
            size = std::max(size, std::abs(next.current[k]));
        }
        return turn != 0 && std::abs(turn - (next.angle - last.angle)) < 1e-9 && jump <= 0.3 * size;
    }

    std::vector<FieldSolution> m_fields;
    FieldSolution m_guess;
};

} // namespace

Problem stopped() {
    return {"", "Stopped before it was finished."};
}

bool is_stopped(const Problems& problems) {
    return !problems.empty() && problems.front() == stopped();
}

int thread_count(int wanted) {
    return wanted > 0 ? wanted : std::max(1, int(std::thread::hardware_concurrency()));
}

void on_threads(int count, int threads, const std::function<void(int)>& f) {
    std::atomic<int> next = 0;
    const auto work = [&] {
        for (int k = next++; k < count; k = next++) f(k);
    };
    std::vector<std::jthread> helpers; // joined at the end
    for (int i = 1; i < std::min(thread_count(threads), count); ++i) helpers.emplace_back(work);
    work();
}

Result<std::vector<PositionResult>> sweep(const std::shared_ptr<const FieldModel>& model,
                                          const std::vector<Position>& positions, int threads,
                                          const Watch& watch, const Observer& observe,
                                          const std::vector<FieldSolution>* starts) {
    // The cut does not ask how many threads there are, so that the answer is the same to the last bit with any
    // number. A run's first field costs some four others; an even number of runs keeps two cores busy to
    // the end.
    const int count = int(positions.size()), runs = 2 * ((count + 2 * run_length - 1) / (2 * run_length));
    std::vector<PositionResult> results(positions.size());
    std::atomic<int> done = 0;
    std::mutex mutex; // guards the first problem and the order of progress reports
    Problems problems;
    std::atomic<bool> abandon = false;
    const auto run = [&](int r) {
        const int begin = int(long(r) * count / runs), end = int(long(r + 1) * count / runs);
        if (begin == end) return;
        FieldSolver solver(model);
        History history;
        for (int i = begin; i < end; ++i) {
            if (watch.stop.stop_requested() || abandon) return;
            Position p = positions[std::size_t(i)];
            p.current.resize(model->port_load.size(), 0.0);
            auto solution =
                solver.solve(p.angle, p.current, starts ? &(*starts)[std::size_t(i)] : history.guess(p));
            if (!solution) {
                const std::lock_guard lock(mutex);
                problems = solution.problems();
                abandon = true;
                return;
            }
            results[std::size_t(i)] = {p, solution->torque, solution->flux_linkage, solution->newton_steps,
                                       solution->factorisations};
            if (observe) observe(std::size_t(i), *solution);
            history.add(std::move(*solution));
            const std::lock_guard lock(mutex);
            ++done;
            if (watch.progress) watch.progress(done, count);
        }
    };
    on_threads(runs, threads, run);
    if (!problems.empty()) return problems;
    if (watch.stop.stop_requested()) return stopped();
    return results;
}

} // namespace mavlo
