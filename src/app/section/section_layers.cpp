#include "section/section_layers.h"

#include "shell/theme.h"

#include <QPainterPath>
#include <QtMath>
#include <cmath>
#include <numbers>

namespace mavlo::app {

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

namespace {

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

/// Without the points that nobody would miss: a stroke costs by the point, and a curve's may lie on one pixel.
QPolygonF thinned(const std::vector<Point>& line, const ViewFrame& frame) {
    constexpr double near = 3 * 3, along = 0.98; // px2; cosine of a turn that is seen
    QPolygonF kept;
    for (std::size_t k = 0; k < line.size(); ++k) {
        const QPointF at = frame.to_screen(line[k]);
        if (k > 0 && k + 1 < line.size()) {
            const QPointF before = at - kept.back(), after = frame.to_screen(line[k + 1]) - at;
            const double length = QPointF::dotProduct(before, before),
                         turn = QPointF::dotProduct(before, after);
            const bool straight = turn > along * std::sqrt(length * QPointF::dotProduct(after, after));
            if (length < near && straight) continue;
        }
        kept << at;
    }
    return kept;
}

void paint_lines(QPainter& painter, const ViewFrame& frame, const std::vector<std::vector<Point>>& lines) {
    QPainterPath all; // one stroke costs less than hundreds
    for (const auto& line : lines) all.addPolygon(thinned(line, frame));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(all);
}

} // namespace

SideOf side_of(const Machine& machine, int slot, int layer) {
    for (const Coil& coil : machine.winding.layout.coils) {
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

namespace {

QColor colour_of(const DrawnMachine& built, const DrawnRegion& region, const SectionLook& look) {
    const Theme& t = theme();
    switch (region.use) {
    case Use::Conductor:
        return look.phases ? coil_side_colour(built.machine, region.pitch, region.layer) : t.slot;
    case Use::Magnet:
        return region.polarity > 0 ? t.north_out : t.north_in;
    case Use::Solid:
        return region.material.empty() ? t.shaft : t.bar;
    default: // air, or what fills it
        return built.machine.substance(region.material) ? t.filled : t.paper;
    }
}

void paint_body(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built, const DrawnBody& body,
                const SectionLook& look) {
    const Theme& t = theme();
    const Turned turned(painter, frame, body.turns ? look.rotor_angle : 0);
    disc(painter, frame, body.outer_radius, body.turns ? t.rotor_iron : t.stator_iron);
    if (body.hole_radius == 0) disc(painter, frame, body.inner_radius, t.paper);
    for (const auto& region : body.regions)
        fill(painter, path_of(region.polygon, frame), colour_of(built, region, look));
    if (body.hole_radius > 0) disc(painter, frame, body.hole_radius, body.shaft ? t.shaft : t.paper);
}

} // namespace

void paint_materials(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                     const SectionLook& look) {
    // From the outside in: each body covers what the one round it leaves open.
    const auto& bodies = built.drawing.bodies;
    for (auto body = bodies.rbegin(); body != bodies.rend(); ++body)
        paint_body(painter, frame, built, *body, look);
}

void paint_housing(QPainter& painter, const ViewFrame& frame, const HousingSection& housing) {
    const Theme& t = theme();
    const auto circle = [&](double radius, const QColor& colour) {
        painter.setBrush(colour);
        painter.drawEllipse(frame.centre(), radius * frame.scale(), radius * frame.scale());
    };
    painter.setPen(QPen(t.ink, 0.8));
    painter.setBrush(t.tint(0.05));
    for (const Polygon& rib : housing.ribs) painter.drawPath(path_of(rib, frame));
    circle(housing.outer, t.tint(0.12));
    if (housing.spiral_to > 0) {
        painter.setPen(QPen(t.ink, 0.8, Qt::DashLine)); // it is cut at one angle only
        circle(housing.spiral_to, t.field);
        circle(housing.spiral_from, t.tint(0.12));
        painter.setPen(QPen(t.ink, 0.8));
    }
    painter.setBrush(t.field);
    for (const Polygon& channel : housing.channels) painter.drawPath(path_of(channel, frame));
    circle(housing.inner, t.paper);
}

void paint_outlines(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                    const SectionLook& look) {
    const Theme& t = theme();
    const QPen plain = look.on_field ? QPen(QColor(0x1F, 0x2A, 0x33), 0.8) : QPen(t.ink, t.dark ? 0.7 : 0.9),
               chosen(t.accent, 1.6);
    painter.setBrush(Qt::NoBrush);
    for (const DrawnBody& body : built.drawing.bodies) {
        const Turned turned(painter, frame, body.turns ? look.rotor_angle : 0);
        painter.setPen(look.selected == (body.turns ? "rotor" : "stator") ? chosen : plain);
        paint_lines(painter, frame, body.lines);
        painter.setPen(chosen);
        for (const auto& region : body.regions)
            if (region.path == look.selected) painter.drawPath(path_of(region.polygon, frame));
    }
}

void paint_ghost(QPainter& painter, const ViewFrame& frame, const DrawnMachine& other, double rotor_angle) {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().accent, 1.1, Qt::DashLine));
    for (const DrawnBody& body : other.drawing.bodies) {
        const Turned turned(painter, frame, body.turns ? rotor_angle : 0);
        paint_lines(painter, frame, body.lines);
    }
}

void paint_magnet_arrows(QPainter& painter, const ViewFrame& frame, const DrawnMachine& built,
                         const SectionLook& look) {
    const DrawnBody& rotor = built.drawing.rotor();
    for (const auto& region : rotor.regions) {
        if (region.use != Use::Magnet) continue;
        // Two thirds of what the magnet is wide along its remanence.
        double most = 0;
        const Point centre = centroid(region.polygon), direction = polar(1, region.direction);
        for (const Point& p : region.polygon) most = std::max(most, std::abs(dot(p - centre, direction)));
        const double half = std::min(0.65 * most, 0.3 * std::sqrt(area(region.polygon)));
        if (half * frame.scale() < 2.5) continue;
        painter.setPen(
            QPen(Qt::white, std::clamp(half * frame.scale() / 6, 1.0, 2.5), Qt::SolidLine, Qt::RoundCap));
        const Point middle = rotated(centre, look.rotor_angle);
        const Point reach = polar(half, region.direction + look.rotor_angle);
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
    constexpr double pixels = 7; // of a straight piece
    const auto segments = flux_lines(picture, count, pixels / frame.scale());
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
                std::hypot(w0 * double(v0.x) + w1 * double(v1.x) + w2 * double(v2.x),
                           w0 * double(v0.y) + w1 * double(v1.y) + w2 * double(v2.y)),
                sign * (w0 * double(v0.potential) + w1 * double(v1.potential) + w2 * double(v2.potential))};
        }
    }
    return std::nullopt;
}

} // namespace mavlo::app
