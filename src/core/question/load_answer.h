#pragma once
// What the question "load" says of an electrical period: figures, curves, a sentence.

#include "figure/loss.h"
#include "question/period.h"
#include "question/question.h"

namespace mavlo {

/// `currents` begins the sentence: "With 10 A peak at 0° electrical advance".
void tell_load(QuestionContext& context, const PeriodSeries& series, const FieldLosses& losses,
               const std::string& currents);

} // namespace mavlo
