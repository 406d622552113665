#include "question/sudden_short.h"

#include "circuit/supply_kind.h"
#include "circuit/transient.h"
#include "map/map_machine.h"
#include "quantity/registry.h"

#include <cmath>

namespace mavlo {
namespace {

constexpr int steps = 360, periods = 6;

Dq vector_of(const TransientSample& sample, const Machine& machine) {
    return to_dq({sample.current[0], sample.current[1], sample.current[2]}, sample.angle,
                 machine.winding.layout.lags);
}

} // namespace

Result<SuddenShort> sudden_short_circuit(const FluxMap& map, const Machine& machine, double resistance,
                                         double end_inductance, double speed, Dq before,
                                         const std::function<bool()>& stop) {
    SupplySettings settings;
    settings.clock.omega = machine.pole_pairs() * speed;
    auto supply = registry<SupplyKind>().find("short-circuit")->make(settings);
    if (!supply) return supply.problems();
    const MapMachine section{PositionMap(map)};
    const WithSeriesInductance phases(section, end_inductance);
    Transient run(phases, settings.clock, std::move(*supply), {resistance, steps, stop});
    const auto start = to_phases(before, 0, machine.winding.layout.lags);
    run.set_currents(Currents(start[0], start[1], start[2]));
    std::vector<TransientSample> samples;
    if (auto problem = run.run(periods * settings.clock.period(), &samples)) return *problem;
    SuddenShort out{before, 0, vector_of(samples.back(), machine)};
    // Of peaks that are alike the first: without resistance none is the worst.
    constexpr double alike = 1e-6;
    for (const TransientSample& sample : samples)
        if (const Dq now = vector_of(sample, machine); now.d < out.worst.d - alike * std::abs(out.worst.d))
            out.worst = now, out.time = sample.t;
    return out;
}

} // namespace mavlo
