#include "scope/time_bar.h"

#include "shell/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr int bar_height = 26;
constexpr double bar_left = 48, bar_right = 10; ///< pixels: as the strips' own

} // namespace

TimeBar::TimeBar(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("time_bar"));
    setAccessibleName(tr("The whole run, and the stretch that is shown"));
    setFixedHeight(bar_height);
    setCursor(Qt::OpenHandCursor);
    setToolTip(tr("Drag the stretch that is shown; the wheel over the strips changes how long it is."));
}

void TimeBar::show_curve(const Curve& curve) {
    m_curve = curve;
    m_from = 0;
    m_to = curve.x.empty() ? 1 : curve.x.back();
    update();
}

void TimeBar::show_stretch(double from, double to) {
    m_from = from;
    m_to = to;
    update();
}

double TimeBar::pixel_of(double seconds) const {
    const double end = m_curve.x.empty() ? 1 : m_curve.x.back();
    return bar_left + seconds / end * (width() - bar_left - bar_right);
}

double TimeBar::seconds_at(double x) const {
    const double end = m_curve.x.empty() ? 1 : m_curve.x.back();
    return (x - bar_left) / (width() - bar_left - bar_right) * end;
}

void TimeBar::paintEvent(QPaintEvent*) {
    if (m_curve.x.empty()) return;
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF all(bar_left, 3, width() - bar_left - bar_right, height() - 6);
    painter.fillRect(all, t.paper);
    const auto [low, high] = std::minmax_element(m_curve.y.begin(), m_curve.y.end());
    const double range = std::max(1e-300, *high - *low);
    QPolygonF line;
    for (std::size_t i = 0; i < m_curve.x.size(); ++i)
        line << QPointF(pixel_of(m_curve.x[i]),
                        all.bottom() - 2 - (m_curve.y[i] - *low) / range * (all.height() - 4));
    painter.setPen(QPen(t.soft, 1));
    painter.drawPolyline(line);
    QColor shown = t.accent;
    shown.setAlphaF(0.16F);
    const QRectF stretch(QPointF(pixel_of(m_from), all.top()), QPointF(pixel_of(m_to), all.bottom()));
    painter.setBrush(shown);
    painter.setPen(QPen(t.accent, 1));
    painter.drawRect(stretch);
}

void TimeBar::centre_on(double seconds) {
    if (m_curve.x.empty()) return;
    const double half = (m_to - m_from) / 2, end = m_curve.x.back(),
                 middle = std::clamp(seconds, half, std::max(half, end - half));
    Q_EMIT stretch_wanted(middle - half, middle + half);
}

void TimeBar::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const double at = seconds_at(event->position().x()), middle = (m_from + m_to) / 2;
    // Beside the stretch the hand takes it by its middle.
    m_grabbed = at >= m_from && at <= m_to ? at - middle : 0;
    centre_on(at - *m_grabbed);
}

void TimeBar::mouseMoveEvent(QMouseEvent* event) {
    if (m_grabbed) centre_on(seconds_at(event->position().x()) - *m_grabbed);
}

void TimeBar::mouseReleaseEvent(QMouseEvent*) {
    m_grabbed.reset();
}

} // namespace mavlo::app
