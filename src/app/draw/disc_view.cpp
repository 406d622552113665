#include "draw/disc_view.h"

#include "machine/axial.h"
#include "section/section_layers.h"
#include "shell/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

constexpr int disc_view_height = 250;
constexpr double title_room = 22, disc_edge = 10, circle_grip = 8; // pixels
constexpr double strip_poles = 4.2; ///< pole pitches that the unrolled section shows

QColor disc_colour(Use use, const std::string& path, int polarity) {
    const Theme& t = theme();
    switch (use) {
    case Use::Magnet:
        return polarity < 0 ? t.north_in : t.north_out;
    case Use::Conductor:
        return t.slot;
    case Use::Iron:
        return path.starts_with("rotor") ? t.rotor_iron : t.stator_iron;
    default:
        return t.paper;
    }
}

/// Path of the parameter that names what a part is of.
std::string disc_material(const std::string& part) {
    if (part == "rotor.magnet") return "rotor.magnet.grade";
    if (part == "stator.slot") return "winding.conductor.material";
    return part.empty() ? part : part + ".steel";
}

QPolygonF placed_polygon(const Polygon& points, const auto& place) {
    QPolygonF out;
    for (Point p : points) out << place(p);
    return out;
}

} // namespace

DiscView::DiscView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("discs"));
    setFixedHeight(disc_view_height);
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(
        tr("The machine seen along its axis, unrolled, and cut along the axis; or along its motion"));
    connect(&document, &Document::changed, this, &DiscView::follow_document);
    follow_document();
}

/// The last good one stays while the design cannot be built.
void DiscView::follow_document() {
    const auto built = m_document.built();
    if (built && m_document.is_good()) {
        m_discs.reset();
        if (built->machine.facts().axial) m_discs = std::make_shared<const Discs>(make_discs(built->machine));
        m_straight = built->machine.facts().linear;
    }
    Q_EMIT discs_changed(m_discs);
    if (m_discs) set_radius(m_radius > 0 ? m_radius : built->machine.section.chart().flat);
    if (m_straight && built) {
        m_radius = built->machine.section.chart().flat;
        lay_strip();
    }
    setVisible(m_discs || m_straight); // with a strip, since it is sized then
    update();
}

void DiscView::set_radius(double radius) {
    m_radius = std::clamp(radius, m_discs->inner * (1 + 1e-6), m_discs->outer * (1 - 1e-6));
    lay_strip();
    update();
}

void DiscView::set_selected(const std::string& part) {
    if (part == m_selected) return;
    m_selected = part;
    update();
}

/// Of half a pitch that is drawn beside its mirror image.
std::vector<double> DiscView::seams_of(const Region& region, const Tile& tile, int pitch, double sign) {
    if (!tile.mirrored || region.use == Use::Conductor) return {};
    const double arm = tile.chart.flat, axis = pitch * tile.pitch * arm;
    std::vector<double> seams;
    const bool air = region.use == Use::Air;
    if (air || region.spans == Spans::Axis) seams.push_back(axis);
    if (air || region.spans == Spans::Boundary) seams.push_back(axis + sign * tile.half_pitch() * arm);
    return seams;
}

void DiscView::lay_strip() {
    m_strip.clear();
    m_low = m_high = 0;
    const auto built = m_document.built();
    const std::vector<Body> bodies = bodies_at(built->machine, m_radius);
    for (const Body& body : bodies) {
        m_low = std::min(m_low, body.tile.far_radius - body.tile.chart.flat);
        m_high = std::max(m_high, body.tile.far_radius - body.tile.chart.flat);
    }
    for (const Body& body : bodies) {
        const Tile& tile = body.tile;
        const Chart& chart = tile.chart;
        const auto all = faces(tile.outline);
        const int around = int(std::ceil(strip_length() / 2 / m_radius / tile.pitch)) + 1;
        for (const Region& region : tile.regions)
            for (const Polygon& face : all) {
                if (!contains(face, region.seed)) continue;
                for (int k = -around; k <= around; ++k)
                    for (const bool image : {false, true}) {
                        if (image && !tile.mirrored) continue;
                        const int pitch = ((k % body.pitches) + body.pitches) % body.pitches;
                        const bool beside =
                            built->machine.winding.layout.sharing == SlotSharing::SideBySide && !body.turns;
                        StripPart part{region.use,
                                       region.use == Use::Iron ? (body.turns ? "rotor" : "stator")
                                                               : region.path,
                                       pitch,
                                       beside ? int(!image) : region.part,
                                       body.alternates && pitch % 2 ? -1 : 1,
                                       {}};
                        for (Point p : face) {
                            if (image) p = chart.mirrored(p, 0);
                            p = chart.turned(p, k * tile.pitch);
                            part.outline.push_back({p.y, p.x - chart.flat});
                        }
                        part.seams = seams_of(region, tile, k, image ? -1 : 1);
                        m_strip.push_back(std::move(part));
                    }
            }
    }
    std::stable_partition(m_strip.begin(), m_strip.end(),
                          [](const StripPart& p) { return p.use == Use::Iron; });
}

