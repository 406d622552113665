#include "section/view_frame.h"

#include <algorithm>

namespace mavlo::app {

void ViewFrame::fit(const QRectF& room, double radius) {
    m_centre = room.center();
    m_scale = m_fit_scale = std::max(1.0, std::min(room.width(), room.height()) / (2 * radius));
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
