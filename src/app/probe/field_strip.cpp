#include "probe/field_strip.h"

#include "quantity/constants.h"
#include "shell/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int tall = 138;
constexpr double left_margin = 52, right_margin = 22, top_margin = 30, foot_margin = 24,
                 slot_band = 7; // pixels

double rounded_up(double value) {
    for (double step : {0.1, 0.2, 0.4, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0})
        if (value <= step) return step;
    return std::ceil(value);
}

/// A step of a scale with some `wanted` of them in the range.
double round_step(double range, double wanted) {
    const double raw = range / wanted, decade = std::pow(10, std::floor(std::log10(raw)));
    for (double factor : {1.0, 2.0, 5.0})
        if (raw <= factor * decade) return factor * decade;
    return 10 * decade;
}

} // namespace

FieldStrip::FieldStrip(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("field_strip"));
    setAccessibleName(tr("Field along the gap or along a line"));
    setFixedHeight(tall);
    setMouseTracking(true);
    setToolTip(tr("Wheel to zoom, drag to scroll, double click for all of it."));
}

void FieldStrip::show_result(const LiveResult& r) {
    const auto& built = r.request.built;
    if (!r.problems.empty() || !built) return;
    const bool was_line = m_line.has_value();
    m_line = r.line;
    m_radius = built->machine.middle_of_gap();
    m_rotor = r.request.angle;
    m_course = {};
    if (m_line) {
        m_course = {m_line->distance, m_line->across, m_line->lengthwise,
                    std::max(1e-9, m_line->distance.back())};
    } else {
        const auto n = r.gap_radial.size();
        m_course = {{}, r.gap_radial, r.gap_tangential, 2 * pi};
        for (std::size_t i = 0; i < n; ++i) m_course.x.push_back(2 * pi * double(i) / double(n));
    }
    double most = 0.05;
    for (const auto* values : {&m_course.across, &m_course.lengthwise})
        for (double value : *values)
            if (std::isfinite(value)) most = std::max(most, std::abs(value));
    m_high = rounded_up(most);
    if (was_line != m_line.has_value()) {
        m_zoom = 1;
        m_left = 0;
        m_cursor.reset();
    }
    keep_in_view();
    update();
}

void FieldStrip::show_place(std::optional<Point> place) {
    m_cursor = place ? along_at(*place) : std::nullopt;
    update();
}

QRectF FieldStrip::plot_area() const {
    return {left_margin, top_margin, width() - left_margin - right_margin, height() - top_margin - foot_margin};
}

double FieldStrip::x_of(double along) const {
    return plot_area().left() + along / m_course.end * m_zoom * plot_area().width() - m_left;
}

double FieldStrip::along_of(double x) const {
    return (x - plot_area().left() + m_left) / (m_zoom * plot_area().width()) * m_course.end;
}

double FieldStrip::y_of(double tesla) const {
    return plot_area().center().y() - tesla / m_high * plot_area().height() / 2;
}

std::size_t FieldStrip::nearest(double along) const {
    const double step = m_course.end / double(m_course.x.size() - (m_line ? 1 : 0));
    const auto n = std::ptrdiff_t(m_course.x.size());
    const auto i = std::ptrdiff_t(std::lround(along / step));
    return std::size_t(m_line ? std::clamp<std::ptrdiff_t>(i, 0, n - 1) : ((i % n) + n) % n);
}

std::optional<Point> FieldStrip::place_at(double along) const {
    if (along < 0 || along > m_course.end || m_course.x.empty()) return std::nullopt;
    if (!m_line) return polar(m_radius, along);
    return m_line->a + (along / m_course.end) * (m_line->b - m_line->a);
}

/// Of the gap by its angle; of a line its foot, where the place lies beside it.
std::optional<double> FieldStrip::along_at(Point p) const {
    if (!m_line) return std::fmod(angle_of(p) + 2 * pi, 2 * pi);
    const Point way = m_line->b - m_line->a;
    const double length = norm(way);
    if (length <= 0) return std::nullopt;
    const double along = dot(p - m_line->a, way) / length;
    return along < 0 || along > length ? std::nullopt : std::optional(along);
}

