#pragma once
// What the question "load" says of an electrical period: figures, curves, a sentence.

#include "figure/loss.h"
#include "question/delta_round.h"
#include "question/period.h"
#include "question/question.h"
#include "question/solid_loss.h"

namespace mavlo {

/// `currents` begins the sentence: "With 10 A peak at 0° electrical advance".
/// What was found beside the period itself.
struct LoadBeside {
    SolidLoss solid{};                 ///< what massive parts lose
    std::optional<double> stray{};     ///< flux density outside the machine, T, where it was looked at
    std::optional<DeltaRound> round{}; ///< beside currents that are given, in a delta
};

void tell_load(QuestionContext& context, const PeriodSeries& series, const FieldLosses& losses,
               const LoadBeside& beside, const std::string& currents);

} // namespace mavlo
