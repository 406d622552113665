#pragma once
// Angles at which switched phases take their current, as questions ask for them.

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
            360};
}
inline QuestionInput turn_off_input() {
    return {"turn_off",
            "Turn-off",
            "deg",
            "= rating.turn_off",
            "Of switched phases: rotor angle from the aligned position, negative before it.",
            -360,
            360};
}

} // namespace mavlo
