#include "scope/device_paint.h"

#include "shell/theme.h"

#include <QPainterPath>

namespace mavlo::app {

QPen wire(bool lit) {
    return QPen(lit ? theme().accent : theme().soft, lit ? 2.2 : 1.1);
}

void paint_switch(QPainter& painter, QPointF s, double half, bool lit, bool closed) {
    painter.setPen(wire(lit));
    painter.drawLine(s + QPointF(0, -half), s + QPointF(0, -6));
    painter.drawLine(s + QPointF(0, 6), s + QPointF(0, half));
    // Closed it is a line, open it stands off.
    painter.drawLine(s + QPointF(0, 6), closed ? s + QPointF(0, -6) : s + QPointF(-7, -5));
    painter.setBrush(painter.pen().color());
    painter.drawEllipse(s + QPointF(0, 6), 1.6, 1.6);
    painter.drawEllipse(s + QPointF(0, -6), 1.6, 1.6);
}

void paint_diode(QPainter& painter, QPointF f, double half, bool lit) {
    painter.setPen(wire(lit));
    painter.drawLine(f + QPointF(0, -half), f + QPointF(0, half));
    QPainterPath triangle(f + QPointF(0, -5));
    triangle.lineTo(f + QPointF(5, 4));
    triangle.lineTo(f + QPointF(-5, 4));
    triangle.closeSubpath();
    painter.fillPath(triangle, lit ? theme().accent : theme().sheet);
    painter.drawPath(triangle);
    painter.drawLine(f + QPointF(-5, -5), f + QPointF(5, -5));
}

void paint_device(QPainter& painter, const Device& d, double half) {
    const double apart = 9;
    const QPointF c = d.centre;
    if (d.has_switch) paint_switch(painter, c - QPointF(apart, 0), half, d.lit_switch, d.is_on);
    paint_diode(painter, c + QPointF(d.has_switch ? apart : 0, 0), half, d.lit_diode);
    if (!d.has_switch) return;
    painter.setPen(wire(d.lit_switch || d.lit_diode));
    for (const double y : {-half, half}) painter.drawLine(c + QPointF(-apart, y), c + QPointF(apart, y));
}

} // namespace mavlo::app