QRectF DiscView::face_room() const {
    return {disc_edge, title_room, double(height()) - title_room - disc_edge,
            double(height()) - title_room - disc_edge};
}
QRectF DiscView::cut_room() const {
    return {width() - disc_edge - 130.0, title_room, 130, double(height()) - title_room - disc_edge};
}
QRectF DiscView::strip_room() const {
    if (m_straight)
        return {disc_edge, title_room, width() - 2 * disc_edge, double(height()) - title_room - disc_edge};
    const double from = face_room().right() + 2 * disc_edge;
    return {from, title_room, cut_room().left() - 2 * disc_edge - from,
            double(height()) - title_room - disc_edge};
}

double DiscView::strip_length() const {
    const double pole = 2 * std::numbers::pi * m_radius / m_document.built()->machine.poles;
    if (!m_straight) return strip_poles * pole;
    // As much as fills the view at the scale of its height.
    return (m_high - m_low) * std::max(1.0, strip_room().width() / strip_room().height());
}

QTransform DiscView::strip_to_screen() const {
    const QRectF room = strip_room();
    const double scale = std::min(room.width() / strip_length(), room.height() / (m_high - m_low)),
                 middle = room.center().y() + (m_high + m_low) / 2 * scale;
    return {scale, 0, 0, -scale, room.center().x(), middle};
}

QPointF DiscView::on_face(double radius) const {
    return face_room().center() + QPointF(radius * face_room().width() / (2 * m_discs->outer), 0);
}

double DiscView::radius_at(QPointF position) const {
    const QPointF from = position - face_room().center();
    return std::hypot(from.x(), from.y()) * 2 * m_discs->outer / face_room().width();
}

/// Heights upwards are the axis; the ring's radius runs to the right.
QRectF DiscView::placed(const DiscLayer& layer) const {
    double low = 0, high = 0;
    for (const DiscLayer& each : m_discs->layers) {
        low = std::min(low, each.from);
        high = std::max(high, each.to);
    }
    const QRectF room = cut_room().adjusted(0, 6, 0, -22);
    const double scale = std::min(room.width() / m_discs->outer, room.height() / (high - low)),
                 middle = room.center().y() + (high + low) / 2 * scale;
    const double left = room.left() + (room.width() - scale * m_discs->outer) / 2;
    return {QPointF(left + layer.inner * scale, middle - layer.to * scale),
            QPointF(left + layer.outer * scale, middle - layer.from * scale)};
}

QRectF DiscView::layer(const std::string& path) const {
    if (m_discs)
        for (const DiscLayer& each : m_discs->layers)
            if (each.path == path) return placed(each);
    return {};
}

void DiscView::paint_title(QPainter& painter, const QRectF& room, const QString& title) const {
    painter.setPen(theme().soft);
    painter.drawText(QRectF(room.left(), 4, room.width(), 16), Qt::AlignLeft, title);
}

