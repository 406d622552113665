#include "shell/told_problem.h"

#include "machine/parameter.h"
#include "question/question.h"
#include "shell/spoken.h"

#include <string_view>

namespace mavlo::app {

namespace {

/// Of an input of whatever question; empty: there is none.
QString input_label(const std::string& key) {
    for (const QuestionKind& kind : question_kinds())
        for (const QuestionInput& input : kind.inputs)
            if (input.key == key) return spoken(input.label);
    return {};
}

constexpr std::string_view input = "--with ";

bool is_of_terminal(const std::string& path) {
    return path.starts_with("--");
}

} // namespace

QString place_in_words(const Problem& problem) {
    if (const std::string key = input_key(problem.path); !key.empty()) return input_label(key);
    const Parameter* parameter = find_parameter(problem.path);
    return parameter ? spoken(parameter->label) : QString();
}

std::string input_key(const std::string& path) {
    return path.starts_with(input) ? path.substr(input.size()) : std::string();
}

QString told(const Problem& problem) {
    const QString sentence = QString::fromStdString(problem.sentence);
    QString place = place_in_words(problem);
    if (place.isEmpty() && !is_of_terminal(problem.path))
        place = QString::fromStdString(problem.path); // a file
    return place.isEmpty() ? sentence : place + QStringLiteral(": ") + sentence;
}

Problem in_words(const QString& sentence) {
    return {"", sentence.toStdString()};
}

} // namespace mavlo::app
