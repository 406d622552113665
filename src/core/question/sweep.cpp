#include "question/sweep.h"

#include "quantity/stop_point.h"
#include "quantity/threads.h"
#include "question/field_history.h"

#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>

namespace mavlo {
namespace {

/// Positions of a run, about; over currents each angle begins with a field from afar.
constexpr std::size_t run_length = 60;

/// Square of the energy-norm error left in the fields of a map, which is interpolated between its currents: a
/// linkage or torque is then right to some 1e-5, a loss to a thousandth.
constexpr double map_tolerance = 2e-9;

/// How many positions have the angle of the one before.
std::size_t same_angles(const std::vector<Position>& positions) {
    std::size_t same = 0;
    for (std::size_t i = 1; i < positions.size(); ++i) same += positions[i].angle == positions[i - 1].angle;
    return same;
}

/// Where runs begin, and the end. Currents at one angle stay together, since they start from each other.
std::vector<std::size_t> cuts_of(const std::vector<Position>& positions, std::size_t length) {
    const std::size_t count = positions.size();
    const auto inside = [&](std::size_t i) {
        return i > 0 && i < count && positions[i].angle == positions[i - 1].angle;
    };
    // An even number of runs keeps two cores busy to the end.
    const std::size_t runs = 2 * ((count + 2 * length - 1) / (2 * length));
    std::vector<std::size_t> cuts{0};
    for (std::size_t r = 1; r < runs; ++r) {
        const std::size_t even = r * count / runs;
        std::size_t cut = even;
        for (std::size_t off = 0; off <= length && inside(cut); ++off)
            cut = !inside(even - std::min(off, even))          ? even - std::min(off, even)
                  : even + off <= count && !inside(even + off) ? even + off
                                                               : even;
        if (cut > cuts.back()) cuts.push_back(cut);
    }
    cuts.push_back(count);
    return cuts;
}

} // namespace

Problem stopped() {
    return {"", stopped_sentence};
}

bool is_stopped(const Problems& problems) {
    return !problems.empty() && problems.front() == stopped();
}

int thread_count(int wanted) {
    return wanted > 0 ? wanted : most_threads();
}

void on_threads(int count, int threads, const std::function<void(int)>& f) {
    std::atomic<int> next = 0;
    std::mutex mutex;
    std::exception_ptr thrown; // the first, passed on once all have ended
    const auto work = [&] {
        try {
            for (int k = next++; k < count; k = next++) f(k);
        } catch (...) {
            next = count;
            const std::lock_guard lock(mutex);
            if (!thrown) thrown = std::current_exception();
        }
    };
    {
        std::vector<std::jthread> helpers; // joined at the end
        for (int i = 1; i < std::min(thread_count(threads), count); ++i) helpers.emplace_back(work);
        work();
    }
    if (thrown) std::rethrow_exception(thrown);
}

Result<std::vector<PositionResult>> sweep(const std::shared_ptr<const FieldModel>& model,
                                          const std::vector<Position>& positions, int threads,
                                          const Watch& watch, const Observer& observe,
                                          const std::vector<FieldSolution>* starts) {
    // The cut does not ask how many threads there are, so that the answer is the same to the last bit with any
    // number. A run's first field costs some four others.
    const int count = int(positions.size());
    const bool over_currents = 2 * same_angles(positions) > positions.size();
    const std::vector<std::size_t> cuts = cuts_of(positions, run_length);
    std::vector<PositionResult> results(positions.size());
    std::atomic<int> done = 0;
    std::mutex mutex; // guards the first problem and the order of progress reports
    Problems problems;
    std::atomic<bool> abandon = false;
    const auto run = [&](int r) {
        const int begin = int(cuts[std::size_t(r)]), end = int(cuts[std::size_t(r) + 1]);
        if (begin == end) return;
        FieldSolver solver(model);
        if (cuts.size() == 2) solver.use_two_cores(); // there is no other run for the second
        if (over_currents) solver.set_tolerance(map_tolerance);
        FieldHistory history;
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
    on_threads(int(cuts.size()) - 1, threads, run);
    if (!problems.empty()) return problems;
    if (watch.stop.stop_requested()) return stopped();
    return results;
}

} // namespace mavlo