void DiscView::paint_face(QPainter& painter) const {
    const auto built = m_document.built();
    const QRectF room = face_room();
    const double scale = room.width() / (2 * m_discs->outer);
    const auto place = [&](Point p) { return room.center() + QPointF(p.x * scale, -p.y * scale); };
    painter.setPen(QPen(theme().line, 1));
    painter.setBrush(theme().rotor_iron);
    painter.drawEllipse(room.center(), m_discs->outer * scale, m_discs->outer * scale);
    painter.setBrush(theme().paper);
    painter.drawEllipse(room.center(), m_discs->inner * scale, m_discs->inner * scale);
    for (const DiscPart& part : m_discs->parts) {
        const bool magnet = part.use == Use::Magnet,
                   chosen = m_selected == (magnet ? "rotor.magnet" : "stator.slot");
        // Coil sides lie before the magnets: their outlines alone, in the phases' colours.
        const QColor colour = magnet ? disc_colour(part.use, {}, part.polarity)
                                     : coil_side_colour(built->machine, part.pitch, part.layer);
        painter.setPen(QPen(chosen   ? theme().accent
                            : magnet ? theme().ink
                                     : colour,
                            magnet && !chosen ? 0.6 : 2));
        painter.setBrush(magnet ? QBrush(colour) : QBrush(Qt::NoBrush));
        painter.drawPolygon(placed_polygon(part.outline, place));
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().soft, 0.8, Qt::DotLine));
    for (double r : m_discs->slices) painter.drawEllipse(room.center(), r * scale, r * scale);
    painter.setPen(QPen(theme().accent, 1.8));
    painter.drawEllipse(room.center(), m_radius * scale, m_radius * scale);
    painter.setBrush(theme().accent);
    painter.drawEllipse(on_face(m_radius), 4, 4);
    paint_title(painter, room, tr("face, slices dotted"));
}

/// Filled, and bounded where it ends; iron and halves go on without a seam.
void DiscView::paint_part(QPainter& painter, const StripPart& part, const QPolygonF& polygon,
                          const QColor& colour) const {
    const bool chosen = !m_selected.empty() && part.path == m_selected, iron = part.use == Use::Iron;
    painter.setPen(part.seams.empty() && !iron ? QPen(Qt::NoPen) : QPen(colour, 0.8));
    painter.setBrush(colour);
    painter.drawPolygon(polygon);
    if (iron && !chosen) return;
    // Arcs are many short lines, whose ends would lie over each other.
    painter.setPen(QPen(chosen ? theme().accent : theme().ink, chosen ? 1.8 : 0.5, Qt::SolidLine, Qt::FlatCap));
    for (qsizetype i = 0; i < polygon.size(); ++i) {
        const auto next = (i + 1) % polygon.size();
        const auto on = [&](double seam) {
            return std::abs(part.outline[std::size_t(i)].x - seam) < 1e-9 &&
                   std::abs(part.outline[std::size_t(next)].x - seam) < 1e-9;
        };
        if (std::none_of(part.seams.begin(), part.seams.end(), on)) painter.drawLine(polygon[i], polygon[next]);
    }
}

void DiscView::paint_strip(QPainter& painter) const {
    const auto built = m_document.built();
    const QRectF room = strip_room();
    const QTransform to_screen = strip_to_screen();
    const auto place = [&](Point p) { return to_screen.map(QPointF(p.x, p.y)); };
    painter.save();
    painter.setClipRect(room);
    for (const StripPart& part : m_strip) {
        const QColor colour = part.use == Use::Conductor
                                  ? coil_side_colour(built->machine, part.pitch, part.layer)
                                  : disc_colour(part.use, part.path, part.polarity);
        // Iron goes on from pitch to pitch without a seam.
        paint_part(painter, part, placed_polygon(part.outline, place), colour);
    }
    painter.restore();
    if (!m_straight)
        return paint_title(
            painter, room,
            tr("unrolled at a radius of %1 mm (drag the circle)").arg(m_radius * 1e3, 0, 'f', 1));
    const bool halved = axial_form(built->machine.values).halves == 2;
    paint_title(painter, room,
                tr("along the motion; %1 mm repeat%2")
                    .arg(2e3 * std::numbers::pi * m_radius, 0, 'f', 1)
                    .arg(halved ? tr("; one side, to the middle") : QString()));
}

