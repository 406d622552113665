#include "scope/schematic.h"

#include "scope/device_paint.h"
#include "section/arrow_head.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace mavlo::app {
namespace {

const char* const phase_names[] = {"U", "V", "W"};

/// A current below this share of the largest is none.
constexpr double none = 1e-6;

/// Shares of the height.
constexpr double top_rail = 0.10, upper_device = 0.24, middle = 0.40, lower_device = 0.56, bottom_rail = 0.70,
                 machine = 0.80, star = 0.93;

void draw_arrow(QPainter& painter, QPointF from, QPointF to) {
    painter.setBrush(painter.pen().color());
    painter.drawLine(from, to);
    paint_arrow_head(painter, to, from, {8, 4});
}

} // namespace

Schematic::Schematic(QWidget* parent)
    : QWidget(parent) {
    setMinimumSize(200, 170);
    setObjectName(QStringLiteral("schematic"));
}

void Schematic::set_supply(const std::string& supply, double largest_current, bool delta) {
    m_supply = supply;
    m_delta = delta;
    m_largest = largest_current > 0 ? largest_current : 1;
    update();
}

void Schematic::show_moment(const Moment& moment) {
    m_moment = moment;
    setAccessibleDescription(conducting().join(QStringLiteral(", ")));
    update();
}

/// What is far smaller than the largest current is none.
double Schematic::shown(double current) const {
    return std::abs(current) < none * m_largest ? 0 : current;
}

QStringList Schematic::conducting() const {
    if (is_half_bridges()) return conducting_of_half_bridges();
    QStringList out;
    for (std::size_t k = 0; is_bridge() && k < 3; ++k) {
        if (!flows(m_moment.line[k])) continue;
        const LegPath path = leg_path((*m_moment.gates)[k], m_moment.line[k]);
        out << QStringLiteral("%1 %2 %3")
                   .arg(QString::fromLatin1(phase_names[k]), path.upper ? tr("upper") : tr("lower"),
                        path.by_switch ? tr("switch") : tr("diode"));
    }
    return out;
}

void Schematic::paint_bridge(QPainter& painter, const std::array<QPointF, 3>& legs) const {
    const double h = height(), left = legs[0].x() - 46;
    const bool rectifier = m_supply == "rectifier";
    painter.setPen(wire(false));
    for (const double y : {top_rail, bottom_rail})
        painter.drawLine(QPointF(left, y * h), QPointF(legs[2].x(), y * h));
    // The link: a source between the rails.
    const double mid = (top_rail + bottom_rail) / 2 * h;
    painter.drawLine(QPointF(left, top_rail * h), QPointF(left, mid - 4));
    painter.drawLine(QPointF(left, mid + 4), QPointF(left, bottom_rail * h));
    painter.drawLine(QPointF(left - 11, mid - 4), QPointF(left + 11, mid - 4));
    painter.setPen(QPen(theme().soft, 3));
    painter.drawLine(QPointF(left - 6, mid + 4), QPointF(left + 6, mid + 4));
    painter.setPen(theme().soft);
    painter.setFont(small_font());
    painter.drawText(QRectF(left - 14, top_rail * h - 16, 120, 14), Qt::AlignLeft,
                     tr("link %1 A").arg(shown(m_moment.dc_current), 0, 'g', 3));
    const double half = (lower_device - upper_device) * h / 4;
    for (std::size_t k = 0; k < 3; ++k) {
        const bool on = flows(m_moment.line[k]);
        const int gate = (*m_moment.gates)[k];
        const LegPath path = leg_path(gate, m_moment.line[k]);
        const double x = legs[k].x();
        for (const bool up : {true, false}) {
            const bool lit = on && path.upper == up;
            const QPointF centre(x, (up ? upper_device : lower_device) * h);
            painter.setPen(wire(lit));
            painter.drawLine(QPointF(x, (up ? top_rail : middle) * h), centre - QPointF(0, half));
            painter.drawLine(centre + QPointF(0, half), QPointF(x, (up ? middle : bottom_rail) * h));
            paint_device(
                painter,
                {centre, lit && path.by_switch, lit && !path.by_switch, gate == (up ? 1 : -1), !rectifier},
                half);
        }
    }
}

void Schematic::paint_sources(QPainter& painter, const std::array<QPointF, 3>& legs) const {
    const double h = height(), y = upper_device * h;
    const bool shorted = m_supply == "short-circuit", given = m_supply == "currents";
    painter.setPen(wire(false));
    painter.drawLine(QPointF(legs[0].x(), top_rail * h), QPointF(legs[2].x(), top_rail * h));
    for (std::size_t k = 0; k < 3; ++k) {
        const double x = legs[k].x();
        painter.setPen(wire(flows(m_moment.line[k])));
        painter.setBrush(Qt::NoBrush);
        if (shorted) {
            painter.drawLine(QPointF(x, top_rail * h), QPointF(x, middle * h));
            continue;
        }
        painter.drawLine(QPointF(x, top_rail * h), QPointF(x, y - 13));
        painter.drawEllipse(QPointF(x, y), 13, 13);
        painter.drawLine(QPointF(x, y + 13), QPointF(x, middle * h));
        if (given) {
            draw_arrow(painter, {x, y + 8}, {x, y - 8});
            continue;
        }
        QPainterPath wave(QPointF(x - 8, y));
        wave.cubicTo(QPointF(x - 4, y - 12), QPointF(x - 1, y - 8), QPointF(x, y));
        wave.cubicTo(QPointF(x + 1, y + 8), QPointF(x + 4, y + 12), QPointF(x + 8, y));
        painter.drawPath(wave);
    }
}

