#pragma once
// Whether more of a key figure is better, as the user says; else as its kind does.

#include "question/key_figure.h"

namespace mavlo::app {

/// +1: more is better, -1: less is better, 0: neither.
int wanted_direction(const KeyFigure& figure);
void set_wanted_direction(const KeyFigure& figure, int direction);

} // namespace mavlo::app
