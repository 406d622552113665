#include "draw/import_canvas.h"

#include "section/section_layers.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

/// Towards the centre; of magnets across the radius, clockwise.
bool is_inward(const ImportedRegion& region) {
    if (!region.direction) return false;
    const Point m = polar(norm(region.centroid), *region.direction);
    const double out = dot(m, region.centroid), round = cross(region.centroid, m);
    return std::abs(out) > 0.3 * std::abs(round) ? out < 0 : round < 0;
}

QColor colour_of(const ImportedRegion& region) {
    const Theme& t = theme();
    switch (region.role) {
    case Role::Iron:
        return region.side == DrawnSide::Rotor ? t.rotor_iron : t.stator_iron;
    case Role::Magnet:
        return is_inward(region) ? t.north_in : t.north_out;
    case Role::Conductor:
        return t.phase[0];
    case Role::Shaft:
    case Role::Solid:
        return t.shaft;
    case Role::Air:
        break;
    }
    return t.paper;
}

constexpr double head_reach = 9; // pixels

/// "a whole rotor, 10 poles alike, each its own mirror image".
QString part_words(const ImportedPart& part) {
    const bool rotor = part.side == DrawnSide::Rotor;
    const double covers = part.portion.covers;
    const int drawn = int(std::lround(covers * part.portion.pitches));
    const QString name = rotor ? ImportCanvas::tr("rotor") : ImportCanvas::tr("stator");
    const QString what = rotor ? ImportCanvas::tr("poles") : ImportCanvas::tr("slots");
    const QString share = covers > 0.999 ? ImportCanvas::tr("a whole %1").arg(name)
                          : drawn >= 1   ? ImportCanvas::tr("%1 of the %2's %3").arg(drawn).arg(name, what)
                                         : ImportCanvas::tr("half a pitch of the %1").arg(name);
    return share + ImportCanvas::tr(", %1 %2 alike in a turn").arg(part.portion.pitches).arg(what) +
           (part.portion.mirrored ? ImportCanvas::tr(", each its own mirror image") : QString());
}

/// As long as the region has room for.
Point along_arrow(const ImportedRegion& region, double direction) {
    return polar(0.3 * std::sqrt(region.area), direction);
}

void arrow(QPainter& painter, const ViewFrame& frame, const ImportedRegion& region, double direction) {
    const Point half = along_arrow(region, direction);
    const QPointF a = frame.to_screen(region.centroid - half), b = frame.to_screen(region.centroid + half);
    const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
    if (length < 6) return;
    const QPointF u = (b - a) / length, v(-u.y(), u.x());
    const double head = std::clamp(length / 3, 3.0, 8.0);
    painter.setPen(QPen(Qt::white, 1.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(a, b);
    painter.drawLine(b, b - head * u + 0.6 * head * v);
    painter.drawLine(b, b - head * u - 0.6 * head * v);
}

QPolygonF line_of(const Piece& p, const ViewFrame& frame) {
    QPolygonF line;
    const int steps = p.straight() ? 1 : 2 + int(std::abs(sweep_of(p)) / 0.05);
    for (int i = 0; i <= steps; ++i) line << frame.to_screen(point_at(p, double(i) / steps));
    return line;
}

/// Some room round the machine, so that what was left out of it is seen where it stood, as far as that is near.
void add_left_out(std::vector<Point>& corners, const std::vector<Piece>& lines) {
    double radius = 0;
    for (const Point& p : corners) radius = std::max(radius, norm(p));
    const auto near = [&](Point p) { return norm(p) < 1.6 * radius; };
    for (const Piece& p : lines)
        for (const Point end : {p.a, p.b})
            if (near(end)) corners.push_back(end);
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
    m_open = {};
    m_hot = m_grabbed = -1;
    fit();
    update();
}

void ImportCanvas::show_open(const OpenDrawing& drawing) {
    m_drawing = {};
    m_open = drawing;
    m_hot = m_grabbed = -1;
    fit();
    update();
}

std::optional<QPointF> ImportCanvas::arrow_head(int number) const {
    for (const ImportedRegion& r : m_drawing.regions)
        if (r.number == number && r.role == Role::Magnet && r.direction)
            return m_frame.to_screen(r.centroid + along_arrow(r, *r.direction));
    return std::nullopt;
}

void ImportCanvas::fit() {
    std::vector<Point> corners;
    for (const Polygon& outline : m_drawing.outlines)
        corners.insert(corners.end(), outline.begin(), outline.end());
    add_left_out(corners, m_drawing.left_out.lines);
    for (const Piece& p : m_open.pieces) corners.insert(corners.end(), {p.a, p.b});
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
        const bool lit = int(i) == m_hot ||
                         std::find(m_lit.begin(), m_lit.end(), m_drawing.regions[i].number) != m_lit.end();
        painter.setPen(QPen(lit ? t.accent : t.ink, lit ? 2 : 0.8));
        painter.setBrush(colour_of(m_drawing.regions[i]));
        painter.drawPath(path);
    }
    for (const ImportedRegion& region : m_drawing.regions)
        if (region.role == Role::Magnet && region.direction) {
            const bool grabbed = m_grabbed >= 0 && &region == &m_drawing.regions[std::size_t(m_grabbed)];
            arrow(painter, m_frame, region, grabbed ? m_turned : *region.direction);
        }
    paint_open(painter);
    paint_left_out(painter);
    paint_healed(painter);
    paint_counts(painter);
    if (m_hot < 0) return;
    const ImportedRegion& region = m_drawing.regions[std::size_t(m_hot)];
    painter.setFont(small_font());
    painter.setPen(t.ink);
    painter.drawText(QPointF(12, height() - 10), tr("%1: %2, %3 mm². A click makes it something else, the "
                                                    "right button offers all; an arrow is turned by its head.")
                                                     .arg(region.number)
                                                     .arg(QString::fromStdString(to_string(region.role)))
                                                     .arg(region.area * 1e6, 0, 'f', 2));
}

int ImportCanvas::region_at(QPointF position) const {
    const ImportedRegion* region = m_drawing.region_at(m_frame.to_metres(position));
    return region ? int(region - m_drawing.regions.data()) : -1;
}

void ImportCanvas::paint_open(QPainter& painter) const {
    const Theme& t = theme();
    painter.setPen(QPen(t.ink, 0.8));
    for (const Piece& p : m_open.pieces) painter.drawPolyline(line_of(p, m_frame));
    painter.setPen(QPen(t.caution, 2));
    painter.setBrush(Qt::NoBrush);
    for (const Point& end : m_open.ends) painter.drawEllipse(m_frame.to_screen(end), 8, 8);
}

/// What belongs to no part, where it stood.
void ImportCanvas::paint_left_out(QPainter& painter) const {
    if (m_drawing.left_out.lines.empty()) return;
    const Theme& t = theme();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.soft, 1.2, Qt::DashDotLine));
    QPointF named;
    for (const Piece& p : m_drawing.left_out.lines) {
        const QPolygonF line = line_of(p, m_frame);
        painter.drawPolyline(line);
        // Named once, where they reach farthest to the right.
        for (const QPointF& at : line)
            if (rect().adjusted(0, 16, -80, -24).contains(at.toPoint()) && at.x() > named.x()) named = at;
    }
    painter.setFont(small_font());
    if (!named.isNull()) painter.drawText(named + QPointF(4, -4), tr("left out"));
}

