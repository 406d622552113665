#pragma once
// Switches and diodes of a schematic, lit where they conduct.

#include <QPainter>

namespace mavlo::app {

struct Device {
    QPointF centre;
    bool lit_switch, lit_diode, is_on; ///< is_on: its gate
    bool has_switch;
};

QPen wire(bool lit);
/// A switch beside its diode, both between the points above and below.
void paint_device(QPainter& painter, const Device& device, double half);
/// By itself, between the points above and below.
void paint_switch(QPainter& painter, QPointF centre, double half, bool lit, bool closed);
/// Its current goes upwards.
void paint_diode(QPainter& painter, QPointF centre, double half, bool lit);

} // namespace mavlo::app
