#include "question/delta_round.h"

#include "circuit/delta.h"
#include "figure/copper.h"
#include "question/supply_inputs.h"
#include "question/time_map.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {

DeltaRound delta_round(const PeriodSeries& series, double resistance, double inductance, double omega) {
    const auto waves = common_waves(series);
    double square = 0; // of the peaks
    for (std::size_t n = 1; n < waves.size(); ++n)
        square +=
            std::pow(current_round_delta(std::abs(waves[n]), double(n) * omega, resistance, inductance), 2);
    return {std::sqrt(square / 2), double(series.flux_linkage.size()) * resistance * square / 2};
}

Result<std::optional<DeltaRound>> delta_round_of(QuestionContext& c, const PeriodSeries& series) {
    const double omega = c.machine.pole_pairs() * c.input("speed");
    if (!is_delta(c.machine) || omega <= 0) return std::optional<DeltaRound>{};
    const auto section = zero_sequence_inductance(c);
    if (!section) return section.problems();
    const Conductor conductor = machine_conductor(c.machine);
    return std::optional(delta_round(series, conductor.resistance, *section + conductor.end_inductance, omega));
}

void tell_delta_round(QuestionContext& c, const std::optional<DeltaRound>& round) {
    if (!is_delta(c.machine)) return;
    c.answer.figures.push_back({"delta_current", round ? std::optional(round->current) : std::nullopt, "A"});
    c.answer.figures.push_back({"delta_loss", round ? std::optional(round->loss) : std::nullopt, "W"});
    if (round && round->current > 1e-3 * c.machine.rating.current)
        c.answer.sentence +=
            fmt::format(" Round the delta {:.3g} A rms run, which lose {:.3g} W.", round->current, round->loss);
}

} // namespace mavlo
