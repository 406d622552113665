// How the section's view paints itself.

#include "figure/palette.h"
#include "section/section_view.h"
#include "shell/changed_dimensions.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/told_problem.h"

#include <QPainter>
#include <QtMath>
#include <cmath>

namespace mavlo::app {
namespace {

QString share_of_machine(const Sector& sector) {
    static const QString names[] = {QStringLiteral("the whole machine"), QStringLiteral("half the machine"),
                                    QStringLiteral("a third of the machine"),
                                    QStringLiteral("a quarter of the machine")};
    if (sector.count <= 4) return names[sector.count - 1];
    return QStringLiteral("1/%1 of the machine").arg(sector.count);
}

} // namespace

namespace {
/// Ground for what is written over the section, so that it reads over any field.
void paint_ground(QPainter& painter, const QRectF& box) {
    QColor ground = theme().paper;
    ground.setAlphaF(0.88F);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ground);
    painter.drawRoundedRect(box, 4, 4);
}
} // namespace

void SectionView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().paper);
    const auto built = m_document.built();
    if (!built) {
        paint_problem(painter);
        return;
    }
    const bool ghost = !m_document.is_good();
    SectionLook look{false, ghost, m_angle, m_selected, false};
    for (const Overlay* overlay : m_overlays.list())
        if (overlay->look) overlay->look(look);
    if (!m_close_up && !m_little) paint_ring(painter);
    if (ghost) painter.setOpacity(0.35);
    // The field of an older design or angle is not laid over a newer drawing.
    const bool result_fits =
        m_result && m_result->problems.empty() && m_result->request.built->hash == built->hash && !ghost;
    const bool coloured = m_overlays.colours() && result_fits;
    if (result_fits && m_overlays.needs_field()) look.rotor_angle = m_result->request.angle;
    look.on_field = coloured;
    if (m_housing && !m_close_up) paint_housing(painter, m_frame, *m_housing);
    if (coloured)
        painter.drawImage(QPointF(0, 0), field_image());
    else
        paint_materials(painter, m_frame, *built, look);
    const SectionCanvas canvas{painter, m_frame, *built, result_fits ? &m_result->picture : nullptr, coloured};
    paint_overlays(canvas, false);
    const auto reference = changed_reference();
    if (reference) paint_ghost(painter, m_frame, *reference, look.rotor_angle);
    paint_outlines(painter, m_frame, *built, look);
    if (!m_overlays.colours()) paint_magnet_arrows(painter, m_frame, *built, look);
    painter.setOpacity(1);
    paint_overlays(canvas, true);
    if (m_close_up) paint_veil(painter, m_frame, *m_close_up, rect());
    if (m_editable) m_dimensions.paint(painter, m_frame, m_hot, m_selected);
    if (m_tool) m_tool->paint(painter, m_frame, m_angle);
    if (m_little) return;
    if (m_overlays.colours()) paint_scale(painter);
    if (m_close_up)
        paint_key_plan(painter, key_plan(), *built, *m_close_up, m_angle);
    else
        paint_ring_angle(painter);
    paint_facts(painter);
    if (reference) paint_changes(painter, *reference);
    paint_problem(painter);
}

/// The reference's machine where the one in hand is being drawn and differs from it.
std::shared_ptr<const DrawnMachine> SectionView::changed_reference() const {
    const auto reference = m_editable && !m_little ? m_document.reference() : nullptr;
    return reference && reference->hash != m_document.built()->hash ? reference : nullptr;
}

