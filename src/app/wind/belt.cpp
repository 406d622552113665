#include "wind/belt.h"

#include "section/section_layers.h"
#include "shell/theme.h"
#include "wind/coil_hand.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double side_margin = 24, slot_top = 62, slot_height = 36, legend_top = 120;
constexpr double comfortable_pitch = 15; ///< pixels: below that one zooms in to read

/// Cross for a side whose current goes away from the reader at positive phase current, point for one that
/// comes.
void sign_mark(QPainter& painter, QPointF centre, double r, int sign) {
    painter.setPen(QPen(QColor(0x1F, 0x2A, 0x33), 1.3));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(centre, r, r);
    if (sign > 0) {
        painter.setBrush(QColor(0x1F, 0x2A, 0x33));
        painter.drawEllipse(centre, r * 0.3, r * 0.3);
    } else {
        const double d = r * 0.6;
        painter.drawLine(centre - QPointF(d, d), centre + QPointF(d, d));
        painter.drawLine(centre - QPointF(d, -d), centre + QPointF(d, -d));
    }
}

QColor faded(QColor colour) {
    colour.setAlphaF(0.18F);
    return colour;
}

} // namespace

Belt::Belt(Document& document, PhaseFocus& focus, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_focus(focus) {
    setObjectName(QStringLiteral("belt"));
    setFixedHeight(142);
    setToolTip(tr("Drag a coil side onto another to exchange them; wheel to zoom, drag the ground to scroll; "
                  "click a phase to see it alone."));
    connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
    connect(&focus, &PhaseFocus::changed, this, qOverload<>(&QWidget::update));
}

const Machine* Belt::machine() const {
    const auto& built = m_document.built();
    return built && built->machine.wound() ? &built->machine : nullptr;
}

double Belt::pitch() const {
    const Machine* m = machine();
    return m ? m_zoom * (width() - 2 * side_margin) / m->slots : 1;
}

double Belt::centre_of(int slot) const {
    return side_margin + (slot + 0.5) * pitch() - m_left;
}

QRectF Belt::side_box(CoilSide side) const {
    const Machine* m = machine();
    if (!m) return {};
    const auto& layout = m->winding.layout;
    const double slot_width = 0.72 * pitch();
    const QRectF box(centre_of(side.slot) - slot_width / 2, slot_top, slot_width, slot_height);
    if (layout.sharing == SlotSharing::Whole) return box;
    if (layout.sharing == SlotSharing::SideBySide)
        return {box.left() + (side.layer == 0 ? 0 : slot_width / 2), box.top(), slot_width / 2, slot_height};
    // Seen from the bore: layer 0 nearest the gap stands below.
    const double height = slot_height / layout.input.layers;
    return {box.left(), box.bottom() - (side.layer + 1) * height, slot_width, height};
}

QRectF Belt::phase_box(int phase) const {
    return {side_margin + 46.0 * phase, legend_top - 3, 42, 18};
}

std::optional<CoilSide> Belt::side_at_point(QPointF at) const {
    const Machine* m = machine();
    if (!m) return std::nullopt;
    for (int slot = 0; slot < m->slots; ++slot)
        for (int layer = 0; layer < m->winding.layout.input.layers; ++layer)
            if (side_box({slot, layer}).contains(at)) return CoilSide{slot, layer};
    return std::nullopt;
}

void Belt::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.sheet);
    painter.setPen(t.line);
    painter.drawLine(0, 0, width(), 0);
    const Machine* m = machine();
    if (!m) return;
    painter.save();
    painter.setClipRect(QRectF(8, 0, width() - 16, legend_top - 4));
    // The phase in hand over the others.
    for (bool front : {false, true})
        for (const Coil& coil : m->winding.layout.coils)
            if (m_focus.shows(coil.phase) == front) paint_coil(painter, *m, coil);
    paint_sides(painter, *m);
    paint_numbers(painter, *m);
    painter.restore();
    paint_legend(painter, *m);
}

void Belt::paint_coil(QPainter& painter, const Machine& m, const Coil& coil) const {
    const QColor colour = theme().phase[std::size_t(coil.phase)];
    painter.setPen(QPen(m_focus.shows(coil.phase) ? colour : faded(colour), 2));
    painter.setBrush(Qt::NoBrush);
    const double x0 = side_box(coil.go).center().x();
    if (coil.back.slot == outside_core) { // round the yoke: up and out of the picture
        painter.drawLine(QPointF(x0, slot_top), QPointF(x0, slot_top - 34));
        painter.drawEllipse(QPointF(x0, slot_top - 38), 3, 3);
        return;
    }
    const double x1 = side_box(coil.back).center().x(), turn = pitch() * m.slots;
    const int span = span_of(coil, m.slots), way = std::min(span, m.slots - span);
    const double height = std::min(44.0, 14 + 7.0 * way);
    const auto arch = [&](double from, double to) {
        QPainterPath path({from, slot_top});
        path.cubicTo({from, slot_top - 1.3 * height}, {to, slot_top - 1.3 * height}, {to, slot_top});
        painter.drawPath(path);
    };
    // The shorter way round; a coil over the belt's end is drawn at both ends.
    const double from = span <= m.slots - span ? x0 : x1, to = span <= m.slots - span ? x1 : x0;
    if (to > from)
        arch(from, to);
    else {
        arch(from, to + turn);
        arch(from - turn, to);
    }
}