void Schematic::paint_machine(QPainter& painter, const std::array<QPointF, 3>& legs) const {
    const double h = height();
    std::array<QPointF, 3> ends;
    for (std::size_t k = 0; k < 3; ++k) {
        const double x = legs[k].x(), bend = x + 22;
        ends[k] = {bend, machine * h - 9};
        painter.setPen(wire(flows(m_moment.line[k])));
        // Out beside the lower device, past the rail, into the winding.
        painter.drawPolyline(QPolygonF{QPointF(x, middle * h), QPointF(bend, middle * h), ends[k]});
    }
    if (m_delta)
        paint_delta(painter, ends);
    else
        paint_star(painter, ends);
    for (std::size_t k = 0; k < 3; ++k)
        paint_arrow(painter, {ends[k].x(), (middle + bottom_rail) / 2 * h}, int(k));
}

void Schematic::paint_star(QPainter& painter, const std::array<QPointF, 3>& ends) const {
    const double y = star * height(), centre = ends[1].x();
    for (std::size_t k = 0; k < 3; ++k) {
        painter.setPen(QPen(theme().phase[k], 2));
        QPainterPath coil(ends[k]);
        for (int n = 0; n < 3; ++n) coil.arcTo(QRectF(ends[k].x() - 3, ends[k].y() + 6 * n, 6, 6), 90, -180);
        painter.drawPath(coil);
        painter.setPen(wire(flows(m_moment.current[k])));
        painter.drawPolyline(QPolygonF{ends[k] + QPointF(0, 18), QPointF(ends[k].x(), y), QPointF(centre, y)});
        paint_phase_words(painter, QRectF(ends[k].x() + 6, ends[k].y() - 7, 60, 32),
                          Qt::AlignLeft | Qt::AlignVCenter, k, QStringLiteral("\n"));
    }
    painter.setBrush(theme().soft);
    painter.setPen(Qt::NoPen);
    painter.drawEllipse(QPointF(centre, y), 2.5, 2.5);
}

/// Phase U from terminal U to V, V on to W, and W back below them.
void Schematic::paint_delta(QPainter& painter, const std::array<QPointF, 3>& ends) const {
    const double below = star * height() - 4;
    for (std::size_t k = 0; k < 3; ++k) {
        const QPointF from = ends[k], to = ends[(k + 1) % 3], down(0, k == 2 ? below - from.y() : 0),
                      centre = (from + to) / 2 + down;
        const double side = from.x() < to.x() ? 1 : -1;
        painter.setBrush(Qt::NoBrush);
        painter.setPen(wire(flows(m_moment.current[k])));
        painter.drawPolyline(QPolygonF{from, from + down, centre - QPointF(9 * side, 0)});
        painter.drawPolyline(QPolygonF{centre + QPointF(9 * side, 0), to + down, to});
        painter.setPen(QPen(theme().phase[k], 2));
        QPainterPath coil(centre - QPointF(9, 0));
        for (int n = 0; n < 3; ++n) coil.arcTo(QRectF(centre.x() - 9 + 6 * n, centre.y() - 3, 6, 6), 180, -180);
        painter.drawPath(coil);
        paint_phase_words(painter, QRectF(centre.x() - 40, centre.y() + 4, 80, 15), Qt::AlignCenter, k,
                          QStringLiteral(" "));
    }
    painter.setBrush(theme().soft);
    painter.setPen(Qt::NoPen);
    for (const QPointF& end : ends) painter.drawEllipse(end, 2.5, 2.5);
}

/// A phase's name and current.
void Schematic::paint_phase_words(QPainter& painter, const QRectF& where, int alignment, std::size_t phase,
                                  const QString& between) const {
    painter.setPen(theme().written(theme().phase[phase]));
    painter.setFont(small_font());
    painter.drawText(where, alignment,
                     QStringLiteral("%1%2%3 A")
                         .arg(QString::fromLatin1(phase_names[phase]), between)
                         .arg(shown(m_moment.current[phase]), 0, 'g', 3));
}

/// As long as the current is, into the machine downwards.
void Schematic::paint_arrow(QPainter& painter, QPointF at, int phase) const {
    const double share = m_moment.line[std::size_t(phase)] / m_largest;
    if (std::abs(share) < 0.02) return;
    const double half = share * 0.13 * height();
    painter.setPen(QPen(theme().phase[std::size_t(phase)], 2.4));
    draw_arrow(painter, at - QPointF(0, half), at + QPointF(0, half));
}

void Schematic::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (is_half_bridges()) return paint_half_bridges(painter);
    if (m_moment.current.size() != 3 || m_supply == "own") return;
    const double first = is_bridge() ? 66 : 40, step = (width() - first - 72) / 2;
    std::array<QPointF, 3> legs;
    for (std::size_t k = 0; k < 3; ++k) legs[k] = {first + double(k) * step, middle * height()};
    if (is_bridge())
        paint_bridge(painter, legs);
    else
        paint_sources(painter, legs);
    paint_machine(painter, legs);
}

} // namespace mavlo::app