/// What differs from the reference, right below, newest design beside it.
void SectionView::paint_changes(QPainter& painter, const DrawnMachine& reference) const {
    constexpr int most = 6;
    constexpr double line = 17, wide = 250;
    QStringList changes = changed_dimensions(reference.design, m_document.design());
    if (changes.isEmpty()) return;
    const auto count = changes.size();
    if (count > most) {
        changes = changes.mid(0, most - 1);
        changes << tr("and %1 more").arg(count - most + 1);
    }
    changes.prepend(tr("dashed: the reference"));
    painter.setFont(small_font());
    const Theme& t = theme();
    const double top = height() - 14 - line * double(changes.size());
    const QRectF box(width() - wide - 16, top, wide, line * double(changes.size()));
    double widest = 0;
    for (const QString& text : changes)
        widest = std::max(widest, double(painter.fontMetrics().horizontalAdvance(text)));
    widest = std::min(widest, wide);
    paint_ground(painter, QRectF(box.right() - widest - 6, box.top() - 2, widest + 12, box.height() + 4));
    for (qsizetype i = 0; i < changes.size(); ++i) {
        painter.setPen(i == 0 ? t.accent : t.ink);
        painter.drawText(QRectF(box.left(), box.top() + line * double(i), wide, line),
                         Qt::AlignRight | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(changes[i], Qt::ElideRight, int(wide)));
    }
}

/// Those of the field lie under the outlines, those of the machine over them.
void SectionView::paint_overlays(const SectionCanvas& canvas, bool over_outlines) const {
    for (const Overlay* overlay : m_overlays.list())
        if (overlay->paint && overlay->needs_field != over_outlines) overlay->paint(canvas);
}

FieldPainter SectionView::field_painter() const {
    return {m_frame, size(), devicePixelRatioF(), m_low, m_high, m_overlays};
}

/// The picture that came with the field where it still fits the view, else one made here.
const QImage& SectionView::field_image() const {
    const FieldPainter wanted = field_painter();
    const auto* given = m_result->request.paint.target<FieldPainter>();
    if (given && *given == wanted) return m_result->image;
    if (m_own_image.result != m_result || !(m_own_image.painter == wanted))
        m_own_image = {m_result, wanted, wanted(m_result->picture)};
    return m_own_image.image;
}

void SectionView::paint_ring(QPainter& painter) const {
    const Theme& t = theme();
    const double radius = ring_radius();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.line, 9));
    painter.drawEllipse(m_frame.centre(), radius, radius);
    painter.setPen(QPen(t.soft, 1));
    for (int degree = 0; degree < 360; degree += 10) {
        const double a = qDegreesToRadians(double(degree));
        const QPointF u(std::cos(a), -std::sin(a));
        const double inner = degree % 30 ? radius + 1 : radius - 4;
        painter.drawLine(m_frame.centre() + inner * u, m_frame.centre() + (radius + 4) * u);
    }
    painter.setPen(QPen(t.sheet, 1.5));
    painter.setBrush(t.accent);
    painter.drawEllipse(ring_handle(), 8, 8);
}

/// The angle beside the ring's handle, over whatever lies there.
void SectionView::paint_ring_angle(QPainter& painter) const {
    const Theme& t = theme();
    painter.setFont(small_font());
    painter.setPen(t.accent);
    const Machine& m = m_document.built()->machine;
    const QString text = m.facts().linear
                             ? QStringLiteral("%1 mm").arg(1e3 * m_angle * m.section.chart().flat, 0, 'f', 2)
                             : tr("%1° mech").arg(qRadiansToDegrees(m_angle), 0, 'f', 2);
    const QPointF outward(std::cos(m_angle), -std::sin(m_angle));
    const double width = painter.fontMetrics().horizontalAdvance(text);
    QPointF place =
        ring_handle() + 14 * outward + QPointF(outward.x() < -0.2 ? -width : 0, 4 - 6 * outward.y() * -1);
    place.setX(std::clamp(place.x(), 4.0, this->width() - width - 4));
    place.setY(std::clamp(place.y(), 14.0, height() - 6.0));
    paint_ground(painter, QRectF(place + QPointF(-4, -13), QSizeF(width + 8, 18)));
    painter.setPen(t.accent);
    painter.drawText(place, text);
}