void FieldStrip::keep_in_view() {
    m_zoom = std::clamp(m_zoom, 1.0, 60.0);
    m_left = std::clamp(m_left, 0.0, (m_zoom - 1) * plot_area().width());
}

QString FieldStrip::reading() const {
    if (m_course.x.empty()) return {};
    if (!m_cursor) {
        if (!m_line) return tr("middle of the gap: flux density across it and along it");
        const auto& built = m_document.built();
        const double stack = built ? built->machine.stack_length : 1;
        const QString flux =
            std::isfinite(m_line->flux())
                ? tr("%1 mWb cross it to the right").arg(m_line->flux() * stack * 1e3, 0, 'g', 4)
                : tr("an end lies beside the section");
        return tr("along the line, %1 mm: %2").arg(m_course.end * 1e3, 0, 'f', 1).arg(flux);
    }
    const std::size_t i = nearest(*m_cursor);
    const auto number = [](double tesla) {
        return std::isfinite(tesla) ? QString::number(tesla, 'f', 3) : QStringLiteral("–");
    };
    if (m_line)
        return tr("at %1 mm: across %2 T, along %3 T")
            .arg(*m_cursor * 1e3, 0, 'f', 1)
            .arg(number(m_course.across[i]), number(m_course.lengthwise[i]));
    return tr("at %1°: radial %2 T, tangential %3 T")
        .arg(*m_cursor * 180 / pi, 0, 'f', 1)
        .arg(number(m_course.across[i]), number(m_course.lengthwise[i]));
}

void FieldStrip::paint_scale(QPainter& painter) const {
    const Theme& t = theme();
    const QRectF area = plot_area();
    const auto level = [&](double tesla) {
        painter.setPen(QPen(t.line, 1));
        painter.drawLine(QPointF(area.left(), y_of(tesla)), QPointF(area.right(), y_of(tesla)));
        painter.setPen(t.soft);
        painter.drawText(QRectF(0, y_of(tesla) - 8, left_margin - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(tesla, 'g', 3));
    };
    for (double tesla : {-m_high, 0.0, m_high}) level(tesla);
    painter.drawText(QRectF(0, 6, left_margin - 8, 16), Qt::AlignRight | Qt::AlignVCenter, QStringLiteral("T"));
    const double unit = m_line ? 1e-3 : pi / 180, range = m_course.end / m_zoom / unit,
                 step = m_line || range < 45 ? round_step(range, 9)
                        : range > 200        ? 30
                                             : 10;
    const double from = along_of(area.left()) / unit;
    const int first = int(std::ceil(from / step)), last = int(std::floor((from + range * 1.0001) / step));
    for (int k = first; k <= last; ++k) {
        const double at = k * step;
        const double x = x_of(at * unit);
        painter.setPen(QPen(t.line, 1));
        painter.drawLine(QPointF(x, area.bottom()), QPointF(x, area.bottom() + 4));
        painter.setPen(t.soft);
        painter.drawText(QRectF(x - 30, area.bottom() + 4, 60, 16), Qt::AlignCenter,
                         QString::number(at, 'g', 5) + (m_line ? QString() : QStringLiteral("°")));
    }
}

/// Slots over the curve, poles as they stand under it.
void FieldStrip::paint_slots(QPainter& painter) const {
    const auto& built = m_document.built();
    if (m_line || !built) return;
    const Theme& t = theme();
    const Machine& m = built->machine;
    const QRectF area = plot_area();
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.stator_iron);
    painter.drawRect(QRectF(area.left(), area.top() - slot_band - 2, area.width(), slot_band));
    painter.setBrush(t.slot);
    if (m.wound())
        for (int slot = 0; slot <= m.slots; ++slot) {
            const double pitch = 2 * pi / m.slots, middle = slot * pitch, half = 0.22 * pitch;
            painter.drawRect(QRectF(QPointF(x_of(middle - half), area.top() - slot_band - 2),
                                    QPointF(x_of(middle + half), area.top() - 2)));
        }
    const double pole = 2 * pi / m.poles, first = std::fmod(m_rotor, 2 * pole);
    if (!m.facts().magnets) return;
    for (int k = -3; k <= m.poles + 1; ++k) {
        painter.setBrush(k % 2 == 0 ? t.north_out : t.north_in);
        painter.drawRect(QRectF(QPointF(x_of(first + (k - 0.42) * pole), area.bottom() - slot_band),
                                QPointF(x_of(first + (k + 0.42) * pole), area.bottom())));
    }
}

