#pragma once

#include "question/answer.h"

namespace mavlo {

/// What was asked for otherwise than a question asks by itself: "current (phase, peak) 105 A", in the order of
/// the question's inputs.
std::vector<std::string> inputs_in_words(const Answer& answer);

} // namespace mavlo