void SectionView::paint_facts(QPainter& painter) const {
    const Machine& m = m_document.built()->machine;
    QString text;
    if (!m.wound())
        text = QStringLiteral("smooth stator · %1 poles").arg(m.poles);
    else if (m.facts().switched)
        text = QStringLiteral("%1 stator poles · %2 rotor poles · %3 phases, switched")
                   .arg(m.slots)
                   .arg(m.poles)
                   .arg(m.winding.phases);
    else
        text = QStringLiteral("%1 slots · %2 poles · winding factor %3")
                   .arg(m.slots)
                   .arg(m.poles)
                   .arg(std::abs(winding_factor(m.winding.layout, m.pole_pairs())), 0, 'f', 3);
    text += QStringLiteral(" · %1 is computed").arg(share_of_machine(m.sector()));
    if (m.facts().axial)
        text +=
            tr(" · unrolled at a radius of %1 mm and rolled up").arg(m.section.chart().flat * 1e3, 0, 'f', 1);
    if (m.facts().linear) text += tr(" · straight, and drawn here rolled up");
    painter.setFont(small_font());
    paint_ground(painter, QRectF(18, 16, painter.fontMetrics().horizontalAdvance(text) + 12, 21));
    painter.setPen(theme().soft);
    painter.drawText(QPointF(24, 30), text);
    const QString& effects = m_dimensions.effects().title;
    if (!m_editable || effects.isEmpty()) return;
    paint_ground(painter, QRectF(18, 40, painter.fontMetrics().horizontalAdvance(effects) + 12, 21));
    painter.setPen(theme().accent);
    painter.drawText(QPointF(24, 54), effects);
}

void SectionView::paint_problem(QPainter& painter) const {
    const Problems& problems = m_document.problems();
    m_problem_box = {};
    if (problems.empty()) return;
    const Theme& t = theme();
    const QString text =
        told(problems.front()) +
        (problems.size() > 1 ? QStringLiteral(" (and %1 more)").arg(problems.size() - 1) : QString());
    painter.setFont(body_font());
    QRectF room(24, 0, width() - 48, 80);
    QRectF box = painter.boundingRect(room.adjusted(30, 0, -12, 0), int(Qt::TextWordWrap), text);
    box.moveBottom(height() - 14);
    const QRectF frame = box.adjusted(-34, -8, 12, 8);
    m_problem_box = frame;
    painter.setPen(QPen(t.caution, 1));
    painter.setBrush(t.sheet);
    painter.drawRoundedRect(frame, 4, 4);
    const QPointF c(frame.left() + 18, box.top() + 9);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.caution);
    painter.drawPolygon(QPolygonF{{c + QPointF(0, -7), c + QPointF(8, 7), c + QPointF(-8, 7)}});
    painter.setPen(t.ink);
    painter.drawText(box, int(Qt::TextWordWrap), text);
}

void SectionView::paint_scale(QPainter& painter) const {
    const Theme& t = theme();
    const auto shown = m_result ? m_result->picture.shown : FieldPicture::Shown{};
    const double low = shown.high > 0 ? shown.low : m_low, high = shown.high > 0 ? shown.high : m_high;
    const QRectF bar(width() - 44, 104, 12, std::min(240, height() - 200));
    painter.setFont(small_font());
    const double label = painter.fontMetrics().horizontalAdvance(spoken(shown.label));
    paint_ground(painter, QRectF(bar.right() - label - 2, bar.top() - 32, label + 12, 24));
    paint_ground(painter, bar.adjusted(-42, -10, 6, 10));
    for (int y = 0; y < int(bar.height()); ++y) {
        const Rgb c = field_colour(1 - y / bar.height());
        painter.fillRect(QRectF(bar.left(), bar.top() + y, bar.width(), 1.2), QColor(c.r, c.g, c.b));
    }
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(bar);
    painter.setFont(small_font());
    painter.setPen(t.ink);
    for (int k = 0; k <= 4; ++k) {
        const double value = low + (high - low) * k / 4;
        const double y = bar.bottom() - bar.height() * k / 4;
        painter.drawText(QRectF(bar.left() - 50, y - 8, 44, 16), Qt::AlignRight | Qt::AlignVCenter,
                         high < 10 ? QString::number(value, 'f', 2) : QString::number(value, 'g', 3));
    }
    painter.setPen(t.soft);
    painter.drawText(QRectF(bar.right() - 300, bar.top() - 28, 304, 16), Qt::AlignRight, spoken(shown.label));
}

} // namespace mavlo::app
