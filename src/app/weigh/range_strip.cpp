#include "weigh/range_strip.h"

#include "shell/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double margin = 18, line = 16, reach = 12;
constexpr int most_values = 60;

/// To three digits more than the span has, so that a dragged end reads as it would be typed.
double rounded(double value, double span) {
    const double step = std::pow(10.0, std::floor(std::log10(std::max(span, 1e-12))) - 2);
    return std::round(value / step) * step;
}

} // namespace

RangeStrip::RangeStrip(QWidget* parent)
    : QWidget(parent) {
    setFixedHeight(46);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::SizeHorCursor);
    setAccessibleName(tr("Range of what varies"));
    setToolTip(tr("Drag the ends; the wheel makes the values more or fewer"));
}

void RangeStrip::show_range(double present, const std::vector<double>& values, double low, double high,
                            bool whole_numbers, const QString& unit) {
    m_present = present;
    m_values = values;
    std::sort(m_values.begin(), m_values.end());
    m_low = low;
    m_high = high;
    m_whole = whole_numbers;
    m_unit = unit;
    if (m_end < 0) set_scale(); // else it would run away under the hand
    if (!m_values.empty())
        setAccessibleDescription(tr("%1 values from %2 to %3 %4")
                                     .arg(m_values.size())
                                     .arg(m_values.front())
                                     .arg(m_values.back())
                                     .arg(m_unit));
    update();
}

/// Room for half as much again on both sides, within what the parameter may be.
void RangeStrip::set_scale() {
    const double first = std::min(m_present, m_values.empty() ? m_present : m_values.front()),
                 last = std::max(m_present, m_values.empty() ? m_present : m_values.back());
    const double span = std::max({last - first, 0.2 * std::abs(m_present), m_whole ? 4.0 : 1e-9});
    m_left = std::max(first - 0.5 * span, m_low);
    m_right = std::min(last + 0.5 * span, m_high);
    if (!(m_right > m_left)) m_right = m_left + 1;
}

QPointF RangeStrip::place_of(double value) const {
    return {margin + (value - m_left) / (m_right - m_left) * (width() - 2 * margin), line};
}

double RangeStrip::value_at(double x) const {
    const double value = m_left + (x - margin) / (width() - 2 * margin) * (m_right - m_left);
    return std::clamp(m_whole ? std::round(value) : rounded(value, m_right - m_left), m_low, m_high);
}

void RangeStrip::tell(int count) {
    if (m_values.empty()) return;
    const double from = m_values.front(), to = m_values.back();
    const int most = m_whole ? std::min(most_values, int(std::lround(to - from)) + 1) : most_values;
    Q_EMIT range_dragged(from, to, std::clamp(count, 2, std::max(2, most)));
}

void RangeStrip::move_end(double value) {
    if (m_values.size() < 2) return;
    if (m_end == 0)
        m_values.front() = std::min(value, m_values.back());
    else
        m_values.back() = std::max(value, m_values.front());
    tell(int(m_values.size()));
}

void RangeStrip::mousePressEvent(QMouseEvent* event) {
    m_end = -1;
    if (m_values.size() < 2 || event->button() != Qt::LeftButton) return;
    const double first = std::abs(place_of(m_values.front()).x() - event->position().x()),
                 last = std::abs(place_of(m_values.back()).x() - event->position().x());
    if (std::min(first, last) < reach) m_end = first < last ? 0 : 1;
    update();
}

void RangeStrip::mouseMoveEvent(QMouseEvent* event) {
    if (m_end >= 0 && (event->buttons() & Qt::LeftButton)) move_end(value_at(event->position().x()));
}

void RangeStrip::mouseReleaseEvent(QMouseEvent*) {
    m_end = -1;
    set_scale();
    update();
}

void RangeStrip::wheelEvent(QWheelEvent* event) {
    tell(int(m_values.size()) + (event->angleDelta().y() > 0 ? 1 : -1));
    event->accept();
}

/// Left and right move the last end, with Shift the first; plus and minus change how many values there are.
void RangeStrip::keyPressEvent(QKeyEvent* event) {
    if (m_values.size() < 2) return QWidget::keyPressEvent(event);
    const int along = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (along != 0) {
        m_end = event->modifiers() & Qt::ShiftModifier ? 0 : 1;
        const double step = m_whole ? 1 : (m_right - m_left) / 40;
        const double end = m_end == 0 ? m_values.front() : m_values.back();
        move_end(value_at(place_of(end + along * step).x()));
        m_end = -1;
        set_scale();
    } else if (event->key() == Qt::Key_Plus || event->key() == Qt::Key_Minus) {
        tell(int(m_values.size()) + (event->key() == Qt::Key_Plus ? 1 : -1));
    } else {
        QWidget::keyPressEvent(event);
    }
}

void RangeStrip::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(hasFocus() ? t.accent : t.line, 1.5));
    painter.drawLine(QPointF(margin, line), QPointF(width() - margin, line));
    if (m_values.size() > 1) {
        painter.setPen(QPen(t.accent, 3));
        painter.drawLine(place_of(m_values.front()), place_of(m_values.back()));
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.accent);
    for (double value : m_values) painter.drawEllipse(place_of(value), 3, 3);
    painter.setPen(QPen(t.accent, 1.5));
    painter.setBrush(t.sheet);
    if (m_values.size() > 1)
        for (double end : {m_values.front(), m_values.back()}) painter.drawEllipse(place_of(end), 6, 6);
    // The present value stands over the line, the ends' numbers under it.
    const QPointF now = place_of(m_present);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.ink);
    painter.drawPolygon(QPolygonF({now + QPointF(0, -5), now + QPointF(-4.5, -13), now + QPointF(4.5, -13)}));
    if (m_values.empty()) return;
    painter.setFont(small_font());
    painter.setPen(t.soft);
    const auto number = [](double value) { return QString::number(value, 'g', 4); };
    painter.drawText(QRectF(0, line + 10, width(), 18), Qt::AlignLeft, number(m_values.front()));
    painter.drawText(QRectF(0, line + 10, width(), 18), Qt::AlignRight,
                     (number(m_values.back()) + QLatin1Char(' ') + m_unit).trimmed());
    painter.drawText(QRectF(0, line + 10, width(), 18), Qt::AlignHCenter,
                     m_values.size() > 2 ? tr("%1 values, now %2").arg(m_values.size()).arg(number(m_present))
                                         : tr("now %1").arg(number(m_present)));
}

} // namespace mavlo::app
