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

QString place_of(const std::string& path) {
    constexpr std::string_view input = "--with ";
    if (path.starts_with(input)) return input_label(path.substr(input.size()));
    if (path.starts_with("--")) return {}; // of the terminal
    const Parameter* parameter = find_parameter(path);
    return QString::fromStdString(parameter ? parameter->label : path);
}

} // namespace

QString told(const Problem& problem) {
    const QString place = place_of(problem.path), sentence = QString::fromStdString(problem.sentence);
    return place.isEmpty() ? sentence : place + QStringLiteral(": ") + sentence;
}

} // namespace mavlo::app
