#include "probe/phase_pad.h"

#include "question/period.h"
#include "shell/theme.h"

#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double above = 22, below = 22, widest = 46;

} // namespace

PhasePad::PhasePad(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("phase_pad"));
    setAccessibleName(tr("Currents of the phases"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumHeight(120);
    setToolTip(
        tr("Drag a column, or choose it with left and right and change it with up and down; Shift: tenfold."));
}

void PhasePad::set_currents(std::vector<double> amperes) {
    m_currents = std::move(amperes);
    m_chosen = std::clamp(m_chosen, 0, std::max(0, int(m_currents.size()) - 1));
    update();
}

void PhasePad::set_limit(double amperes) {
    m_limit = amperes > 0 ? amperes : 1;
    update();
}

QRectF PhasePad::column(int phase) const {
    const double count = double(std::max<std::size_t>(1, m_currents.size())), pitch = width() / count,
                 across = std::min(widest, 0.7 * pitch);
    return {pitch * (phase + 0.5) - across / 2, above, across, height() - above - below};
}

QPointF PhasePad::top_of(int phase) const {
    const QRectF c = column(phase);
    const double share = std::clamp(m_currents[std::size_t(phase)] / m_limit, 0.0, 1.0);
    return {c.center().x(), c.bottom() - share * c.height()};
}

void PhasePad::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    for (int k = 0; k < int(m_currents.size()); ++k) {
        const QRectF c = column(k);
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.line);
        painter.drawRoundedRect(c, 3, 3);
        const QPointF top = top_of(k);
        painter.setBrush(t.phase[std::size_t(k)]);
        painter.drawRoundedRect(QRectF(QPointF(c.left(), top.y()), c.bottomRight()), 3, 3);
        const bool chosen = hasFocus() && k == m_chosen;
        painter.setPen(QPen(chosen ? t.accent : t.ink, chosen ? 3 : 2));
        painter.drawLine(QPointF(c.left() - 3, top.y()), QPointF(c.right() + 3, top.y()));
        painter.setPen(t.ink);
        const QRectF wide(c.center().x() - 45, 0, 90, above - 4);
        painter.drawText(wide, Qt::AlignHCenter | Qt::AlignBottom,
                         QStringLiteral("%1 A").arg(m_currents[std::size_t(k)], 0, 'g', 3));
        painter.drawText(wide.translated(0, height() - below + 4), Qt::AlignHCenter | Qt::AlignTop,
                         QString::fromStdString(phase_suffix(std::size_t(k))).toUpper());
    }
}

void PhasePad::change(double amperes) {
    if (m_currents.empty()) return;
    m_currents[std::size_t(m_chosen)] = std::clamp(amperes, 0.0, m_limit);
    update();
    Q_EMIT changed();
}

void PhasePad::drag(QPointF position) {
    const QRectF c = column(m_chosen);
    const double share = (c.bottom() - position.y()) / c.height();
    change(share < 0.015 ? 0 : share * m_limit);
}

void PhasePad::mousePressEvent(QMouseEvent* event) {
    if (m_currents.empty()) return;
    const double pitch = double(width()) / double(m_currents.size());
    m_chosen = std::clamp(int(event->position().x() / pitch), 0, int(m_currents.size()) - 1);
    drag(event->position());
}

void PhasePad::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && !m_currents.empty()) drag(event->position());
}

/// Once more, now that the hand rests.
void PhasePad::mouseReleaseEvent(QMouseEvent*) {
    if (!m_currents.empty()) change(m_currents[std::size_t(m_chosen)]);
}

void PhasePad::keyPressEvent(QKeyEvent* event) {
    const int count = int(m_currents.size());
    if (count == 0) return QWidget::keyPressEvent(event);
    const double step = m_limit * (event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01);
    switch (event->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right:
        m_chosen = (m_chosen + (event->key() == Qt::Key_Left ? count - 1 : 1)) % count;
        return update();
    case Qt::Key_Up:
        return change(m_currents[std::size_t(m_chosen)] + step);
    case Qt::Key_Down:
        return change(m_currents[std::size_t(m_chosen)] - step);
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace mavlo::app
