#pragma once
// A whole machine as a small picture: materials and outlines, no words.

#include "shell/document.h"

#include <QPainter>

namespace mavlo::app {

void paint_small_section(QPainter& painter, const QRectF& box, const DrawnMachine& built);

} // namespace mavlo::app
