#pragma once
// What is wrong, as the window says it: the row's word before the sentence, not its name in files.

#include "quantity/problem.h"

#include <QString>

namespace mavlo::app {

/// "Air gap: The gap …"; a parameter and an input by their words, a file by its name.
QString told(const Problem& problem);

} // namespace mavlo::app
