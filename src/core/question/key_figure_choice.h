#pragma once
// Key figures chosen by their names, as questions about many figures take them.

#include "question/inputs.h"
#include "question/key_figure.h"

namespace mavlo {

/// Words with commas between; none for "auto" or an empty text.
std::vector<std::string> word_list(const std::string& text);

/// An input that takes such words.
QuestionInput word_input(const char* key, const char* label, const char* help);

/// Those named; all that apply to the machine where none is. Fails with a sentence that names what there is.
Result<std::vector<const KeyFigure*>> chosen_key_figures(const std::string& text, const Machine& machine);

/// The unit of its value in SI, as answers write it ("N.m", "1").
std::string si_unit(const KeyFigure& figure);

std::string lower_first(std::string text); ///< "Cogging torque" -> "cogging torque"

} // namespace mavlo
