#include "section/section_layers.h"

#include "shell/theme.h"

#include <QPainterPath>
#include <QtMath>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

QPainterPath path_of(const Polygon& polygon, const ViewFrame& frame) {
    QPainterPath path;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const QPointF p = frame.to_screen(polygon[i]);
        if (i == 0)
            path.moveTo(p);
        else
            path.lineTo(p);
    }
    path.closeSubpath();
    return path;
}

void disc(QPainter& painter, const ViewFrame& frame, double radius, const QColor& colour) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawEllipse(frame.centre(), radius * frame.scale(), radius * frame.scale());
}

/// Fills with a hair line of the same colour, so that neighbours of one colour show no seam.
void fill(QPainter& painter, const QPainterPath& path, const QColor& colour) {
    painter.setPen(QPen(colour, 0.6));
    painter.setBrush(colour);
    painter.drawPath(path);
}

class Turned {
  public:
    Turned(QPainter& painter, const ViewFrame& frame, double angle)
        : m_painter(painter) {
        painter.save();
        painter.translate(frame.centre());
        painter.rotate(-qRadiansToDegrees(angle));
        painter.translate(-frame.centre());
    }
    ~Turned() { m_painter.restore(); }
    Turned(const Turned&) = delete;
    Turned& operator=(const Turned&) = delete;

  private:
    QPainter& m_painter;
};

void paint_lines(QPainter& painter, const ViewFrame& frame, const std::vector<std::vector<Point>>& lines) {
    for (const auto& line : lines) {
        QPolygonF polygon;
        for (const Point& p : line) polygon << frame.to_screen(p);
        painter.drawPolyline(polygon);
    }
}

} // namespace

SideOf side_of(const Machine& machine, int slot, int layer) {
    for (const Coil& coil : machine.winding.coils) {
        if (coil.go == CoilSide{slot, layer}) return {coil.phase, coil.sign};
        if (coil.back == CoilSide{slot, layer}) return {coil.phase, -coil.sign};
    }
    return {};
}

QColor coil_side_colour(const Machine& machine, int slot, int layer) {
    const SideOf side = side_of(machine, slot, layer);
    if (side.phase < 0) return theme().slot;
    return side.sign > 0 ? theme().phase[std::size_t(side.phase)] : theme().return_side(side.phase);
}

void paint_materials(QPainter& painter, const ViewFrame& frame, const Built& built, const SectionLook& look) {
    const Theme& t = theme();
    const Section& s = built.section;
    disc(painter, frame, s.outer_radius, t.stator_iron);
    disc(painter, frame, s.bore_radius, t.paper);
    for (const auto& region : s.stator) {
        const bool conductor = region.role == Role::Conductor;
        fill(painter, path_of(region.polygon, frame),
             conductor ? (look.phases ? coil_side_colour(built.machine, region.index, region.layer) : t.slot)
                       : t.paper);
    }
    disc(painter, frame, s.rotor_iron_radius, t.rotor_iron);
    const Turned turned(painter, frame, look.rotor_angle);
    for (const auto& region : s.rotor)
        if (region.role == Role::Magnet)
            fill(painter, path_of(region.polygon, frame), region.polarity > 0 ? t.north_out : t.north_in);
    disc(painter, frame, s.shaft_radius, t.shaft);
}

void paint_outlines(QPainter& painter, const ViewFrame& frame, const Built& built, const SectionLook& look) {
    const Theme& t = theme();
    auto pen = [&](Role role) {
        return look.selected == role ? QPen(t.accent, 1.6)
               : look.on_field       ? QPen(QColor(0x1F, 0x2A, 0x33), 0.8)
                                     : QPen(t.ink, t.dark ? 0.7 : 0.9);
    };
    painter.setBrush(Qt::NoBrush);
    painter.setPen(pen(Role::StatorIron));
    paint_lines(painter, frame, built.section.stator_lines);
    if (look.selected == Role::Conductor) {
        painter.setPen(pen(Role::Conductor));
        for (const auto& region : built.section.stator)
            if (region.role == Role::Conductor) painter.drawPath(path_of(region.polygon, frame));
    }
    const Turned turned(painter, frame, look.rotor_angle);
    painter.setPen(pen(Role::RotorIron));
    paint_lines(painter, frame, built.section.rotor_lines);
    if (look.selected == Role::Magnet) {
        painter.setPen(pen(Role::Magnet));
        for (const auto& region : built.section.rotor)
            if (region.role == Role::Magnet) painter.drawPath(path_of(region.polygon, frame));
    }
}

