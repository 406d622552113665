// Coils as arches over the iron of the stator: one arch a coil, in its phase's colour.

#include "quantity/constants.h"
#include "section/overlay.h"
#include "section/phase_focus.h"
#include "shell/theme.h"

#include <QPainterPath>
#include <cmath>

namespace mavlo::app {
namespace {

/// Where arches stand: they leave the slot a quarter above its bottom and rise over the yoke.
struct Arch {
    double start, rise; ///< radius; how far they reach beyond it (negative: inwards)
};

Arch arch_of(const DrawnMachine& built) {
    const Machine& m = built.machine;
    const double bottom = m.winding.slot_bottom, quarter = 0.25 * (bottom - m.stator_radius());
    const DrawnBody& stator = built.drawing.stator();
    const double far = m.outer_rotor() ? stator.inner_radius : stator.outer_radius;
    return {bottom - quarter, 0.55 * (far - bottom) + quarter};
}

QPainterPath arch_path(const ViewFrame& frame, const Arch& arch, double from, double to) {
    constexpr int pieces = 40;
    QPainterPath path;
    for (int i = 0; i <= pieces; ++i) {
        const double s = double(i) / pieces, height = arch.rise * std::pow(std::sin(pi * s), 0.6);
        const QPointF p = frame.to_screen(polar(arch.start + height, from + (to - from) * s));
        if (i == 0)
            path.moveTo(p);
        else
            path.lineTo(p);
    }
    return path;
}

void stroke(const SectionCanvas& c, const QPainterPath& path, const QColor& colour) {
    c.painter.setPen(QPen(theme().ink, 4.2, Qt::SolidLine, Qt::RoundCap));
    c.painter.drawPath(path);
    c.painter.setPen(QPen(colour, 2.8, Qt::SolidLine, Qt::RoundCap));
    c.painter.drawPath(path);
}

/// A coil round the yoke goes straight over it.
void paint_ring(const SectionCanvas& c, const Arch& arch, double angle, const QColor& colour) {
    QPainterPath path(c.frame.to_screen(polar(arch.start, angle)));
    path.lineTo(c.frame.to_screen(polar(arch.start + 1.9 * arch.rise, angle)));
    stroke(c, path, colour);
}

void paint(const SectionCanvas& c) {
    const Machine& m = c.built.machine;
    if (!m.wound()) return;
    const double pitch = 2 * pi / m.slots;
    const Arch arch = arch_of(c.built);
    const double quarter = m.winding.layout.sharing == SlotSharing::SideBySide ? 0.22 * pitch : 0;
    c.painter.setBrush(Qt::NoBrush);
    const PhaseFocus& focus = PhaseFocus::shared();
    for (const Coil& coil : m.winding.layout.coils) {
        if (!focus.shows(coil.phase)) continue;
        const QColor colour = theme().phase[std::size_t(coil.phase)];
        if (coil.back.slot == outside_core) {
            paint_ring(c, arch, coil.go.slot * pitch, colour);
            continue;
        }
        const int span = span_of(coil, m.slots);
        // The shorter way round.
        const bool ahead = span <= m.slots - span;
        const int from = ahead ? coil.go.slot : coil.back.slot, steps = ahead ? span : m.slots - span;
        stroke(c, arch_path(c.frame, arch, from * pitch + quarter, (from + steps) * pitch - quarter), colour);
    }
}

const Register<Overlay> coils{{
    .name = "coils",
    .order = 60,
    .benches = {"wind"},
    .at_first = {"wind"},
    .paint = paint,
}};

} // namespace
} // namespace mavlo::app
