#include "wind/coil_hand.h"

#include "section/section_layers.h"
#include "shell/theme.h"
#include "winding/coil_table.h"

#include <algorithm>

namespace mavlo::app {
namespace {

/// The drawn region of a coil side; null where the section has none.
const DrawnRegion* region_of(const Drawing& drawing, CoilSide side) {
    const auto& regions = drawing.stator().regions;
    const auto found = std::find_if(regions.begin(), regions.end(), [&](const DrawnRegion& r) {
        return r.use == Use::Conductor && r.pitch == side.slot && r.layer == side.layer;
    });
    return found == regions.end() ? nullptr : &*found;
}

} // namespace

void exchange_sides(Document& document, CoilSide a, CoilSide b) {
    Design design = document.design();
    design.coils = swapped(document.built()->machine.winding.layout.coils, a, b);
    document.set_design(QObject::tr("move a coil side"), design);
}

CoilHand::CoilHand(Document& document, std::function<void()> redraw, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_redraw(std::move(redraw)) {
    connect(&document, &Document::changed, this, [this] { m_held.reset(), m_over.reset(); });
}

std::optional<CoilSide> CoilHand::side_at_point(QPointF at, const ViewFrame& frame) const {
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return std::nullopt;
    const DrawnRegion* region = region_at(built->drawing.stator(), frame.to_metres(at));
    if (!region || region->use != Use::Conductor) return std::nullopt;
    return CoilSide{region->pitch, region->layer};
}

bool CoilHand::press(QPointF at, const ViewFrame& frame, double) {
    const auto side = side_at_point(at, frame);
    if (!side || side_of(m_document.built()->machine, side->slot, side->layer).phase < 0) return false;
    m_held = side;
    m_over.reset();
    m_at = at;
    m_redraw();
    return true;
}

bool CoilHand::move(QPointF at, const ViewFrame& frame, double) {
    if (!m_held) return false;
    m_over = side_at_point(at, frame);
    m_at = at;
    m_redraw();
    return true;
}

bool CoilHand::release(QPointF at, const ViewFrame& frame, double) {
    if (!m_held) return false;
    const CoilSide from = *m_held;
    const auto to = side_at_point(at, frame);
    drop();
    if (to && !(*to == from)) exchange_sides(m_document, from, *to);
    return true;
}

bool CoilHand::key(QKeyEvent& event) {
    if (event.key() != Qt::Key_Escape || !m_held) return false;
    drop();
    return true;
}

void CoilHand::drop() {
    m_held.reset();
    m_over.reset();
    m_redraw();
}

void CoilHand::paint(QPainter& painter, const ViewFrame& frame, double) const {
    const auto& built = m_document.built();
    if (!m_held || !built) return;
    const DrawnRegion* held = region_of(built->drawing, *m_held);
    if (!held) return;
    painter.save();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().accent, 2));
    const QPainterPath path = path_of(held->polygon, frame);
    painter.drawPath(path);
    if (const DrawnRegion* over = m_over ? region_of(built->drawing, *m_over) : nullptr)
        painter.drawPath(path_of(over->polygon, frame));
    painter.setPen(QPen(theme().accent, 1.5, Qt::DashLine));
    painter.drawLine(path.boundingRect().center(), m_at);
    painter.setPen(Qt::NoPen);
    painter.setBrush(coil_side_colour(built->machine, m_held->slot, m_held->layer));
    painter.drawEllipse(m_at, 6, 6);
    painter.restore();
}

} // namespace mavlo::app
