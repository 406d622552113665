#include "probe/probe_hand.h"

#include "shell/theme.h"

#include <cmath>

namespace mavlo::app {
namespace {

constexpr double grip = 9, shortest = 6; ///< pixels

double pixels(QPointF a, QPointF b) {
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

} // namespace

void ProbeHand::set_laying(bool on) {
    m_laying = on;
    m_held = Held::Nothing;
    if (on || !m_line) return;
    m_line.reset();
    Q_EMIT line_changed();
}

void ProbeHand::set_marked(std::optional<Point> place) {
    m_marked = place;
    Q_EMIT marked_changed();
}

void ProbeHand::paint(QPainter& painter, const ViewFrame& frame, double) const {
    const Theme& t = theme();
    painter.setBrush(t.paper);
    if (m_line) {
        const QPointF a = frame.to_screen(m_line->first), b = frame.to_screen(m_line->second);
        painter.setPen(QPen(t.paper, 4));
        painter.drawLine(a, b);
        painter.setPen(QPen(t.accent, 2));
        painter.drawLine(a, b);
        painter.drawEllipse(a, 4, 4);
        painter.setBrush(t.accent);
        painter.drawEllipse(b, 4, 4);
    }
    if (!m_marked) return;
    const QPointF at = frame.to_screen(*m_marked);
    if (!m_line) { // a ray through the gap
        const double radius = norm(*m_marked);
        if (radius <= 0) return;
        const double reach = 16 / frame.scale();
        const Point way = (1 / radius) * *m_marked;
        painter.setPen(QPen(t.paper, 4));
        painter.drawLine(frame.to_screen(*m_marked - reach * way), frame.to_screen(*m_marked + reach * way));
        painter.setPen(QPen(t.accent, 2));
        painter.drawLine(frame.to_screen(*m_marked - reach * way), frame.to_screen(*m_marked + reach * way));
    }
    painter.setPen(QPen(t.paper, 1.5));
    painter.setBrush(t.accent);
    painter.drawEllipse(at, 5, 5);
}

bool ProbeHand::press(QPointF at, const ViewFrame& frame, double) {
    if (!m_laying) return false;
    const Point place = frame.to_metres(at);
    m_held = Held::Second;
    if (m_line && pixels(frame.to_screen(m_line->first), at) < grip)
        m_held = Held::First;
    else if (!m_line || pixels(frame.to_screen(m_line->second), at) >= grip)
        m_line = {place, place};
    return true;
}

bool ProbeHand::move(QPointF at, const ViewFrame& frame, double) {
    const Point place = frame.to_metres(at);
    if (m_held == Held::Nothing) {
        Q_EMIT hovered(place);
        return false;
    }
    (m_held == Held::First ? m_line->first : m_line->second) = place;
    Q_EMIT line_changed();
    return true;
}

bool ProbeHand::release(QPointF, const ViewFrame& frame, double) {
    if (m_held == Held::Nothing) return false;
    m_held = Held::Nothing;
    if (pixels(frame.to_screen(m_line->first), frame.to_screen(m_line->second)) < shortest) m_line.reset();
    Q_EMIT line_changed();
    return true;
}

bool ProbeHand::double_click(QPointF) {
    return m_laying;
}

bool ProbeHand::key(QKeyEvent& event) {
    if (event.key() != Qt::Key_Escape || !m_line) return false;
    m_line.reset();
    m_held = Held::Nothing;
    Q_EMIT line_changed();
    return true;
}

} // namespace mavlo::app
