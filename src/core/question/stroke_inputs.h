#pragma once
// Angles at which switched phases take their current, as questions ask for them, and the currents that follow.

#include "figure/current_wave.h"
#include "question/inputs.h"

namespace mavlo {

/// Mechanical, from each phase's aligned position, negative before it.
/// An angle of the stroke's, taken from the rating.
inline QuestionInput stroke_angle_input(const char* key, const char* label, const char* standard) {
    QuestionInput input{key,
                        label,
                        "deg",
                        standard,
                        "Of switched phases: rotor angle from the aligned position, negative before it.",
                        -360,
                        360};
    input.applies = [](const Facts& f) { return f.switched; };
    return input;
}
inline QuestionInput turn_on_input() {
    return stroke_angle_input("turn_on", "Turn-on", "= rating.turn_on");
}
inline QuestionInput turn_off_input() {
    return stroke_angle_input("turn_off", "Turn-off", "= rating.turn_off");
}

/// Of a question that takes "current" with "advance", and of switched phases with the angles of these inputs.
inline CurrentWave asked_wave(const Machine& machine, const Inputs& inputs) {
    if (!machine.facts().switched) return current_vector(inputs.at("current"), inputs.at("advance"));
    return stroke_wave(machine, inputs.at("current"), inputs.at("turn_on"), inputs.at("turn_off"));
}

} // namespace mavlo
