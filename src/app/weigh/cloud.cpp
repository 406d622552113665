#include "weigh/cloud.h"

#include "quantity/round_values.h"
#include "shell/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double left = 74, right = 18, top = 30, bottom = 46, reach = 12;

void widen(double& low, double& high) {
    const double pad = high > low ? 0.06 * (high - low) : std::max(1e-9, 0.1 * std::abs(low));
    low -= pad;
    high += pad;
}

} // namespace

Cloud::Cloud(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("cloud"));
    setMouseTracking(true);
    setMinimumSize(260, 200);
}

void Cloud::show_points(std::vector<CloudPoint> points, const QString& x_label, const QString& y_label) {
    m_points = std::move(points);
    m_hot = nullptr;
    m_x_label = x_label;
    m_y_label = y_label;
    if (!m_points.empty()) {
        const auto [x0, x1] = std::minmax_element(m_points.begin(), m_points.end(),
                                                  [](const auto& a, const auto& b) { return a.x < b.x; });
        const auto [y0, y1] = std::minmax_element(m_points.begin(), m_points.end(),
                                                  [](const auto& a, const auto& b) { return a.y < b.y; });
        m_x0 = x0->x, m_x1 = x1->x, m_y0 = y0->y, m_y1 = y1->y;
        widen(m_x0, m_x1);
        widen(m_y0, m_y1);
    }
    update();
}

void Cloud::pick(std::optional<std::size_t> design) {
    m_picked = design;
    update();
}

QRectF Cloud::frame() const {
    return QRectF(rect()).adjusted(left, top, -right, -bottom);
}

QPointF Cloud::place(const CloudPoint& p) const {
    const QRectF f = frame();
    return {f.left() + (p.x - m_x0) / (m_x1 - m_x0) * f.width(),
            f.bottom() - (p.y - m_y0) / (m_y1 - m_y0) * f.height()};
}

QPointF Cloud::place_of(std::size_t design) const {
    for (const CloudPoint& p : m_points)
        if (p.design == design) return place(p);
    return {};
}

const CloudPoint* Cloud::nearest(QPointF at) const {
    const CloudPoint* best = nullptr;
    double least = reach * reach;
    for (const CloudPoint& p : m_points) {
        const QPointF d = place(p) - at;
        if (const double square = QPointF::dotProduct(d, d); square < least) least = square, best = &p;
    }
    return best;
}

void Cloud::paint_axes(QPainter& painter) const {
    const Theme& t = theme();
    const QRectF f = frame();
    painter.setFont(small_font());
    for (double v : round_values(m_x0, m_x1)) {
        const double x = f.left() + (v - m_x0) / (m_x1 - m_x0) * f.width();
        painter.setPen(QPen(t.line, 1, Qt::DotLine));
        painter.drawLine(QPointF(x, f.top()), QPointF(x, f.bottom()));
        painter.setPen(t.soft);
        painter.drawText(QRectF(x - 40, f.bottom() + 4, 80, 16), Qt::AlignHCenter, QString::number(v, 'g', 4));
    }
    for (double v : round_values(m_y0, m_y1)) {
        const double y = f.bottom() - (v - m_y0) / (m_y1 - m_y0) * f.height();
        painter.setPen(QPen(t.line, 1, Qt::DotLine));
        painter.drawLine(QPointF(f.left(), y), QPointF(f.right(), y));
        painter.setPen(t.soft);
        painter.drawText(QRectF(0, y - 8, left - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(v, 'g', 4));
    }
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(f);
    painter.setPen(t.soft);
    painter.drawText(QRectF(f.left(), f.bottom() + 22, f.width(), 18), Qt::AlignHCenter, m_x_label);
    painter.drawText(QRectF(8, 6, width() - 16, 18), Qt::AlignLeft, m_y_label);
}

void Cloud::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.sheet);
    if (m_points.empty()) {
        painter.setPen(t.soft);
        painter.drawText(rect(), Qt::AlignCenter, tr("The designs that are tried will stand here."));
        return;
    }
    paint_axes(painter);
    std::vector<const CloudPoint*> front;
    for (const CloudPoint& p : m_points) {
        if (p.front) {
            front.push_back(&p);
            continue;
        }
        painter.setPen(QPen(t.soft, 1));
        painter.setBrush(p.within ? QBrush(t.line) : QBrush(Qt::NoBrush));
        painter.drawEllipse(place(p), 3.5, 3.5);
    }
    std::sort(front.begin(), front.end(), [](auto* a, auto* b) { return a->x < b->x; });
    QPolygonF line;
    for (const CloudPoint* p : front) line << place(*p);
    painter.setPen(QPen(t.accent, 1.2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    painter.setBrush(t.accent);
    for (const CloudPoint* p : front) painter.drawEllipse(place(*p), 4.5, 4.5);
    painter.setBrush(Qt::NoBrush);
    for (const CloudPoint& p : m_points) {
        if (p.base) {
            painter.setPen(QPen(t.ink, 1.6));
            painter.drawEllipse(place(p), 7, 7);
            painter.drawText(place(p) + QPointF(10, -6), tr("base"));
        }
        if (m_picked == p.design || m_hot == &p) {
            painter.setPen(QPen(t.caution, 2));
            painter.drawEllipse(place(p), 8, 8);
        }
    }
}

void Cloud::mousePressEvent(QMouseEvent* event) {
    if (const CloudPoint* p = nearest(event->position())) {
        m_picked = p->design;
        update();
        Q_EMIT design_picked(p->design);
    }
}

void Cloud::mouseMoveEvent(QMouseEvent* event) {
    const CloudPoint* hot = nearest(event->position());
    if (hot == m_hot) return;
    m_hot = hot;
    setToolTip(hot ? tr("%1, %2").arg(hot->x, 0, 'g', 5).arg(hot->y, 0, 'g', 5) : QString());
    update();
}

} // namespace mavlo::app