void Belt::paint_sides(QPainter& painter, const Machine& m) const {
    const Theme& t = theme();
    for (int slot = 0; slot < m.slots; ++slot)
        for (int layer = 0; layer < m.winding.layout.input.layers; ++layer) {
            const CoilSide place{slot, layer};
            const QRectF box = side_box(place);
            if (box.right() < 0 || box.left() > width()) continue;
            const SideOf side = side_of(m, slot, layer);
            const QColor colour = coil_side_colour(m, slot, layer);
            const bool held = m_held == place, over = m_held && m_over == place;
            painter.setPen(held || over ? QPen(t.accent, 2) : QPen(t.sheet, 1));
            painter.setBrush(side.phase < 0 || m_focus.shows(side.phase) ? colour : faded(colour));
            painter.drawRect(box);
            const double r = std::min({box.width(), box.height(), 16.0}) * 0.32;
            if (side.phase >= 0 && r > 2 && m_focus.shows(side.phase))
                sign_mark(painter, box.center(), r, side.sign);
        }
}

void Belt::paint_numbers(QPainter& painter, const Machine& m) const {
    painter.setFont(small_font());
    painter.setPen(theme().soft);
    const int every = std::max(1, int(std::ceil(18 / pitch())));
    for (int slot = 0; slot < m.slots; slot += every)
        painter.drawText(QRectF(centre_of(slot) - 15, slot_top + slot_height + 2, 30, 16), Qt::AlignCenter,
                         QString::number(slot));
}

void Belt::paint_legend(QPainter& painter, const Machine& m) const {
    const Theme& t = theme();
    painter.setFont(small_font());
    for (int phase = 0; phase < m.winding.phases; ++phase) {
        const QRectF box = phase_box(phase);
        const QColor colour = t.phase[std::size_t(phase)];
        painter.setPen(m_focus.phase() == phase ? QPen(t.accent, 1.4) : QPen(Qt::NoPen));
        painter.setBrush(m_focus.phase() == phase ? t.tint(0.12) : QColor(Qt::transparent));
        painter.drawRoundedRect(box, 5, 5);
        painter.setPen(Qt::NoPen);
        painter.setBrush(m_focus.shows(phase) ? colour : faded(colour));
        painter.drawRoundedRect(QRectF(box.left() + 4, box.top() + 4, 13, 10), 3, 3);
        painter.setPen(t.soft);
        painter.drawText(QRectF(box.left() + 20, box.top(), 24, box.height()), Qt::AlignVCenter,
                         QString::fromStdString(phase_name(phase, m.winding.phases)));
    }
    const double x = phase_box(m.winding.phases).left() + 4;
    QString words = m.winding.layout.by_hand ? tr("wound by hand · ") : QString();
    words += tr("point: towards you, cross: away, at positive phase current");
    if (m_zoom == 1 && pitch() < comfortable_pitch) words += tr(" · wheel to zoom");
    painter.setPen(t.soft);
    painter.drawText(QRectF(x, legend_top - 3, width() - x - 12, 18), Qt::AlignVCenter, words);
}

void Belt::mousePressEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    const Machine* m = machine();
    if (!m || event->button() != Qt::LeftButton) return;
    for (int phase = 0; phase < m->winding.phases; ++phase)
        if (phase_box(phase).contains(at)) return m_focus.set_phase(m_focus.phase() == phase ? -1 : phase);
    m_held = side_at_point(at);
    if (m_held && side_of(*m, m_held->slot, m_held->layer).phase < 0) m_held.reset();
    m_over.reset();
    if (!m_held) m_scrolling = at.x();
    update();
}

void Belt::mouseMoveEvent(QMouseEvent* event) {
    if (m_held) {
        m_over = side_at_point(event->position());
        update();
    } else if (m_scrolling) {
        m_left -= event->position().x() - *m_scrolling;
        m_scrolling = event->position().x();
        keep_in_view();
    }
}

void Belt::mouseReleaseEvent(QMouseEvent*) {
    m_scrolling.reset();
    const auto from = m_held, to = m_over;
    m_held.reset();
    m_over.reset();
    update();
    if (from && to && !(*from == *to)) exchange_sides(m_document, *from, *to);
}

void Belt::wheelEvent(QWheelEvent* event) {
    const Machine* m = machine();
    if (!m) return;
    const double before = m_zoom, at = event->position().x() + m_left - side_margin;
    m_zoom = std::clamp(m_zoom * std::pow(1.2, event->angleDelta().y() / 120.0), 1.0,
                        std::max(1.0, 48.0 * m->slots / (width() - 2 * side_margin)));
    m_left += at * (m_zoom / before - 1);
    keep_in_view();
    event->accept();
}

void Belt::keep_in_view() {
    const Machine* m = machine();
    const double whole = m ? pitch() * m->slots + 2 * side_margin : 0;
    m_left = std::clamp(m_left, 0.0, std::max(0.0, whole - width()));
    update();
}

} // namespace mavlo::app
