#include "ask/heat_view.h"

#include "ask/answer_figure.h"
#include "figure/palette.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int drawn_height = 205;
constexpr double most_width = 760, scale_room = 120, widest_arrow = 16;

/// Where a figure's part lies, in shares of the drawing's width and height.
struct Place {
    const char* figure;
    const char* name;
    double x, y, width, height;
    bool mirrored;
};
constexpr Place places[] = {
    {"temperature_housing", QT_TRANSLATE_NOOP("HeatView", "housing"), 0.10, 0.14, 0.80, 0.09, false},
    {"temperature_end_shields", QT_TRANSLATE_NOOP("HeatView", "shields"), 0.10, 0.23, 0.035, 0.60, true},
    {"temperature_stator_yoke", QT_TRANSLATE_NOOP("HeatView", "yoke"), 0.32, 0.25, 0.36, 0.13, false},
    {"temperature_stator_teeth", QT_TRANSLATE_NOOP("HeatView", "teeth"), 0.32, 0.38, 0.18, 0.15, false},
    {"temperature_winding_slots", QT_TRANSLATE_NOOP("HeatView", "winding"), 0.50, 0.38, 0.18, 0.15, false},
    {"temperature_end_windings", QT_TRANSLATE_NOOP("HeatView", "ends"), 0.21, 0.36, 0.11, 0.17, true},
    {"temperature_magnets", QT_TRANSLATE_NOOP("HeatView", "magnets"), 0.32, 0.57, 0.36, 0.09, false},
    {"temperature_cage", QT_TRANSLATE_NOOP("HeatView", "cage"), 0.30, 0.57, 0.40, 0.09, false},
    {"temperature_rotor", QT_TRANSLATE_NOOP("HeatView", "rotor"), 0.32, 0.66, 0.36, 0.17, false},
    {"temperature_bearings", QT_TRANSLATE_NOOP("HeatView", "bearings"), 0.135, 0.66, 0.09, 0.17, true},
    {"temperature_shaft", QT_TRANSLATE_NOOP("HeatView", "shaft"), 0.02, 0.83, 0.96, 0.11, false},
};

struct Way {
    const char* name;
    double from_x, from_y, to_x, to_y;
};
constexpr Way ways[] = {{"housing to ambient", 0.26, 0.14, 0.26, 0.01},
                        {"stack to ambient", 0.46, 0.25, 0.46, 0.12},
                        {"housing to coolant", 0.74, 0.14, 0.74, 0.01},
                        {"housing to the wall", 0.86, 0.14, 0.86, 0.01},
                        {"stack to housing", 0.48, 0.29, 0.48, 0.17},
                        {"winding to stack", 0.60, 0.395, 0.60, 0.30},
                        {"end windings to inner air", 0.73, 0.36, 0.73, 0.25},
                        {"end shields to ambient", 0.90, 0.50, 0.945, 0.50},
                        {"rotor to gap", 0.60, 0.60, 0.60, 0.51},
                        {"bearings to end shields", 0.80, 0.65, 0.80, 0.55},
                        {"rotor to shaft", 0.60, 0.79, 0.60, 0.87}};

QString shown(double value) {
    return QString::number(value, 'f', std::abs(value) < 99.95 ? 1 : 0);
}

} // namespace

HeatView::HeatView(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("heat"));
    setFixedHeight(drawn_height);
    hide();
}

bool HeatView::draws(const std::string& figure) {
    return std::any_of(std::begin(places), std::end(places),
                       [&](const Place& p) { return figure == p.figure; });
}

