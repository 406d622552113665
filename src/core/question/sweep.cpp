#include "question/sweep.h"

#include <atomic>
#include <mutex>
#include <thread>

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

namespace mavlo {

Problem stopped() {
    return {"", "Stopped before it was finished."};
}

bool is_stopped(const Problems& problems) {
    return !problems.empty() && problems.front() == stopped();
}

int thread_count(int wanted) {
    return wanted > 0 ? wanted : std::max(1, int(std::thread::hardware_concurrency()));
}

Result<std::vector<PositionResult>> sweep(const std::shared_ptr<const FieldModel>& model, const std::vector<Position>& positions, int threads,
                                          const Watch& watch) {
    const int count = int(positions.size()), runs = std::min(thread_count(threads), std::max(1, count));
    std::vector<PositionResult> results(positions.size());
    std::atomic<int> done = 0;
    std::mutex mutex; // guards the first problem and the order of progress reports
    Problems problems;
    std::atomic<bool> abandon = false;
    auto run = [&](int r) {
        FieldSolver solver(model);
        std::optional<FieldSolution> last;
        for (int i = r * count / runs; i < (r + 1) * count / runs; ++i) {
            if (watch.stop.stop_requested() || abandon) return;
            const Position& p = positions[std::size_t(i)];
            auto solution = solver.solve(p.angle, p.current, last ? &*last : nullptr);
            if (!solution) {
                const std::lock_guard lock(mutex);
                problems = solution.problems();
                abandon = true;
                return;
            }
            results[std::size_t(i)] = {p, solution->torque, solution->flux_linkage, solution->newton_steps};
            last = std::move(*solution);
            const std::lock_guard lock(mutex);
            ++done;
            if (watch.progress) watch.progress(done, count);
        }
    };
    tbb::task_arena arena(runs);
    arena.execute([&] { tbb::parallel_for(0, runs, run, tbb::simple_partitioner{}); });
    if (!problems.empty()) return problems;
    if (watch.stop.stop_requested()) return stopped();
    return results;
}

} // namespace mavlo
