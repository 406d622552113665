#include "question/input_words.h"

#include "question/question.h"
#include "question/words.h"

#include <cctype>

namespace mavlo {
namespace {

bool is_standard(const QuestionInput& input, const std::string& value) {
    return value.empty() || value == "auto" || value == input.standard ||
           value == input.standard + " " + input.unit;
}

/// With the input's own label and the trade's unit.
std::string in_words(const QuestionInput& input, const std::string& value) {
    std::string label = input.label, text = value;
    if (!label.empty() && (label.size() == 1 || !std::isupper(static_cast<unsigned char>(label[1]))))
        label[0] = char(std::tolower(static_cast<unsigned char>(label[0])));
    if (!input.unit.empty() && text.ends_with(" " + input.unit))
        text = text.substr(0, text.size() - input.unit.size()) + shown_unit(input.unit);
    return label + " " + text;
}

} // namespace

std::vector<std::string> inputs_in_words(const Answer& answer) {
    std::vector<std::string> list;
    const QuestionKind* kind = find_question(answer.question);
    if (!kind) return list;
    for (const QuestionInput& input : kind->inputs)
        if (const auto found = answer.inputs.find(input.key);
            found != answer.inputs.end() && !is_standard(input, found->second))
            list.push_back(in_words(input, found->second));
    return list;
}

} // namespace mavlo
