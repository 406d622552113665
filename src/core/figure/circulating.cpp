#include "figure/circulating.h"

#include "winding/balance.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {

CirculatingCurrent circulating_current(const Machine& machine, double emf, double speed) {
    CirculatingCurrent out;
    const MachineWinding& w = machine.winding;
    if (w.paths < 2) return out;
    const Conductor conductor = machine_conductor(machine);
    const double omega = speed * machine.pole_pairs(), a = w.paths;
    for (int phase = 0; phase < w.phases; ++phase) {
        const double resistance = a * conductor.phase_resistance[std::size_t(phase)],
                     impedance = std::hypot(resistance, omega * a * conductor.end_inductance);
        for (const auto& path : parallel_paths(w.layout, phase, w.paths).emf) {
            const double current = emf * std::abs(path - 1.0) / impedance / std::numbers::sqrt2;
            out.largest = std::max(out.largest, current);
            out.loss += current * current * resistance;
        }
    }
    return out;
}

} // namespace mavlo
