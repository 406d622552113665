#pragma once
// The words of choices as a designer reads them.

#include <string>

namespace mavlo {

/// "parallel-tooth" -> "parallel tooth"; "double-vee" -> "double V". What is said otherwise in files and on
/// screens stands in one table.
std::string choice_words(const std::string& choice);

} // namespace mavlo
