#pragma once
// What a run in time says: figures of its window, curves over time, spectra.

#include "circuit/steady.h"
#include "figure/balance.h"
#include "question/question.h"

namespace mavlo {

/// A run that has ended, whether by the flux map or on the fields.
struct TimeRun {
    const SteadyRun& run;
    const Supply* supply = nullptr; ///< null: the currents were given
    Clock clock{};
    double speed = 0, start = 0;         ///< of the shaft, rad/s; where the rotor stood at time 0, rad
    double resistance = 0;               ///< of a phase, Ohm
    std::optional<double> strands{};     ///< FieldLosses::strands, where it is known
    std::optional<double> bar_current{}; ///< of a cage's bars, A rms
    Balance losses{};                    ///< of iron, magnets, shaft and shell; the window tells the rest
    LossParts found{};                   ///< of those that only a field in time tells
    bool from_start = false;
    std::string supply_name{};
    std::string left_out{}; ///< a sentence
};

/// Waves of a phase's current over a window, from order 0 on.
std::vector<std::complex<double>> phase_waves(const SteadyRun& run);
/// The winding's loss with these waves' own resistance each; `direct` with direct current's. `strands`: what
/// the field that crosses them loses at 1 Hz, where it is known (FluxPoint::strands).
CopperLoss copper_in_time(const Machine& machine, const std::vector<std::complex<double>>& waves,
                          double resistance, double direct, double frequency, std::optional<double> strands);

/// The fundamental's current vector.
Dq fundamental_current(const SteadyRun& run);

void tell_time_run(QuestionContext& context, const TimeRun& run);

} // namespace mavlo
