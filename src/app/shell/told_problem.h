#pragma once
// What is wrong, as the window says it: the row's word before the sentence, not its name in files.

#include "quantity/problem.h"

#include <QString>

namespace mavlo::app {

/// "Air gap: The gap …"; a parameter and an input by their words, a file by its name.
QString told(const Problem& problem);

/// The word of the row that it means, a parameter's or an input's; empty: there is none to lead to.
QString place_in_words(const Problem& problem);

/// "--with KEY": the input's key; empty: it is none.
std::string input_key(const std::string& path);

/// A sentence that means no row.
Problem in_words(const QString& sentence);

} // namespace mavlo::app
