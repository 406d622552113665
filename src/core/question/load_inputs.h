#pragma once
// Inputs of the question load, which others hand on to it.

#include "question/inputs.h"

#include <vector>

namespace mavlo {

std::vector<QuestionInput> load_inputs();

} // namespace mavlo