namespace {
/// The middle of the box round a polygon.
Point middle_of(const Polygon& polygon) {
    Point low = polygon.front(), high = low;
    for (const Point& p : polygon) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    return 0.5 * (low + high);
}
} // namespace

void paint_magnet_arrows(QPainter& painter, const ViewFrame& frame, const Built& built,
                         const SectionLook& look) {
    const double half = 0.3 * built.machine.values.number("rotor.magnet.thickness");
    if (half * frame.scale() < 2.5) return;
    painter.setPen(
        QPen(Qt::white, std::clamp(half * frame.scale() / 6, 1.0, 2.5), Qt::SolidLine, Qt::RoundCap));
    for (const auto& region : built.section.rotor) {
        if (region.role != Role::Magnet) continue;
        const Point middle = rotated(middle_of(region.polygon), look.rotor_angle);
        const Point reach = polar(region.polarity * half, region.direction + look.rotor_angle);
        const QPointF a = frame.to_screen(middle - reach), b = frame.to_screen(middle + reach);
        const QPointF along = (b - a) / std::hypot(b.x() - a.x(), b.y() - a.y()), across(-along.y(), along.x());
        const double head = std::clamp(half * frame.scale() * 0.7, 2.0, 8.0);
        painter.drawLine(a, b);
        painter.drawLine(b, b - head * along + 0.7 * head * across);
        painter.drawLine(b, b - head * along - 0.7 * head * across);
    }
}

namespace {
/// A pixel wide whatever the scale: Qt draws thousands of these several times as fast as strokes of any other
/// width.
QPen hairline(const QColor& colour) {
    QPen pen(colour, 1);
    pen.setCosmetic(true);
    return pen;
}
} // namespace

void paint_flux_lines(QPainter& painter, const ViewFrame& frame, const FieldPicture& picture, int count,
                      const QColor& colour) {
    const auto segments = flux_lines(picture, count);
    painter.setPen(hairline(colour));
    QVector<QLineF> lines;
    lines.reserve(qsizetype(segments.size()) * picture.sector.count);
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const double angle = copy * picture.sector.angle();
        for (const auto& s : segments)
            lines.append({frame.to_screen(rotated(s.a, angle)), frame.to_screen(rotated(s.b, angle))});
    }
    painter.drawLines(lines);
}

QImage FieldPainter::operator()(const FieldPicture& picture) const {
    QImage image = flux_density_image(picture, frame, size, pixel_ratio, low,
                                      picture.shown.high > 0 ? picture.shown.high : high);
    if (!lines) return image;
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_flux_lines(painter, frame, picture, 18, QColor(255, 255, 255, 190));
    return image;
}

void paint_mesh(QPainter& painter, const ViewFrame& frame, const FieldPicture& picture, const QColor& colour) {
    QColor faint = colour;
    faint.setAlphaF(0.4F);
    painter.setPen(hairline(faint));
    QVector<QLineF> lines;
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const double angle = copy * picture.sector.angle();
        for (const auto& [a, b] : picture.mesh_edges)
            lines.append({frame.to_screen(rotated(picture.vertices[std::size_t(a)].at, angle)),
                          frame.to_screen(rotated(picture.vertices[std::size_t(b)].at, angle))});
    }
    painter.drawLines(lines);
}

std::optional<FieldReading> read_field(const FieldPicture& picture, Point at) {
    for (int copy = 0; copy < picture.sector.count; ++copy) {
        const Point p = rotated(at, -copy * picture.sector.angle());
        const double sign = picture.sector.sign < 0 && copy % 2 ? -1 : 1;
        for (const auto& t : picture.triangles) {
            const auto &v0 = picture.vertices[std::size_t(t.vertex[0])],
                       &v1 = picture.vertices[std::size_t(t.vertex[1])],
                       &v2 = picture.vertices[std::size_t(t.vertex[2])];
            const double twice = cross(v1.at - v0.at, v2.at - v0.at);
            if (twice == 0) continue;
            const double w1 = cross(p - v0.at, v2.at - v0.at) / twice,
                         w2 = cross(v1.at - v0.at, p - v0.at) / twice, w0 = 1 - w1 - w2;
            if (w0 < 0 || w1 < 0 || w2 < 0) continue;
            return FieldReading{
                w0 * double(v0.flux_density) + w1 * double(v1.flux_density) + w2 * double(v2.flux_density),
                sign * (w0 * double(v0.potential) + w1 * double(v1.potential) + w2 * double(v2.potential))};
        }
    }
    return std::nullopt;
}

} // namespace mavlo::app
