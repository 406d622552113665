#include "probe/dq_pad.h"

#include "shell/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {

DqPad::DqPad(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("dq_pad"));
    setAccessibleName(tr("Current along d and q"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumHeight(120); // smaller where the window is
    setMaximumHeight(220);
    setToolTip(tr("Drag the tip of the current vector. Arrow keys move it by 2 % of the largest current; 0 "
                  "switches it off."));
}

double DqPad::pixels_per_ampere() const {
    return (std::min(width(), height()) / 2.0 - 26) / std::max(1e-9, m_limit);
}

QPointF DqPad::tip() const {
    return centre() + pixels_per_ampere() * QPointF(m_current.d, -m_current.q);
}

void DqPad::set_current(Dq current) {
    m_current = current;
    update();
}

void DqPad::set_limit(double amperes) {
    m_limit = std::max(1e-6, amperes);
    update();
}

void DqPad::take(QPointF position) {
    const QPointF d = (position - centre()) / pixels_per_ampere();
    Dq current{d.x(), -d.y()};
    const double size = std::hypot(current.d, current.q);
    if (size > m_limit) current = {current.d * m_limit / size, current.q * m_limit / size};
    // The axes attract within a few pixels, since pure d and q currents are asked for often.
    const double snap = 4 / pixels_per_ampere();
    if (std::abs(current.d) < snap) current.d = 0;
    if (std::abs(current.q) < snap) current.q = 0;
    m_current = current;
    update();
    Q_EMIT changed(m_current);
}

void DqPad::mousePressEvent(QMouseEvent* event) {
    setFocus();
    take(event->position());
}

void DqPad::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) take(event->position());
}

/// Once more, now that the hand rests.
void DqPad::mouseReleaseEvent(QMouseEvent*) {
    Q_EMIT changed(m_current);
}

void DqPad::keyPressEvent(QKeyEvent* event) {
    const double step = 0.02 * m_limit * (event->modifiers() & Qt::ShiftModifier ? 5 : 1);
    Dq c = m_current;
    switch (event->key()) {
    case Qt::Key_Left:
        c.d -= step;
        break;
    case Qt::Key_Right:
        c.d += step;
        break;
    case Qt::Key_Up:
        c.q += step;
        break;
    case Qt::Key_Down:
        c.q -= step;
        break;
    case Qt::Key_0:
        c = {};
        break;
    default:
        QWidget::keyPressEvent(event);
        return;
    }
    m_current = c;
    update();
    Q_EMIT changed(m_current);
}

void DqPad::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double radius = pixels_per_ampere() * m_limit;
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(t.field);
    painter.drawEllipse(centre(), radius, radius);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.line, 1, Qt::DotLine));
    painter.drawEllipse(centre(), radius / 2, radius / 2);
    painter.setPen(QPen(t.soft, 1));
    painter.drawLine(centre() - QPointF(radius, 0), centre() + QPointF(radius, 0));
    painter.drawLine(centre() - QPointF(0, radius), centre() + QPointF(0, radius));
    painter.setFont(small_font());
    painter.drawText(QRectF(centre().x() + radius + 4, centre().y() - 9, 20, 18),
                     Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("d"));
    painter.drawText(QRectF(centre().x() - 10, centre().y() - radius - 20, 20, 18), Qt::AlignCenter,
                     QStringLiteral("q"));
    painter.drawText(QPointF(centre().x() + 0.72 * radius, centre().y() + 0.72 * radius + 14),
                     QStringLiteral("%1 A").arg(m_limit, 0, 'g', 3));
    painter.setPen(QPen(t.accent, 2));
    painter.drawLine(centre(), tip());
    painter.setPen(QPen(t.sheet, 1.5));
    painter.setBrush(t.accent);
    painter.drawEllipse(tip(), 7, 7);
    if (hasFocus()) {
        painter.setPen(QPen(t.accent, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(centre(), radius + 2, radius + 2);
    }
}

} // namespace mavlo::app
