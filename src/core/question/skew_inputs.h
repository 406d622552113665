#pragma once
// The skew, as an input of every question that turns the rotor.

#include "figure/skew.h"
#include "question/inputs.h"

namespace mavlo {

inline std::vector<QuestionInput> skew_inputs() {
    return {{"skew", "Skew (mechanical)", "deg", "0",
             "Over the whole stack, of stator or rotor alike; what it does to the field along the axis is left "
             "out.",
             0, 90},
            {"skew_steps", "Skew in steps", "", "0", "Equal slices turned against each other; 0: continuous.",
             0, 50, true}};
}

inline std::vector<Slice> skew_slices(const Inputs& inputs) {
    return skew_slices(inputs.at("skew"), int(inputs.at("skew_steps")));
}
/// A periodic series as the skewed stack shows it, where no current flows.
inline std::vector<double> skewed(const std::vector<double>& samples, double period, const Inputs& inputs) {
    return skewed(samples, period, inputs.at("skew"), int(inputs.at("skew_steps")));
}

inline std::vector<QuestionInput> with_skew(std::vector<QuestionInput> list) {
    for (auto& input : skew_inputs()) list.push_back(input);
    return list;
}

} // namespace mavlo
