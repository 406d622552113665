#include "wind/star_view.h"

#include "section/arrow_head.h"
#include "shell/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <complex>
#include <map>

namespace mavlo::app {
namespace {

using Complex = std::complex<double>;

/// EMF of a coil at the poles' order, in space: its slots' angles turn to the left.
Complex phasor(const Coil& coil, const Machine& m) {
    return std::conj(coil_phasor(coil, m.slots, m.winding.layout.main_order()));
}

void arrow(QPainter& painter, QPointF from, QPointF to, const QColor& colour, double width) {
    painter.setPen(QPen(colour, width, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(from, to);
    if (QLineF(from, to).length() < 6) return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    paint_arrow_head(painter, to, from, {7, 3});
}

} // namespace

StarView::StarView(Document& document, PhaseFocus& focus, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_focus(focus) {
    setObjectName(QStringLiteral("star"));
    setMinimumHeight(190);
    setToolTip(
        tr("Left: the voltage phasors of all coils, labelled by the slot in which they begin. Right: the coils "
           "of each phase added up."));
    connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
    connect(&focus, &PhaseFocus::changed, this, qOverload<>(&QWidget::update));
}

void StarView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return;
    const double side = std::min(width() / 2.0, double(height()));
    paint_star(painter, built->machine, {0, (height() - side) / 2, width() / 2.0, side});
    paint_sums(painter, built->machine, {width() / 2.0, (height() - side) / 2, width() / 2.0, side});
}

void StarView::paint_star(QPainter& painter, const Machine& m, QRectF box) const {
    const Theme& t = theme();
    const double radius = 0.5 * std::min(box.width(), box.height()) - 20;
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(box.center(), radius, radius);
    double longest = 0;
    for (const Coil& coil : m.winding.layout.coils) longest = std::max(longest, std::abs(phasor(coil, m)));
    // Coils that coincide are one arrow with the first of their slots.
    std::map<std::pair<int, int>, int> seen;
    for (const Coil& coil : m.winding.layout.coils) {
        const Complex p = phasor(coil, m) / std::max(1e-12, longest);
        QColor colour = t.phase[std::size_t(coil.phase)];
        if (!m_focus.shows(coil.phase)) colour.setAlphaF(0.18F);
        const QPointF to = box.center() + radius * QPointF(p.real(), -p.imag());
        const std::pair<int, int> key{int(std::lround(to.x() * 2)), int(std::lround(to.y() * 2))};
        if (!seen.emplace(key, coil.go.slot).second) continue;
        arrow(painter, box.center(), to, colour, 1.8);
        if (seen.size() > 36) continue;
        painter.setPen(m_focus.shows(coil.phase) ? t.soft : QColor(Qt::transparent));
        const double size = std::max(1e-9, std::abs(p));
        const QPointF at = box.center() + (radius * size + 9) * QPointF(p.real(), -p.imag()) / size;
        painter.drawText(QRectF(at.x() - 12, at.y() - 8, 24, 16), Qt::AlignCenter,
                         QString::number(coil.go.slot));
    }
}

void StarView::paint_sums(QPainter& painter, const Machine& m, QRectF box) const {
    const Theme& t = theme();
    const int phases = m.winding.phases;
    std::vector<Complex> sums(std::size_t(phases), 0.0);
    std::vector<std::vector<Complex>> chains(std::size_t(phases), {0.0});
    for (const Coil& coil : m.winding.layout.coils) {
        const auto k = std::size_t(coil.phase);
        sums[k] += phasor(coil, m);
        chains[k].push_back(sums[k]);
    }
    double longest = 1e-12;
    for (const auto& chain : chains)
        for (Complex p : chain) longest = std::max(longest, std::abs(p));
    const double radius = 0.5 * std::min(box.width(), box.height()) - 20;
    const auto place = [&](Complex p) {
        return box.center() + radius / longest * QPointF(p.real(), -p.imag());
    };
    for (int k = 0; k < phases; ++k) {
        QColor colour = t.phase[std::size_t(k)];
        if (!m_focus.shows(k)) colour.setAlphaF(0.18F);
        QColor pale = colour;
        pale.setAlphaF(pale.alphaF() * 0.5F);
        painter.setPen(QPen(pale, 1.2));
        const auto& chain = chains[std::size_t(k)];
        for (std::size_t i = 1; i < chain.size(); ++i) painter.drawLine(place(chain[i - 1]), place(chain[i]));
        arrow(painter, box.center(), place(sums[std::size_t(k)]), colour, 2.4);
        const double size = std::max(1e-9, std::abs(sums[std::size_t(k)]));
        const QPointF at = place(sums[std::size_t(k)] * (1 + 11 * longest / (radius * size)));
        painter.setPen(t.ink);
        painter.drawText(QRectF(at.x() - 14, at.y() - 8, 28, 16), Qt::AlignCenter,
                         QString::fromStdString(phase_name(k, phases)));
    }
}

} // namespace mavlo::app
