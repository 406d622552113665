#pragma once
// Metres to pixels and back: what the section shows and how large.

#include "shape/outline.h"

#include <QPointF>
#include <QRectF>
#include <QTransform>

namespace mavlo::app {

class ViewFrame {
  public:
    /// Fits a disc of this radius into the rectangle.
    void fit(const QRectF& room, double radius);
    void zoom(double factor, QPointF about); ///< keeps the point under the cursor
    void pan(QPointF by);
    bool is_fitted() const { return m_fitted; }

    QPointF to_screen(Point p) const { return {m_centre.x() + m_scale * p.x, m_centre.y() - m_scale * p.y}; }
    Point to_metres(QPointF p) const {
        return {(p.x() - m_centre.x()) / m_scale, (m_centre.y() - p.y()) / m_scale};
    }
    double scale() const { return m_scale; } ///< pixels a metre
    QPointF centre() const { return m_centre; }
    QTransform transform() const { return {m_scale, 0, 0, -m_scale, m_centre.x(), m_centre.y()}; }

    bool operator==(const ViewFrame&) const = default;

  private:
    QPointF m_centre{400, 300};
    double m_scale = 1000;
    double m_fit_scale = 1000;
    bool m_fitted = true;
};

} // namespace mavlo::app