void HeatView::show_answer(const Answer& answer) {
    m_bodies.clear();
    m_flows.clear();
    const Curve* flows = answer.curve("heat_flow");
    setVisible(flows != nullptr);
    if (!flows) return;
    m_coldest = 1e9;
    m_hottest = -1e9;
    QStringList told;
    for (const Place& p : places) {
        const Figure* figure = figure_of(answer, p.figure);
        if (!figure || !figure->value) continue;
        m_bodies.push_back({{p.x, p.y, p.width, p.height}, tr(p.name), *figure->value, p.mirrored});
        m_coldest = std::min(m_coldest, *figure->value);
        m_hottest = std::max(m_hottest, *figure->value);
        told.append(tr("%1 %2 °C").arg(tr(p.name), shown(*figure->value)));
    }
    m_most = 1e-9;
    for (const Way& way : ways)
        for (std::size_t k = 0; k < flows->labels.size(); ++k)
            if (flows->labels[k] == way.name) {
                m_flows.push_back({{way.from_x, way.from_y}, {way.to_x, way.to_y}, flows->y[k]});
                m_most = std::max(m_most, flows->y[k]);
            }
    setAccessibleName(tr("The machine cut along its axis, with temperatures"));
    setAccessibleDescription(told.join(QStringLiteral(", ")));
    update();
}

QRectF HeatView::placed(const QRectF& share) const {
    const double w = std::min(double(width()) - scale_room, most_width), h = height();
    return {share.x() * w, share.y() * h, share.width() * w, share.height() * h};
}

QPointF HeatView::placed(QPointF share) const {
    return placed(QRectF(share, QSizeF(0, 0))).topLeft();
}

void HeatView::draw_body(QPainter& painter, const Body& body) const {
    const double t = m_hottest > m_coldest ? (body.celsius - m_coldest) / (m_hottest - m_coldest) : 0;
    const Rgb rgb = field_colour(0.1 + 0.75 * t);
    const QColor fill(rgb.r, rgb.g, rgb.b);
    const QColor ink = fill.lightnessF() > 0.5 ? QColor(20, 24, 30) : QColor(250, 250, 250);
    std::vector<QRectF> boxes{placed(body.place)};
    if (body.mirrored) {
        QRectF other = body.place;
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
                             Qt::AlignCenter, tr("%1 %2°").arg(body.name, shown(body.celsius)));
            painter.restore();
        } else if (box.width() > 120) {
            painter.drawText(box.adjusted(10, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                             tr("%1  %2 °C").arg(body.name, shown(body.celsius)));
        } else {
            painter.drawText(box, Qt::AlignCenter,
                             body.name + QStringLiteral("\n") + shown(body.celsius) + QStringLiteral("°"));
        }
    }
}

void HeatView::draw_flow(QPainter& painter, const Flow& flow) const {
    if (flow.watts < 0.004 * m_most) return;
    const double wide = std::max(2.5, widest_arrow * std::sqrt(flow.watts / m_most));
    const QLineF line(placed(flow.from), placed(flow.to));
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

void HeatView::draw_scale(QPainter& painter) const {
    const QRectF drawing = placed(QRectF(0, 0, 1, 1));
    const QRectF bar(drawing.right() + 18, 34, 14, drawing.height() - 70);
    QLinearGradient colours(bar.bottomLeft(), bar.topLeft());
    for (int k = 0; k <= 8; ++k) {
        const Rgb rgb = field_colour(0.1 + 0.75 * k / 8);
        colours.setColorAt(k / 8.0, QColor(rgb.r, rgb.g, rgb.b));
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours);
    painter.drawRoundedRect(bar, 7, 7);
    painter.setPen(theme().ink);
    painter.drawText(QRectF(bar.right() + 8, bar.top() - 8, 80, 16), Qt::AlignVCenter,
                     tr("%1 °C").arg(shown(m_hottest)));
    painter.drawText(QRectF(bar.right() + 8, bar.bottom() - 8, 80, 16), Qt::AlignVCenter,
                     tr("%1 °C").arg(shown(m_coldest)));
}

void HeatView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    for (const Body& body : m_bodies) draw_body(painter, body);
    // The axis.
    painter.setPen(QPen(theme().soft, 1, Qt::DashDotLine));
    painter.drawLine(placed(QPointF(0, 0.955)), placed(QPointF(1, 0.955)));
    for (const Flow& flow : m_flows) draw_flow(painter, flow);
    draw_scale(painter);
}

} // namespace mavlo::app
