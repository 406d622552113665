#pragma once
// The pictures of a WhereView, one a kind of place. Each draws the section with what the answer says of it, and
// returns what stands under it, line by line.

#include "question/answer.h"
#include "shell/document.h"

#include <QPainter>
#include <QStringList>

namespace mavlo::app {

bool has_losses_by_part(const Answer& answer);
QStringList paint_losses_by_part(QPainter& painter, const QRectF& room, const Answer& answer,
                                 const DrawnMachine& built);

bool has_magnet_margins(const Answer& answer);
QStringList paint_magnet_margins(QPainter& painter, const QRectF& room, const Answer& answer,
                                 const DrawnMachine& built);

bool has_force_wave(const Answer& answer);
QStringList paint_force_wave(QPainter& painter, const QRectF& room, const Answer& answer,
                             const DrawnMachine& built);

} // namespace mavlo::app
