#include "ask/heat_view.h"

#include "figure/palette.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int drawn_height = 205, least_height = 160;
constexpr double most_width = 700, widest_arrow = 16;
constexpr double tube_pitch = 54, tube_width = 11; // pixels

QString shown(double value) {
    return QString::number(value, 'f', std::abs(value) < 99.95 ? 1 : 0);
}

QColor warm_colour(double share) {
    const Rgb rgb = field_colour(0.1 + 0.75 * share);
    return {rgb.r, rgb.g, rgb.b};
}

} // namespace

HeatView::HeatView(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("heat"));
    setMinimumHeight(least_height);
    setMaximumHeight(drawn_height);
    hide();
}

void HeatView::show_answer(const Answer& answer) {
    const auto cut = axial_cut(answer);
    setVisible(cut.has_value());
    if (!cut) return;
    m_cut = *cut;
    QStringList told;
    for (const AxialCut::Body& body : m_cut.bodies)
        told.append(tr("%1 %2 °C").arg(spoken(body.name), shown(body.celsius)));
    setAccessibleName(tr("The machine cut along its axis, with temperatures"));
    setAccessibleDescription(told.join(QStringLiteral(", ")));
    update();
}

QSize HeatView::sizeHint() const {
    return {int(most_width), drawn_height};
}

/// What the thermometers leave.
QRectF HeatView::drawing() const {
    const double tubes = tube_pitch * double(m_cut.thermometers.size()) + 36;
    return {0, 0, std::min(double(width()) - tubes, most_width), double(height())};
}

QRectF HeatView::placed(const QRectF& share) const {
    const QRectF room = drawing();
    return {share.x() * room.width(), share.y() * room.height(), share.width() * room.width(),
            share.height() * room.height()};
}

QPointF HeatView::placed(QPointF share) const {
    return placed(QRectF(share, QSizeF(0, 0))).topLeft();
}

