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

/// A temperature of an answer as a text.
inline std::string degrees_of(const Answer& answer, const char* figure) {
    return QString::number(of(answer, figure), 'g', 12).toStdString() + " degC";
}

/// The steels as warm as heat found them.
inline void with_steel_of(Design& design, const Answer& heat) {
    const double stator = (of(heat, "temperature_stator_teeth") + of(heat, "temperature_stator_yoke")) / 2;
    design.texts["stator.steel_temperature"] = QString::number(stator, 'g', 12).toStdString() + " degC";
    design.texts["rotor.steel_temperature"] = degrees_of(heat, "temperature_rotor");
}

} // namespace mavlo
