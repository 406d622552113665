#include "section/view_frame.h"

#include <algorithm>

namespace mavlo::app {

void ViewFrame::fit(const QRectF& room, double radius) {
    m_centre = room.center();
    m_scale = m_fit_scale = std::max(1.0, std::min(room.width(), room.height()) / (2 * radius));
    m_cosine = 1;
    m_sine = 0;
    m_fitted = true;
}

void ViewFrame::fit(const QRectF& room, const std::vector<Point>& points, double turn) {
    m_cosine = std::cos(turn);
    m_sine = std::sin(turn);
    m_centre = {0, 0};
    m_scale = 1;
    QRectF box;
    for (const Point& p : points) {
        const QPointF at = to_screen(p);
        box = box.isNull() ? QRectF(at, QSizeF(1e-9, 1e-9)) : box.united(QRectF(at, QSizeF(1e-9, 1e-9)));
    }
    m_scale = m_fit_scale = std::max(1.0, std::min(room.width() / box.width(), room.height() / box.height()));
    m_centre = room.center() - m_scale * box.center();
    m_fitted = true;
}

void ViewFrame::zoom(double factor, QPointF about) {
    const double wanted = std::clamp(m_scale * factor, 0.5 * m_fit_scale, 200 * m_fit_scale);
    const double real = wanted / m_scale;
    m_centre = about + (m_centre - about) * real;
    m_scale = wanted;
    m_fitted = false;
}

void ViewFrame::pan(QPointF by) {
    m_centre += by;
    m_fitted = false;
}

} // namespace mavlo::app
