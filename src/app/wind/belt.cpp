#include "wind/belt.h"

#include "section/section_layers.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace mavlo::app {
namespace {

constexpr double margin = 24;
constexpr double slot_top = 62, slot_height = 34;

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

} // namespace

Belt::Belt(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("belt"));
    setFixedHeight(132);
    connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
}

void Belt::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.sheet);
    painter.setPen(t.line);
    painter.drawLine(0, 0, width(), 0);
    const auto built = m_document.built();
    if (!built || !built->machine.wound()) return;
    const Machine& m = built->machine;
    const double pitch = (width() - 2 * margin) / m.slots, slot_width = 0.72 * pitch;
    auto centre_of = [&](int slot) { return margin + (slot + 0.5) * pitch; };
    const bool whole = m.winding.layout.sharing == SlotSharing::Whole,
               stacked = m.winding.layout.sharing == SlotSharing::Stacked;
    auto side_box = [&](int slot, int layer) {
        const QRectF slot_box(centre_of(slot) - slot_width / 2, slot_top, slot_width, slot_height);
        if (whole) return slot_box;
        // Seen from the bore: layer 0 nearest the gap stands below.
        if (stacked)
            return QRectF(slot_box.left(), slot_box.top() + (layer == 0 ? slot_height / 2 : 0), slot_width,
                          slot_height / 2);
        return QRectF(slot_box.left() + (layer == 0 ? 0 : slot_width / 2), slot_box.top(), slot_width / 2,
                      slot_height);
    };
    for (const Coil& coil : m.winding.layout.coils) {
        const QRectF go = side_box(coil.go.slot, coil.go.layer),
                     back = side_box(coil.back.slot, coil.back.layer);
        double x0 = go.center().x(), x1 = back.center().x();
        const double span = (coil.back.slot - coil.go.slot + m.slots) % m.slots;
        const double height = std::min(44.0, 14 + 7 * span);
        painter.setPen(QPen(t.phase[std::size_t(coil.phase)], 2));
        painter.setBrush(Qt::NoBrush);
        auto arch = [&](double from, double to) {
            QPainterPath path({from, slot_top});
            path.cubicTo({from, slot_top - 1.3 * height}, {to, slot_top - 1.3 * height}, {to, slot_top});
            painter.drawPath(path);
        };
        if (x1 > x0)
            arch(x0, x1);
        else { // a coil over the belt's end is drawn at both ends
            const double turn = width() - 2 * margin;
            arch(x0, x1 + turn);
            arch(x0 - turn, x1);
        }
    }
    for (int slot = 0; slot < m.slots; ++slot)
        for (int layer = 0; layer < m.winding.layout.input.layers; ++layer) {
            const QRectF box = side_box(slot, layer);
            painter.setPen(QPen(t.sheet, 1));
            painter.setBrush(coil_side_colour(m, slot, layer));
            painter.drawRect(box);
            const SideOf side = side_of(m, slot, layer);
            const double r = std::min({box.width(), box.height(), 16.0}) * 0.32;
            if (side.phase >= 0 && r > 2) sign_mark(painter, box.center(), r, side.sign);
        }
    painter.setFont(small_font());
    painter.setPen(t.soft);
    const int every = pitch < 16 ? 3 : 1;
    for (int slot = 0; slot < m.slots; slot += every)
        painter.drawText(QRectF(centre_of(slot) - 15, slot_top + slot_height + 2, 30, 16), Qt::AlignCenter,
                         QString::number(slot));
    double x = margin;
    const char* names[] = {"U", "V", "W"};
    for (int phase = 0; phase < 3; ++phase) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.phase[std::size_t(phase)]);
        painter.drawRoundedRect(QRectF(x, 115, 14, 10), 3, 3);
        painter.setPen(t.soft);
        painter.drawText(QPointF(x + 19, 125), QString::fromLatin1(names[phase]));
        x += 44;
    }
    painter.drawText(QPointF(x + 4, 125),
                     tr("point: current towards you, cross: away from you, at positive phase current"));
}

} // namespace mavlo::app
