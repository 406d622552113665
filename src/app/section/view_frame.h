#pragma once
// Metres to pixels and back: what the section shows and how large.

#include "shape/outline.h"

#include <QPointF>
#include <QRectF>
#include <cmath>
#include <vector>

namespace mavlo::app {

class ViewFrame {
  public:
    /// Fits a disc of this radius into the rectangle.
    void fit(const QRectF& room, double radius);
    /// Fits these points into the rectangle with the drawing turned by an angle (rad), counter-clockwise.
    void fit(const QRectF& room, const std::vector<Point>& points, double turn);
    void zoom(double factor, QPointF about); ///< keeps the point under the cursor
    void pan(QPointF by);
    bool is_fitted() const { return m_fitted; }

    QPointF to_screen(Point p) const {
        return {m_centre.x() + m_scale * (m_cosine * p.x - m_sine * p.y),
                m_centre.y() - m_scale * (m_sine * p.x + m_cosine * p.y)};
    }
    Point to_metres(QPointF p) const {
        const double x = (p.x() - m_centre.x()) / m_scale, y = (m_centre.y() - p.y()) / m_scale;
        return {m_cosine * x + m_sine * y, m_cosine * y - m_sine * x};
    }
    double turn() const { return std::atan2(m_sine, m_cosine); } ///< of the drawing on the screen, rad
    double scale() const { return m_scale; }                     ///< pixels a metre
    QPointF centre() const { return m_centre; }

    bool operator==(const ViewFrame&) const = default;

  private:
    QPointF m_centre{400, 300};
    double m_scale = 1000;
    double m_cosine = 1, m_sine = 0; ///< of the turn
    double m_fit_scale = 1000;
    bool m_fitted = true;
};

} // namespace mavlo::app
