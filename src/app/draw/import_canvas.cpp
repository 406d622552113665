#include "draw/import_canvas.h"

#include "shell/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace mavlo::app {
namespace {

QColor colour_of(const ImportedRegion& region) {
    const Theme& t = theme();
    switch (region.role) {
    case Role::Iron:
        return region.side == DrawnSide::Rotor ? t.rotor_iron : t.stator_iron;
    case Role::Magnet:
        return region.direction && dot(polar(1, *region.direction), region.centroid) < 0 ? t.north_in
                                                                                         : t.north_out;
    case Role::Conductor:
        return t.phase[0];
    case Role::Shaft:
        return t.shaft;
    case Role::Air:
        break;
    }
    return t.paper;
}

QPainterPath path_of(const Polygon& polygon, const ViewFrame& frame) {
    QPolygonF points;
    for (const Point& p : polygon) points << frame.to_screen(p);
    QPainterPath path;
    path.addPolygon(points);
    path.closeSubpath();
    return path;
}

/// As long as the region has room for.
void arrow(QPainter& painter, const ViewFrame& frame, const ImportedRegion& region) {
    const double half = 0.3 * std::sqrt(region.area);
    const QPointF a = frame.to_screen(region.centroid - polar(half, *region.direction)),
                  b = frame.to_screen(region.centroid + polar(half, *region.direction));
    const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
    if (length < 6) return;
    const QPointF u = (b - a) / length, v(-u.y(), u.x());
    const double head = std::clamp(length / 3, 3.0, 8.0);
    painter.setPen(QPen(Qt::white, 1.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(a, b);
    painter.drawLine(b, b - head * u + 0.6 * head * v);
    painter.drawLine(b, b - head * u - 0.6 * head * v);
}

} // namespace

ImportCanvas::ImportCanvas(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("import_canvas"));
    setMouseTracking(true);
    setMinimumSize(420, 420);
}

void ImportCanvas::show_drawing(const ImportedDrawing& drawing) {
    m_drawing = drawing;
    m_hot = -1;
    fit();
    update();
}

void ImportCanvas::show_nothing() {
    m_drawing = {};
    update();
}

void ImportCanvas::fit() {
    std::vector<Point> corners;
    for (const Polygon& outline : m_drawing.outlines)
        corners.insert(corners.end(), outline.begin(), outline.end());
    if (!corners.empty()) m_frame.fit(QRectF(rect()).adjusted(24, 24, -24, -24), corners, 0);
}

void ImportCanvas::resizeEvent(QResizeEvent*) {
    fit();
}

void ImportCanvas::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.paper);
    // The iron comes first in the list, and what lies in it over it.
    for (std::size_t i = 0; i < m_drawing.regions.size(); ++i) {
        const QPainterPath path = path_of(m_drawing.outlines[i], m_frame);
        painter.setPen(QPen(int(i) == m_hot ? t.accent : t.ink, int(i) == m_hot ? 2 : 0.8));
        painter.setBrush(colour_of(m_drawing.regions[i]));
        painter.drawPath(path);
    }
    for (const ImportedRegion& region : m_drawing.regions)
        if (region.role == Role::Magnet && region.direction) arrow(painter, m_frame, region);
    if (m_hot < 0) return;
    const ImportedRegion& region = m_drawing.regions[std::size_t(m_hot)];
    painter.setFont(small_font());
    painter.setPen(t.ink);
    painter.drawText(QPointF(12, height() - 10), tr("%1: %2, %3 mm². A click makes it something else.")
                                                     .arg(region.number)
                                                     .arg(QString::fromStdString(to_string(region.role)))
                                                     .arg(region.area * 1e6, 0, 'f', 2));
}

int ImportCanvas::region_at(QPointF position) const {
    const ImportedRegion* region = m_drawing.region_at(m_frame.to_metres(position));
    return region ? int(region - m_drawing.regions.data()) : -1;
}

void ImportCanvas::mouseMoveEvent(QMouseEvent* event) {
    const int hot = region_at(event->position());
    setCursor(hot < 0 ? Qt::ArrowCursor : Qt::PointingHandCursor);
    if (hot == m_hot) return;
    m_hot = hot;
    update();
}

void ImportCanvas::mouseReleaseEvent(QMouseEvent* event) {
    if (const int at = region_at(event->position()); at >= 0)
        Q_EMIT region_clicked(m_drawing.regions[std::size_t(at)].number);
}

} // namespace mavlo::app
