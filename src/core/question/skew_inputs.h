#pragma once
// The skew: the design's, or another for one answer.

#include "figure/skew.h"
#include "machine/machine.h"
#include "question/inputs.h"

#include <cmath>

namespace mavlo {

inline std::vector<QuestionInput> skew_inputs() {
    QuestionInput angle{"skew",
                        "Skew (mechanical)",
                        "deg",
                        "auto",
                        "Over the whole stack, of stator or rotor alike; auto: the design's.",
                        0,
                        90};
    angle.auto_allowed = true;
    return {angle,
            {"skew_steps", "Skew in steps", "", "0",
             "Of a skew that is given here: equal slices turned against each other; 0: continuous.", 0, 50,
             true}};
}

/// What holds for an answer.
inline SkewedStack skew_of(const Machine& machine, const Inputs& inputs) {
    const double given = inputs.at("skew");
    return std::isnan(given) ? machine.skew : skewed_by(given, int(inputs.at("skew_steps")));
}

inline std::vector<QuestionInput> with_skew(std::vector<QuestionInput> list) {
    for (auto& input : skew_inputs()) list.push_back(input);
    return list;
}

} // namespace mavlo
