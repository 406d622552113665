#pragma once
// One answer of a design, for tests that need it to be there.

#include "question/question.h"

#include <QTest>
#include <cmath>

namespace mavlo {

inline Answer asked(const Design& design, const std::string& question, std::map<std::string, std::string> with,
                    Quality quality = Quality::Draft) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = quality;
    auto answer = ask_question(question, ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

/// The first sentence that keeps a question from being answered at draft quality; empty: it is answered.
inline std::string refused(const Design& design, const std::string& question,
                           std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    const auto answer = ask_question(question, ask);
    return answer ? "" : to_string(answer.problems().front());
}

/// Not a number where it is open.
inline double of(const Answer& answer, const char* name) {
    return answer.figure(name).value_or(std::nan(""));
}

} // namespace mavlo
