// Half-bridges: each phase across, between a leg with the upper switch and one with the lower.

#include "question/period.h"
#include "scope/device_paint.h"
#include "scope/schematic.h"
#include "section/arrow_head.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace mavlo::app {
namespace {

/// Shares of the height.
constexpr double upper_rail = 0.13, upper_row = 0.29, centre_row = 0.46, lower_row = 0.63, lower_rail = 0.79;

QString phase_name(std::size_t k) {
    return QString::fromStdString(phase_suffix(k)).toUpper();
}

} // namespace

QStringList Schematic::conducting_of_half_bridges() const {
    QStringList out;
    for (std::size_t k = 0; m_moment.gates && k < m_moment.current.size(); ++k) {
        if (!flows(m_moment.current[k])) continue;
        const int gate = (*m_moment.gates)[k];
        out << phase_name(k) + QLatin1Char(' ') + (gate > 0 ? tr("upper switch") : tr("lower diode"));
        out << phase_name(k) + QLatin1Char(' ') + (gate >= 0 ? tr("lower switch") : tr("upper diode"));
    }
    return out;
}

void Schematic::paint_half_bridge(QPainter& painter, std::size_t k, double left, double right) const {
    const double h = height(), half = (lower_row - upper_row) * h / 4;
    const int gate = m_moment.gates ? (*m_moment.gates)[k] : -1;
    const bool on = flows(m_moment.current[k]), high = on && gate > 0, low = on && gate >= 0;
    const auto piece = [&](double x, double from, double to, bool lit) {
        painter.setPen(wire(lit));
        painter.drawLine(QPointF(x, from * h), QPointF(x, to * h));
    };
    const double reach = half / h;
    // Left: the upper switch over its diode; right: a diode over the lower switch.
    piece(left, upper_rail, upper_row - reach, high);
    piece(left, upper_row + reach, centre_row, high);
    piece(left, centre_row, lower_row - reach, on && !high);
    piece(left, lower_row + reach, lower_rail, on && !high);
    piece(right, upper_rail, upper_row - reach, on && !low);
    piece(right, upper_row + reach, centre_row, on && !low);
    piece(right, centre_row, lower_row - reach, low);
    piece(right, lower_row + reach, lower_rail, low);
    paint_switch(painter, {left, upper_row * h}, half, high, gate > 0);
    paint_diode(painter, {left, lower_row * h}, half, on && !high);
    paint_diode(painter, {right, upper_row * h}, half, on && !low);
    paint_switch(painter, {right, lower_row * h}, half, low, gate >= 0);
    // The phase across, its arrow as long as the current is.
    const double y = centre_row * h, width = right - left;
    painter.setPen(QPen(theme().phase[k], 2));
    QPainterPath coil(QPointF(left, y));
    const double turn = width / 3;
    for (int n = 0; n < 3; ++n) coil.arcTo(QRectF(left + turn * n, y - turn / 2, turn, turn), 180, -180);
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(coil);
    const double share = m_moment.current[k] / m_largest;
    if (std::abs(share) > 0.02) {
        const double reach_x = share * width / 2, mid = (left + right) / 2;
        painter.setPen(QPen(theme().phase[k], 2.4));
        painter.setBrush(theme().phase[k]);
        const QPointF from(mid - reach_x, y + 9), to(mid + reach_x, y + 9);
        painter.drawLine(from, to);
        paint_arrow_head(painter, to, from, {8, 4});
    }
    painter.setPen(theme().written(theme().phase[k]));
    painter.setFont(small_font());
    painter.drawText(QRectF(left - 14, lower_rail * h + 4, width + 40, 32), Qt::AlignLeft,
                     QStringLiteral("%1\n%2 A").arg(phase_name(k)).arg(shown(m_moment.current[k]), 0, 'g', 3));
}

void Schematic::paint_half_bridges(QPainter& painter) const {
    const double h = height();
    const auto count = double(m_moment.current.size());
    if (count < 1) return;
    const double first = 34, step = (width() - first - 4) / count, across = std::min(40.0, 0.55 * step);
    painter.setPen(wire(false));
    const double last = first + step * (count - 1) + across;
    for (const double y : {upper_rail, lower_rail}) painter.drawLine(QPointF(10, y * h), QPointF(last, y * h));
    const double mid = (upper_rail + lower_rail) / 2 * h;
    painter.drawLine(QPointF(10, upper_rail * h), QPointF(10, mid - 4));
    painter.drawLine(QPointF(10, mid + 4), QPointF(10, lower_rail * h));
    painter.drawLine(QPointF(2, mid - 4), QPointF(18, mid - 4));
    painter.setPen(QPen(theme().soft, 3));
    painter.drawLine(QPointF(5, mid + 4), QPointF(15, mid + 4));
    painter.setPen(theme().soft);
    painter.setFont(small_font());
    painter.drawText(QRectF(4, upper_rail * h - 17, 140, 14), Qt::AlignLeft,
                     tr("link %1 A").arg(shown(m_moment.dc_current), 0, 'g', 3));
    for (std::size_t k = 0; k < m_moment.current.size(); ++k) {
        const double left = first + step * double(k);
        paint_half_bridge(painter, k, left, left + across);
    }
}

} // namespace mavlo::app
