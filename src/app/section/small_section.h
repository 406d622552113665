#pragma once
// A whole machine as a small picture: materials and outlines, no words.

#include "section/view_frame.h"
#include "shell/document.h"

#include <QPainter>

namespace mavlo::app {

ViewFrame small_frame(const QRectF& box, const DrawnMachine& built); ///< in which it is drawn
void paint_small_section(QPainter& painter, const QRectF& box, const DrawnMachine& built);

} // namespace mavlo::app