void HeatView::draw_body(QPainter& painter, const AxialCut::Body& body) const {
    const QColor fill = warm_colour(m_cut.warmth(body.celsius));
    const QRectF place(body.x, body.y, body.width, body.height);
    const QString name = spoken(body.name);
    const QColor ink = fill.lightnessF() > 0.5 ? QColor(20, 24, 30) : QColor(250, 250, 250);
    std::vector<QRectF> boxes{placed(place)};
    if (body.mirrored) {
        QRectF other = place;
        other.moveLeft(1 - other.right());
        boxes.push_back(placed(other));
    }
    for (const QRectF& box : boxes) {
        painter.setPen(QPen(theme().sheet, 1));
        painter.setBrush(fill);
        painter.drawRect(box);
        painter.setPen(ink);
        if (box.width() < box.height() / 2) { // a shield's words stand upright
            painter.save();
            painter.translate(box.center());
            painter.rotate(-90);
            painter.drawText(QRectF(-box.height() / 2, -box.width() / 2, box.height(), box.width()),
                             Qt::AlignCenter, tr("%1 %2°").arg(name, shown(body.celsius)));
            painter.restore();
        } else if (box.width() > 120) {
            painter.drawText(box.adjusted(10, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                             tr("%1  %2 °C").arg(name, shown(body.celsius)));
        } else {
            painter.drawText(box, Qt::AlignCenter,
                             name + QStringLiteral("\n") + shown(body.celsius) + QStringLiteral("°"));
        }
    }
}

void HeatView::draw_flow(QPainter& painter, const AxialCut::Flow& flow) const {
    if (flow.watts < 0.004 * m_cut.most_watts) return;
    const double wide = std::max(2.5, widest_arrow * std::sqrt(flow.watts / m_cut.most_watts));
    const QLineF line(placed(QPointF(flow.from_x, flow.from_y)), placed(QPointF(flow.to_x, flow.to_y)));
    const double length = line.length(), head = std::min(length * 0.5, wide * 0.8 + 3);
    QPainterPath arrow;
    arrow.moveTo(0, -wide / 2);
    arrow.lineTo(length - head, -wide / 2);
    arrow.lineTo(length - head, -wide / 2 - 3);
    arrow.lineTo(length, 0);
    arrow.lineTo(length - head, wide / 2 + 3);
    arrow.lineTo(length - head, wide / 2);
    arrow.lineTo(0, wide / 2);
    arrow.closeSubpath();
    painter.save();
    painter.translate(line.p1());
    painter.rotate(-line.angle());
    QColor fill = theme().sheet;
    fill.setAlphaF(0.92F);
    painter.setBrush(fill);
    painter.setPen(QPen(theme().ink, 1.1));
    painter.drawPath(arrow);
    painter.restore();
    painter.setPen(theme().ink);
    const QString text = tr("%1 W").arg(flow.watts < 9.95 ? QString::number(flow.watts, 'f', 1)
                                                          : QString::number(flow.watts, 'f', 0));
    const QRectF beside(line.p2().x() + wide / 2 + 6, std::min(line.y1(), line.y2()) - 2, 90, 16);
    const QRectF words =
        painter.boundingRect(beside, Qt::AlignLeft | Qt::AlignVCenter, text).adjusted(-3, 0, 3, 0);
    painter.setPen(Qt::NoPen);
    painter.setBrush(fill);
    painter.drawRoundedRect(words, 3, 3);
    painter.setPen(theme().ink);
    painter.drawText(beside, Qt::AlignLeft | Qt::AlignVCenter, text);
}

/// From the coldest part, or what is lower of 20 degC, to the highest limit; a mark where a part's limit is.
void HeatView::draw_thermometers(QPainter& painter) const {
    if (m_cut.thermometers.empty()) return;
    const Theme& t = theme();
    double low = std::min(20.0, m_cut.coldest), high = m_cut.hottest;
    for (const auto& own : m_cut.thermometers) high = std::max({high, own.celsius, own.limit.value_or(high)});
    high += 0.04 * (high - low);
    const QFontMetrics metrics(painter.font());
    double x = drawing().right() + 36;
    const double top = 22, bottom = height() - 40.0;
    for (const auto& own : m_cut.thermometers) {
        const auto y = [&](double celsius) { return bottom - (celsius - low) / (high - low) * (bottom - top); };
        const QRectF tube(x + (tube_pitch - tube_width) / 2, top, tube_width, bottom - top);
        const bool over = own.limit && own.celsius > *own.limit;
        painter.setPen(QPen(t.line, 1));
        painter.setBrush(t.paper);
        painter.drawRoundedRect(tube, tube_width / 2, tube_width / 2);
        QRectF column = tube.adjusted(2.5, 0, -2.5, -2);
        column.setTop(y(own.celsius));
        painter.setPen(Qt::NoPen);
        painter.setBrush(over ? t.caution : warm_colour(m_cut.warmth(own.celsius)));
        painter.drawRoundedRect(column, 3, 3);
        if (own.limit) {
            painter.setPen(QPen(t.caution, 2));
            painter.drawLine(QPointF(tube.left() - 5, y(*own.limit)), QPointF(tube.right() + 5, y(*own.limit)));
            painter.setPen(t.soft);
            painter.drawText(QRectF(x, y(*own.limit) - 17, tube_pitch, 15), Qt::AlignCenter,
                             QString::number(*own.limit, 'f', 0));
        }
        painter.setPen(over ? t.written(t.caution) : t.ink);
        painter.drawText(QRectF(x, bottom + 3, tube_pitch, 15), Qt::AlignCenter,
                         shown(own.celsius) + QStringLiteral("°"));
        painter.setPen(t.soft);
        painter.drawText(QRectF(x - 4, bottom + 19, tube_pitch + 8, 15), Qt::AlignCenter,
                         metrics.elidedText(spoken(own.name), Qt::ElideRight, int(tube_pitch)));
        x += tube_pitch;
    }
}

void HeatView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    for (const AxialCut::Body& body : m_cut.bodies) draw_body(painter, body);
    // The axis.
    painter.setPen(QPen(theme().soft, 1, Qt::DashDotLine));
    painter.drawLine(placed(QPointF(0, 0.955)), placed(QPointF(1, 0.955)));
    for (const AxialCut::Flow& flow : m_cut.flows) draw_flow(painter, flow);
    draw_thermometers(painter);
}

} // namespace mavlo::app
