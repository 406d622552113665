#include "question/sudden_short.h"

#include <cmath>

namespace mavlo {
namespace {

constexpr int steps = 360, periods = 6, angles = 24;

} // namespace

Result<SuddenShort> sudden_short_circuit(const PhaseMachine& phases, const FaultCircuit& circuit,
                                         int pole_pairs, FaultOnset onset, const std::function<bool()>& stop) {
    const auto worst = worst_onset(
        phases, circuit, pole_pairs, onset, angles,
        [](const FaultRun& run, const NetworkSample& s) { return -run.vector(s).d; }, stop);
    if (!worst) return worst.problems();
    onset.angle = worst->angle;
    FaultRun run(phases, circuit, pole_pairs, onset, steps, stop);
    const auto samples = run.go_on(periods);
    if (!samples) return samples.problems();
    SuddenShort out{onset.before, 0, run.vector(samples->back())};
    // Of peaks that are alike the first: without resistance none is the worst.
    constexpr double alike = 1e-6;
    for (const NetworkSample& s : *samples)
        if (const Dq now = run.vector(s); now.d < out.worst.d - alike * std::abs(out.worst.d))
            out.worst = now, out.time = s.rotor.t;
    return out;
}

} // namespace mavlo
