#pragma once
// The head of an arrow, as dimension lines and phasors have it.

#include <QPainter>
#include <cmath>

namespace mavlo::app {

struct ArrowSize {
    double length, half_width; ///< pixels
};

/// Filled with the painter's brush, its point at `tip`, the arrow coming from `from`; none where it has no
/// length.
inline void paint_arrow_head(QPainter& painter, QPointF tip, QPointF from, ArrowSize size) {
    const QPointF d = from - tip;
    const double length = std::hypot(d.x(), d.y());
    if (length < 1) return;
    const QPointF u = d / length, v(-u.y(), u.x()), back = tip + size.length * u;
    painter.drawPolygon(QPolygonF{tip, back + size.half_width * v, back - size.half_width * v});
}

} // namespace mavlo::app
