#pragma once
// The section for screen readers: a drawing whose parts are its children, each with its name, place and one
// action, to be taken in hand.

namespace mavlo::app {

/// Once for the program; before the first section is shown.
void install_section_accessible();

} // namespace mavlo::app
