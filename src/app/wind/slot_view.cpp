#include "wind/slot_view.h"

#include "section/section_layers.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <numeric>

namespace mavlo::app {
namespace {

constexpr double foot = 40; ///< pixels for the words

QString fit_words(const SlotFilling& filling, const ConductorSize& size) {
    const int wanted = std::accumulate(filling.wanted.begin(), filling.wanted.end(), 0),
              fit = std::accumulate(filling.fit.begin(), filling.fit.end(), 0);
    const char* what = size.shape == ConductorShape::Litz ? "bundles" : "conductors";
    if (filling.fits())
        return SlotView::tr("All %1 %2 lie in the slot; %3 would.")
            .arg(wanted)
            .arg(QLatin1String(what))
            .arg(fit);
    const QString some = SlotView::tr("%1 of %2 %3 lie in the slot.")
                             .arg(int(filling.places.size()))
                             .arg(wanted)
                             .arg(QLatin1String(what));
    if (filling.largest <= 0) return some;
    return some + (filling.round
                       ? SlotView::tr(" They fit at %1 mm over the enamel instead of %2 mm.")
                       : SlotView::tr(" They fit at a height of %1 mm over the enamel instead of %2 mm."))
                      .arg(filling.largest * 1e3, 0, 'f', 3)
                      .arg((filling.round ? filling.outer_width : filling.outer_height) * 1e3, 0, 'f', 3);
}

} // namespace

SlotView::SlotView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("slot_view"));
    setMinimumHeight(190);
    connect(&document, &Document::changed, this, [this] {
        m_fresh = false;
        update();
    });
}

/// Packed when it is looked at: some tens of milliseconds.
void SlotView::refresh() {
    m_fresh = true;
    m_words.clear();
    m_spaces.clear();
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return;
    m_spaces = slot_spaces(built->machine);
    m_filling = fill_slot(built->machine, fullest_slot(built->machine), Packing::Measured);
    m_words = fit_words(m_filling, size_conductor(built->machine.winding.conductor));
}

void SlotView::paintEvent(QPaintEvent*) {
    if (!m_fresh) refresh();
    const auto& built = m_document.built();
    if (m_spaces.empty() || !built) return;
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    // The slot lies on its side: its bottom to the right of its mouth, as deep as the view is wide.
    double low = 1e300, high = -1e300, half = 0;
    for (const PackingSpace& space : m_spaces)
        for (Point p : space.polygon) {
            low = std::min(low, p.x);
            high = std::max(high, p.x);
            half = std::max(half, std::abs(p.y));
        }
    const double scale = std::min((width() - 40) / (high - low), (height() - foot - 16) / (2 * half));
    const QPointF middle(width() / 2.0, (height() - foot) / 2.0);
    const auto place = [&](Point p) { return middle + scale * QPointF(p.x - (low + high) / 2, -p.y); };
    const int slot = fullest_slot(built->machine);
    for (std::size_t layer = 0; layer < m_spaces.size(); ++layer) {
        QPainterPath path;
        for (Point p : m_spaces[layer].polygon)
            path.elementCount() ? path.lineTo(place(p)) : path.moveTo(place(p));
        path.closeSubpath();
        QColor ground = coil_side_colour(built->machine, slot, int(layer));
        ground.setAlphaF(0.28F);
        painter.setPen(QPen(t.ink, 1.2));
        painter.setBrush(ground);
        painter.drawPath(path);
    }
    const double w = m_filling.outer_width, h = m_filling.outer_height;
    for (const auto& spot : m_filling.places) {
        const QPointF at = place(spot.at);
        const QColor copper = coil_side_colour(built->machine, slot, spot.layer);
        painter.setPen(QPen(t.ink, 0.8));
        if (m_filling.round) {
            painter.setBrush(t.sheet);
            painter.drawEllipse(at, scale * w / 2, scale * w / 2);
            painter.setBrush(copper);
            painter.setPen(Qt::NoPen);
            painter.drawEllipse(at, scale * m_filling.bare_width / 2, scale * m_filling.bare_width / 2);
        } else {
            const auto box = [&](double across, double along) {
                return QRectF(at.x() - scale * along / 2, at.y() - scale * across / 2, scale * along,
                              scale * across);
            };
            painter.setBrush(t.sheet);
            painter.drawRect(box(w, h));
            painter.setBrush(copper);
            painter.setPen(Qt::NoPen);
            painter.drawRect(box(m_filling.bare_width, m_filling.bare_height));
        }
    }
    painter.setFont(small_font());
    painter.setPen(m_filling.fits() ? t.soft : t.written(t.caution));
    painter.drawText(QRectF(12, height() - foot, width() - 24, foot),
                     Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, m_words);
}

} // namespace mavlo::app