void FieldStrip::paint_course(QPainter& painter, const std::vector<double>& values,
                              const QColor& colour) const {
    painter.setPen(QPen(colour, 1.3));
    QPolygonF piece;
    const auto end_piece = [&] {
        if (piece.size() > 1) painter.drawPolyline(piece);
        piece.clear();
    };
    const std::size_t n = m_course.x.size(), last = m_line ? n : n + 1;
    for (std::size_t i = 0; i < last; ++i) {
        const double value = values[i % n];
        const double x = x_of(i < n ? m_course.x[i] : m_course.end);
        if (!std::isfinite(value))
            end_piece();
        else if (x > -10 && x < width() + 10)
            piece << QPointF(x, y_of(value));
    }
    end_piece();
}

void FieldStrip::paint_cursor(QPainter& painter) const {
    if (!m_cursor) return;
    const Theme& t = theme();
    const QRectF area = plot_area();
    const double x = x_of(*m_cursor);
    if (x < area.left() || x > area.right()) return;
    painter.setPen(QPen(t.ink, 1));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    const double value = m_course.across[nearest(*m_cursor)];
    if (!std::isfinite(value)) return;
    painter.setBrush(t.accent);
    painter.drawEllipse(QPointF(x, y_of(value)), 3.5, 3.5);
}

void FieldStrip::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.paper);
    painter.setPen(t.line);
    painter.drawLine(0, 0, width(), 0);
    painter.setFont(small_font());
    if (m_course.x.empty()) return;
    paint_scale(painter);
    const QRectF area = plot_area();
    painter.save();
    painter.setClipRect(area.adjusted(0, -slot_band - 3, 0, 1));
    paint_slots(painter);
    paint_course(painter, m_course.lengthwise, t.soft);
    paint_course(painter, m_course.across, t.accent);
    paint_cursor(painter);
    painter.restore();
    painter.setPen(m_cursor ? t.ink : t.soft);
    painter.drawText(QRectF(area.left(), 3, area.width(), 16), Qt::AlignLeft | Qt::AlignVCenter, reading());
    painter.setPen(t.accent);
    painter.drawText(QRectF(area.left(), 3, area.width() - 90, 16), Qt::AlignRight | Qt::AlignVCenter,
                     m_line ? tr("across") : tr("across the gap"));
    painter.setPen(t.soft);
    painter.drawText(QRectF(area.left(), 3, area.width(), 16), Qt::AlignRight | Qt::AlignVCenter,
                     m_line ? tr("along") : tr("tangential"));
}

void FieldStrip::mouseMoveEvent(QMouseEvent* event) {
    const double x = event->position().x();
    if (m_scrolling) {
        m_left -= x - *m_scrolling;
        m_scrolling = x;
        keep_in_view();
        update();
        return;
    }
    if (m_course.x.empty()) return;
    const auto place = place_at(along_of(x));
    m_cursor = place ? std::optional(along_of(x)) : std::nullopt;
    update();
    Q_EMIT place_hovered(place);
}

void FieldStrip::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) m_scrolling = event->position().x();
}

void FieldStrip::mouseReleaseEvent(QMouseEvent*) {
    m_scrolling.reset();
}

void FieldStrip::mouseDoubleClickEvent(QMouseEvent*) {
    m_zoom = 1;
    m_left = 0;
    update();
}

void FieldStrip::wheelEvent(QWheelEvent* event) {
    const double x = event->position().x(), kept = along_of(x);
    m_zoom *= std::pow(1.0015, event->angleDelta().y());
    m_zoom = std::clamp(m_zoom, 1.0, 60.0);
    m_left += x_of(kept) - x;
    keep_in_view();
    update();
}

void FieldStrip::leaveEvent(QEvent*) {
    m_cursor.reset();
    update();
    Q_EMIT place_hovered(std::nullopt);
}

} // namespace mavlo::app
