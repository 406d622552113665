#pragma once
// A machine in time with its phases' currents given.

#include "circuit/steady.h"
#include "figure/current_wave.h"
#include "figure/machine_model.h"
#include "transient/field_transient.h"

namespace mavlo {

struct CurrentFedOptions {
    CurrentWave wave{};
    Clock clock{};                        ///< of the currents
    Motion motion{};                      ///< of the rotor, which need not keep step with them
    int steps = 360;                      ///< a period of the currents
    int window = 1;                       ///< periods of the answer
    int most_periods = 60;                ///< before the window
    bool from_start = false;              ///< the first periods, from the static field
    std::vector<ConductingState> start{}; ///< of the slices; empty: the static field's
    double tolerance = 1e-3;              ///< of the largest torque or loss, that may be left of the settling
    double resistance = 0, end_inductance = 0; ///< of a phase, Ohm, H
    std::function<bool()> stop{};
    std::function<void(const TransientSample&)> stepped{}; ///< called after every step, with what stands there
};

/// Runs periods of fewer steps until mean torque and eddy loss settle, judged by how fast what is left falls
/// from one to the next (Aitken's rule), then the window. Potentials are R i + L_end di/dt + d psi/dt, of each
/// phase by itself, from a parabola through each three samples.
Result<SteadyRun> run_with_currents(StackStepper& stepper, const Machine& machine,
                                    const CurrentFedOptions& options, const StepObserver& observe);

} // namespace mavlo
