#include "section/close_up.h"

#include "quantity/constants.h"
#include "section/section_layers.h"
#include "shell/theme.h"

#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int arc_pieces = 24;

/// How far the regions of a body reach from its gap, with some iron behind them.
double reach(const DrawnBody& body, bool outside) {
    const double gap = outside ? body.inner_radius : body.outer_radius,
                 far = outside ? body.outer_radius : body.inner_radius;
    double deepest = gap;
    for (const DrawnRegion& region : body.regions)
        if (region.use != Use::Solid)
            for (const Point& p : region.polygon)
                deepest = outside ? std::max(deepest, norm(p)) : std::min(deepest, norm(p));
    const double behind = gap + 1.3 * (deepest - gap);
    return outside ? std::min(behind, far) : std::max(behind, std::max(far, body.hole_radius));
}

QPolygonF sector(const ViewFrame& frame, const CloseUp::Part& part) {
    QPolygonF polygon;
    for (int i = 0; i <= arc_pieces; ++i)
        polygon << frame.to_screen(polar(part.from, part.middle - part.half + 2 * part.half * i / arc_pieces));
    for (int i = arc_pieces; i >= 0; --i)
        polygon << frame.to_screen(polar(part.to, part.middle - part.half + 2 * part.half * i / arc_pieces));
    return polygon;
}

} // namespace

std::vector<Point> CloseUp::corners() const {
    std::vector<Point> all;
    for (const Part& part : {slot, pole})
        for (double radius : {part.from, part.to})
            for (double share : {-1.0, -0.5, 0.0, 0.5, 1.0})
                all.push_back(polar(radius, part.middle + share * part.half));
    return all;
}

QPainterPath CloseUp::shape(const ViewFrame& frame) const {
    QPainterPath a, b;
    a.addPolygon(sector(frame, slot));
    b.addPolygon(sector(frame, pole));
    return a.united(b);
}

CloseUp close_up_of(const DrawnMachine& built, double rotor_angle) {
    const Machine& m = built.machine;
    CloseUp out;
    const double pole_pitch = 2 * pi / m.poles, slot_pitch = m.slots > 0 ? 2 * pi / m.slots : pole_pitch;
    const DrawnBody &stator = built.drawing.stator(), &rotor = built.drawing.rotor();
    const bool outer_rotor = m.outer_rotor();
    out.slot = {stator.inner_radius, stator.outer_radius, slot_pitch / 2, 0};
    if (outer_rotor) out.slot.from = std::max(reach(stator, false), stator.hole_radius);
    // Over the gap to the middle, so that no slit is left between the two.
    (outer_rotor ? out.slot.to : out.slot.from) = m.middle_of_gap();
    const double step = m.section.rotor().tile.pitch; // to the next pole that stands like the first
    const double nearest = rotor_angle - std::round(rotor_angle / step) * step;
    out.pole = {reach(rotor, outer_rotor), m.middle_of_gap(), pole_pitch / 2, nearest};
    return out;
}

void paint_veil(QPainter& painter, const ViewFrame& frame, const CloseUp& close_up, const QRectF& view) {
    QPainterPath all;
    all.addRect(view);
    QColor veil = theme().paper;
    veil.setAlphaF(0.82F);
    painter.setPen(Qt::NoPen);
    painter.setBrush(veil);
    painter.drawPath(all.subtracted(close_up.shape(frame)));
}

void paint_key_plan(QPainter& painter, const QRectF& box, const DrawnMachine& built, const CloseUp& close_up,
                    double rotor_angle) {
    const double r = built.drawing.outer_radius;
    ViewFrame frame;
    frame.fit(box.adjusted(6, 6, -6, -6), {{-r, 0}, {r, 0}, {0, -r}, {0, r}}, upright);
    painter.setPen(QPen(theme().line, 1));
    painter.setBrush(theme().sheet);
    painter.drawRoundedRect(box, 6, 6);
    const SectionLook look{false, false, rotor_angle, {}, false};
    paint_materials(painter, frame, built, look);
    painter.setPen(QPen(theme().accent, 1.4));
    painter.setBrush(theme().tint(0.5));
    painter.drawPath(close_up.shape(frame));
}

} // namespace mavlo::app
