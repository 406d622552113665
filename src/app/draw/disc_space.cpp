#include "draw/disc_space.h"

#include "section/section_layers.h"
#include "shell/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

constexpr int space_width = 230;
constexpr double apart = 0.35;     ///< by which parts across a gap stand apart, of the outer radius
constexpr int ring_parts = 72;     ///< straight pieces of a ring
constexpr double per_pixel = 0.01; ///< rad
constexpr double key_step = 0.1;   ///< rad

QColor body_colour(const std::string& path) {
    return path.starts_with("rotor") ? theme().rotor_iron : theme().stator_iron;
}

QColor part_colour(const Machine& machine, const DiscPart& part) {
    if (part.use == Use::Magnet) return part.polarity < 0 ? theme().north_in : theme().north_out;
    const SideOf side = side_of(machine, part.pitch, part.layer);
    return side.phase < 0 ? theme().slot : theme().phase[std::size_t(side.phase)];
}

} // namespace

DiscSpace::DiscSpace(const Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("disc_space"));
    setFixedWidth(space_width);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::OpenHandCursor);
    setAccessibleName(tr("The machine in space, its discs apart; arrow keys turn it"));
    setToolTip(tr("Drag to turn it"));
    set_discs(nullptr);
}

void DiscSpace::set_discs(const std::shared_ptr<const Discs>& discs) {
    m_discs = discs;
    setVisible(m_discs != nullptr);
    update();
}

std::vector<DiscSpace::Raised> DiscSpace::raised() const {
    std::vector<Raised> out;
    for (const DiscLayer& layer : m_discs->layers) out.push_back({&layer, layer.from, layer.to});
    // By their middles: conductors lie on the side of their core that looks at the gap.
    std::sort(out.begin(), out.end(),
              [](const Raised& a, const Raised& b) { return a.from + a.to < b.from + b.to; });
    // From below: where rotor follows stator, or the other way round, a gap lies between.
    double lift = 0;
    bool before = false;
    for (std::size_t k = 0; k < out.size(); ++k) {
        const bool rotor = out[k].layer->path.starts_with("rotor");
        if (k > 0 && rotor != before) lift += apart * m_discs->outer;
        before = rotor;
        out[k].from += lift;
        out[k].to += lift;
    }
    return out;
}

/// Parallel rays: heights along the axis stand upright.
QPointF DiscSpace::placed(Point p, double z) const {
    const Point turned = rotated(p, m_turn);
    return m_centre + m_scale * QPointF(turned.x, -(turned.y * std::sin(m_tilt) + z * std::cos(m_tilt)));
}

void DiscSpace::paint_prism(QPainter& painter, const Polygon& outline, const Raised& layer,
                            const QColor& colour) const {
    const double near = m_tilt >= 0 ? layer.to : layer.from, far = m_tilt >= 0 ? layer.from : layer.to;
    painter.setPen(QPen(theme().ink, 0.4));
    painter.setBrush(colour.darker(125));
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const Point a = outline[k], b = outline[(k + 1) % outline.size()], along = rotated(b - a, m_turn);
        // Walls that look away are hidden by the body itself (outlines run counter-clockwise).
        if ((m_tilt >= 0 ? -along.x : along.x) * (area(outline) > 0 ? 1 : -1) > 0) continue;
        painter.drawPolygon(QPolygonF{placed(a, far), placed(b, far), placed(b, near), placed(a, near)});
    }
    painter.setBrush(colour);
    QPolygonF face;
    for (Point p : outline) face << placed(p, near);
    painter.drawPolygon(face);
}

