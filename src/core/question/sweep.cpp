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
        if (m_fields.size() == 3) m_fields.erase(m_fields.begin());
        m_fields.push_back(std::move(solution));
    }

    /// Extrapolates the potentials over equal steps of the angle, by a parabola where three fields are known.
    /// Over unequal steps, or past a jump of the currents, the last field itself is the best guess.
    const FieldSolution* guess(const Position& next) {
        if (m_fields.empty()) return nullptr;
        const auto n = m_fields.size();
        std::size_t known = 1;
        while (known < n && equal_step(n - known, next)) ++known;
        if (known == 1) return &m_fields.back();
        m_guess = m_fields.back();
        const auto &a = m_fields[n - 1].potential, &b = m_fields[n - 2].potential;
        for (std::size_t i = 0; i < a.size(); ++i)
            m_guess.potential[i] =
                known == 2 ? 2 * a[i] - b[i] : 3 * (a[i] - b[i]) + m_fields[n - 3].potential[i];
        return &m_guess;
    }

  private:
    /// Whether the step to field i was like the one wanted next: the same turn, and currents that go on in the
    /// same way (at one angle) or flow on without a jump (turning).
    bool equal_step(std::size_t i, const Position& next) const {
        const FieldSolution &from = m_fields[i - 1], &to = m_fields[i], &last = m_fields.back();
        const double turn = to.angle - from.angle;
        double jump = 0, bend = 0, size = 0;
        for (std::size_t k = 0; k < next.current.size(); ++k) {
            const double step = to.current[k] - from.current[k];
            jump = std::max(jump, std::abs(step));
            bend = std::max(bend, std::abs(next.current[k] - last.current[k] - step));
            size = std::max(size, std::abs(next.current[k]));
        }
        return std::abs(turn - (next.angle - last.angle)) < 1e-9 &&
               (turn == 0 ? bend <= 1e-9 * (jump + size) : jump <= 0.3 * size);
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

Result<std::vector<PositionResult>> sweep(const std::shared_ptr<const FieldModel>& model,
                                          const std::vector<Position>& positions, int threads,
                                          const Watch& watch, const Observer& observe) {
    // The cut does not ask how many threads there are, so that the answer is the same to the last bit with any
    // number. A run's first field costs some four others; an even number of runs keeps two cores busy to
    // the end.
    const int count = int(positions.size()), runs = 2 * ((count + 2 * run_length - 1) / (2 * run_length));
    std::vector<PositionResult> results(positions.size());
    std::atomic<int> done = 0;
    std::mutex mutex; // guards the first problem and the order of progress reports
    Problems problems;
    std::atomic<bool> abandon = false;
    auto run = [&](int r) {
        const int begin = int(long(r) * count / runs), end = int(long(r + 1) * count / runs);
        if (begin == end) return;
        FieldSolver solver(model);
        History history;
        for (int i = begin; i < end; ++i) {
            if (watch.stop.stop_requested() || abandon) return;
            Position p = positions[std::size_t(i)];
            p.current.resize(model->port_load.size(), 0.0);
            auto solution = solver.solve(p.angle, p.current, history.guess(p));
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
    std::atomic<int> next = 0;
    const auto work = [&] {
        for (int r = next++; r < runs; r = next++) run(r);
    };
    {
        std::vector<std::jthread> helpers; // joined at the end of this block
        for (int i = 1; i < std::min(thread_count(threads), runs); ++i) helpers.emplace_back(work);
        work();
    }
    if (!problems.empty()) return problems;
    if (watch.stop.stop_requested()) return stopped();
    return results;
}

} // namespace mavlo
