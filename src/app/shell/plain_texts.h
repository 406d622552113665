#pragma once
// Names and sentences from files are shown as they are: never as marked-up text, which could hide, imitate or
// load something.

namespace mavlo::app {

/// From now on every label that does not ask for marked-up text shows it plainly, and so do all tooltips.
void show_plain_texts();

} // namespace mavlo::app