void DiscSpace::paint_ring(QPainter& painter, const Raised& layer) const {
    const QColor colour = body_colour(layer.layer->path);
    const double near = m_tilt >= 0 ? layer.to : layer.from, far = m_tilt >= 0 ? layer.from : layer.to;
    QPolygonF wall_near, wall_far, outer, inner;
    for (int k = 0; k <= ring_parts; ++k) {
        const double angle = 2 * std::numbers::pi * k / ring_parts;
        outer << placed(polar(layer.layer->outer, angle), near);
        inner << placed(polar(layer.layer->inner, angle), near);
        // The half of the outer wall that looks at the eye.
        const double front = -std::numbers::pi * k / ring_parts * (m_tilt >= 0 ? 1 : -1) - m_turn;
        wall_near << placed(polar(layer.layer->outer, front), near);
        wall_far << placed(polar(layer.layer->outer, front), far);
    }
    std::reverse(wall_far.begin(), wall_far.end());
    painter.setPen(QPen(theme().ink, 0.4));
    painter.setBrush(colour.darker(115));
    painter.drawPolygon(wall_near + wall_far);
    QPainterPath ring;
    ring.addPolygon(outer);
    ring.addPolygon(inner);
    painter.setBrush(colour);
    painter.drawPath(ring);
}

void DiscSpace::paint_parts(QPainter& painter, const Raised& layer) const {
    const auto built = m_document.built();
    const bool magnets = layer.layer->use == Use::Magnet;
    std::vector<const DiscPart*> parts;
    for (const DiscPart& part : m_discs->parts)
        if ((part.use == Use::Magnet) == magnets && !part.outline.empty()) parts.push_back(&part);
    // The far ones first.
    const auto depth = [&](const DiscPart* part) { return rotated(part->outline.front(), m_turn).y; };
    std::sort(parts.begin(), parts.end(), [&](const DiscPart* a, const DiscPart* b) {
        return m_tilt >= 0 ? depth(a) > depth(b) : depth(a) < depth(b);
    });
    for (const DiscPart* part : parts)
        paint_prism(painter, part->outline, layer, part_colour(built->machine, *part));
}

void DiscSpace::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().paper);
    painter.setPen(theme().line);
    painter.drawLine(0, 0, width(), 0);
    painter.setFont(small_font());
    painter.setPen(theme().soft);
    painter.drawText(QRectF(10, 4, width() - 20, 16), Qt::AlignLeft, tr("in space, drawn apart"));
    if (!m_discs || m_discs->layers.empty()) return;
    auto layers = raised();
    double low = 1e9, high = -1e9;
    for (const Raised& layer : layers) {
        low = std::min(low, layer.from);
        high = std::max(high, layer.to);
    }
    const double tall = high - low, outer = m_discs->outer;
    m_scale = std::min((width() - 24) / (2 * outer),
                       (height() - 40) / (2 * outer * std::abs(std::sin(m_tilt)) + tall * std::cos(m_tilt)));
    const double middle = (low + high) / 2;
    m_centre = QPointF(width() / 2.0, (height() + 20) / 2.0 + m_scale * middle * std::cos(m_tilt));
    if (m_tilt < 0) std::reverse(layers.begin(), layers.end());
    painter.setOpacity(m_document.is_good() ? 1 : 0.5);
    for (const Raised& layer : layers)
        if (layer.layer->use == Use::Iron)
            paint_ring(painter, layer);
        else
            paint_parts(painter, layer);
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -2, -2));
    }
}

void DiscSpace::turn_by(double turn, double tilt) {
    m_turn = std::remainder(m_turn + turn, 2 * std::numbers::pi);
    m_tilt = std::clamp(m_tilt + tilt, -1.5, 1.5);
    update();
}

void DiscSpace::mousePressEvent(QMouseEvent* event) {
    m_pressed = event->position();
}

void DiscSpace::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    const QPointF by = event->position() - m_pressed;
    m_pressed = event->position();
    turn_by(by.x() * per_pixel, by.y() * per_pixel);
}

void DiscSpace::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Left:
        return turn_by(-key_step, 0);
    case Qt::Key_Right:
        return turn_by(key_step, 0);
    case Qt::Key_Up:
        return turn_by(0, key_step);
    case Qt::Key_Down:
        return turn_by(0, -key_step);
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace mavlo::app