void DiscView::paint_cut(QPainter& painter) const {
    for (const DiscLayer& each : m_discs->layers) {
        const bool chosen = !m_selected.empty() && each.path == m_selected;
        painter.setPen(chosen ? QPen(theme().accent, 1.8) : QPen(theme().ink, 0.6));
        painter.setBrush(disc_colour(each.use, each.path, 1));
        painter.drawRect(placed(each));
    }
    const QRectF first = placed(m_discs->layers.front());
    const double scale = first.width() / (m_discs->outer - m_discs->inner),
                 axis = first.left() - m_discs->inner * scale;
    painter.setPen(QPen(theme().soft, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(axis, cut_room().top()), QPointF(axis, cut_room().bottom() - 18));
    const double at = axis + m_radius * scale;
    painter.setPen(QPen(theme().accent, 1.2));
    painter.drawLine(QPointF(at, cut_room().top()), QPointF(at, cut_room().bottom() - 18));
    painter.setPen(theme().soft);
    painter.drawText(
        QRectF(cut_room().left(), cut_room().bottom() - 16, cut_room().width(), 16), Qt::AlignRight,
        tr("⌀ %1 / %2 mm").arg(2e3 * m_discs->inner, 0, 'g', 4).arg(2e3 * m_discs->outer, 0, 'g', 4));
    paint_title(painter, cut_room(), tr("cut along the axis"));
}

void DiscView::resizeEvent(QResizeEvent*) {
    if (m_straight && m_document.built()) lay_strip(); // as much as the view is wide
}

void DiscView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().paper);
    painter.setPen(theme().line);
    painter.drawLine(0, 0, width(), 0);
    painter.setFont(small_font());
    const bool has_discs = m_discs && !m_discs->layers.empty();
    if (!has_discs && !m_straight) return;
    painter.setOpacity(m_document.is_good() ? 1 : 0.5);
    paint_strip(painter);
    if (has_discs) {
        paint_face(painter);
        paint_cut(painter);
    }
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -2, -2));
    }
}

std::string DiscView::part_in_strip(QPointF position) const {
    const QRectF room = strip_room();
    if (!room.contains(position)) return {};
    const QPointF p = strip_to_screen().inverted().map(position);
    const Point at{p.x(), p.y()};
    for (auto part = m_strip.rbegin(); part != m_strip.rend(); ++part) // iron lies below
        if (contains(part->outline, at)) return part->path;
    return {};
}

std::string DiscView::part_at(QPointF position) const {
    if (const std::string part = part_in_strip(position); !part.empty()) return part;
    if (!m_discs) return {};
    for (const DiscLayer& each : m_discs->layers)
        if (placed(each).contains(position)) return each.path;
    if (!face_room().contains(position)) return {};
    const QRectF room = face_room();
    const double scale = room.width() / (2 * m_discs->outer);
    const Point at{(position.x() - room.center().x()) / scale, (room.center().y() - position.y()) / scale};
    for (const DiscPart& part : m_discs->parts)
        if (part.use == Use::Magnet && contains(part.outline, at)) return "rotor.magnet";
    const double r = norm(at);
    return r > m_discs->inner && r < m_discs->outer ? "rotor" : "";
}

void DiscView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !m_document.built()) return;
    if (m_discs) {
        const double per_pixel = 2 * m_discs->outer / face_room().width();
        m_dragging = face_room().contains(event->position()) &&
                     std::abs(radius_at(event->position()) - m_radius) < circle_grip * per_pixel;
        if (m_dragging) return;
    }
    const std::string part = part_at(event->position());
    set_selected(part);
    Q_EMIT part_chosen(part, disc_material(part));
}

void DiscView::mouseMoveEvent(QMouseEvent* event) {
    if (!m_discs) return;
    if (m_dragging) return set_radius(radius_at(event->position()));
    const double per_pixel = 2 * m_discs->outer / face_room().width();
    const bool near = face_room().contains(event->position()) &&
                      std::abs(radius_at(event->position()) - m_radius) < circle_grip * per_pixel;
    setCursor(near ? Qt::SizeAllCursor : Qt::ArrowCursor);
}

void DiscView::mouseReleaseEvent(QMouseEvent*) {
    m_dragging = false;
}

/// The radius by keys, in fiftieths of the ring's width.
void DiscView::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Up || event->key() == Qt::Key_Right    ? 1
                     : event->key() == Qt::Key_Down || event->key() == Qt::Key_Left ? -1
                                                                                    : 0;
    if (!m_discs || step == 0) return QWidget::keyPressEvent(event);
    set_radius(m_radius + step * (m_discs->outer - m_discs->inner) / 50);
}

} // namespace mavlo::app
