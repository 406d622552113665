#pragma once
// Many fields of one model, solved on all cores.

#include "field/solver.h"
#include "question/answer.h"

#include <functional>
#include <stop_token>

namespace mavlo {

/// How a long computation tells of itself and is stopped.
struct Watch {
    std::function<void(int done, int total)> progress; ///< called from any thread; may be empty
    std::stop_token stop{};
    /// A run over time shows what it has so far, a few times a second, from its own thread; may be empty.
    std::function<void(const std::vector<Curve>&)> grows{};
};

/// The sentence of a computation that was stopped; `is_stopped` recognises it.
Problem stopped();
bool is_stopped(const Problems& problems);

/// What is kept of a field in a sweep.
struct PositionResult {
    Position position;
    double torque = 0;
    PortValues flux_linkage{};
    int newton_steps = 0;
    int factorisations = 0;
};

/// Looks at each solved field before it is let go: its place among the positions, and the field. Called from
/// any thread, for each place once.
using Observer = std::function<void(std::size_t place, const FieldSolution& field)>;

/// Solves the positions in their order, each from its neighbours' fields, in runs of a fixed length
/// that are spread over `threads` threads (0: all cores). The runs depend on the positions alone, so the answer
/// does not depend on the threads. `starts`, where given, are the fields to begin from, one a position. Stops
/// within one solve.
Result<std::vector<PositionResult>> sweep(const std::shared_ptr<const FieldModel>& model,
                                          const std::vector<Position>& positions, int threads,
                                          const Watch& watch, const Observer& observe = {},
                                          const std::vector<FieldSolution>* starts = nullptr);

/// f(k) for every k below `count`, each on whichever of so many threads (0: all cores) is free; back when all
/// are done.
void on_threads(int count, int threads, const std::function<void(int)>& f);

int thread_count(int wanted); ///< `wanted`, or the number of cores for 0

} // namespace mavlo
