#pragma once
// Angles at which switched phases take their current, as questions ask for them, and the currents that follow.

#include "figure/current_wave.h"
#include "question/inputs.h"

namespace mavlo {

/// Mechanical, from each phase's aligned position, negative before it.
inline QuestionInput turn_on_input() {
    return {"turn_on",
            "Turn-on",
            "deg",
            "= rating.turn_on",
            "Of switched phases: rotor angle from the aligned position, negative before it.",
            -360,
            360,
            false,
            InputKind::Number,
            {},
            {},
            nullptr,
            false,
            false,
            [](const Facts& f) { return f.switched; }};
}
inline QuestionInput turn_off_input() {
    return {"turn_off",
            "Turn-off",
            "deg",
            "= rating.turn_off",
            "Of switched phases: rotor angle from the aligned position, negative before it.",
            -360,
            360,
            false,
            InputKind::Number,
            {},
            {},
            nullptr,
            false,
            false,
            [](const Facts& f) { return f.switched; }};
}

/// Of a question that takes "current" with "advance", and of switched phases with the angles of these inputs.
inline CurrentWave asked_wave(const Machine& machine, const Inputs& inputs) {
    if (!machine.facts().switched) return current_vector(inputs.at("current"), inputs.at("advance"));
    return stroke_wave(machine, inputs.at("current"), inputs.at("turn_on"), inputs.at("turn_off"));
}

} // namespace mavlo
