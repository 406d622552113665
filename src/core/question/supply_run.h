#pragma once
// The steady state on a supply by the flux map, and the currents it makes.

#include "circuit/steady.h"
#include "figure/current_wave.h"
#include "question/supply_inputs.h"
#include "question/time_map.h"

namespace mavlo {

struct MapRun {
    SteadyRun run;
    std::unique_ptr<Supply> supply; ///< as it was at the start
    FluxMap map;                    ///< the means over the rotor's positions
};

/// On the supply that the inputs name, at this electrical angular frequency (rad/s), in so many steps a period.
Result<MapRun> run_supply_by_map(QuestionContext& context, double omega, int steps,
                                 const SteadyOptions& steady);

/// The window's currents over the electrical angle: at each of `positions` even angles from `theta` on the mean
/// over the step about it and over the window's periods, so that a carrier's ripple does not alias.
CurrentWave wave_of_run(const SteadyRun& run, double theta, int positions);

} // namespace mavlo