/// Where gaps were closed and overshoots cut.
void ImportCanvas::paint_healed(QPainter& painter) const {
    const Theme& t = theme();
    painter.setBrush(Qt::NoBrush);
    painter.setFont(small_font());
    for (const Healing& healing : m_drawing.graph.healed) {
        const QPointF at = m_frame.to_screen(healing.first);
        painter.setPen(QPen(t.caution, 1.6, Qt::DotLine));
        painter.drawEllipse(at, 9, 9);
        painter.setPen(t.written(t.caution));
        painter.drawText(at + QPointF(12, 4),
                         tr("closed here first: %1 µm").arg(healing.largest * 1e6, 0, 'g', 2));
    }
}

/// What the drawing was understood as, over it: the parts and how often each repeats.
void ImportCanvas::paint_counts(QPainter& painter) const {
    painter.setFont(body_font());
    painter.setPen(theme().ink);
    double y = 20;
    for (const ImportedPart& part : m_drawing.parts) {
        painter.drawText(QPointF(12, y), part_words(part));
        y += 20;
    }
}

void ImportCanvas::light(const std::vector<int>& numbers) {
    m_lit = numbers;
    update();
}

void ImportCanvas::offer_roles(int at, QPoint place) {
    const ImportedRegion& region = m_drawing.regions[std::size_t(at)];
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("import_roles"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const std::string& word : role_words()) {
        auto* action = menu->addAction(spoken(word));
        action->setCheckable(true);
        action->setChecked(word == to_string(region.role));
        connect(action, &QAction::triggered, this,
                [this, number = region.number, role = *role_of(word)] { Q_EMIT role_wanted(number, role); });
    }
    menu->popup(place);
}

void ImportCanvas::mousePressEvent(QMouseEvent* event) {
    for (std::size_t i = 0; i < m_drawing.regions.size(); ++i)
        if (const auto head = arrow_head(m_drawing.regions[i].number)) {
            const QPointF d = *head - event->position();
            if (std::hypot(d.x(), d.y()) > head_reach) continue;
            m_grabbed = int(i);
            m_turned = *m_drawing.regions[i].direction;
            Q_EMIT magnet_touched(m_drawing.regions[i].number);
            return;
        }
}

void ImportCanvas::mouseMoveEvent(QMouseEvent* event) {
    if (m_grabbed >= 0) {
        const Point to =
            m_frame.to_metres(event->position()) - m_drawing.regions[std::size_t(m_grabbed)].centroid;
        const double step = event->modifiers() & Qt::ShiftModifier ? M_PI / 1800 : M_PI / 180;
        m_turned = std::round(angle_of(to) / step) * step;
        update();
        return;
    }
    const int hot = region_at(event->position());
    setCursor(hot < 0 ? Qt::ArrowCursor : Qt::PointingHandCursor);
    if (hot == m_hot) return;
    m_hot = hot;
    Q_EMIT region_pointed(hot < 0 ? 0 : m_drawing.regions[std::size_t(hot)].number);
    update();
}

void ImportCanvas::mouseReleaseEvent(QMouseEvent* event) {
    if (m_grabbed >= 0) {
        const int number = m_drawing.regions[std::size_t(m_grabbed)].number;
        m_grabbed = -1;
        Q_EMIT magnet_turned(number, m_turned);
        return;
    }
    const int at = region_at(event->position());
    if (at < 0) return;
    if (event->button() == Qt::RightButton)
        offer_roles(at, event->globalPosition().toPoint());
    else
        Q_EMIT region_clicked(m_drawing.regions[std::size_t(at)].number);
}

} // namespace mavlo::app
