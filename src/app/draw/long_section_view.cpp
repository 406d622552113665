#include "draw/long_section_view.h"

#include "section/arrow_head.h"
#include "section/dimension_layer.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/told_problem.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int tall = 210;
constexpr double side_room = 90, top_room = 34, foot_room = 26, grip = 9; // pixels
constexpr double beyond = 16; ///< of an axial dimension's line from what it measures

QColor colour_of(LongSection::Kind kind) {
    using Kind = LongSection::Kind;
    const Theme& t = theme();
    switch (kind) {
    case Kind::Housing:
    case Kind::Shield:
        return t.tint(0.12);
    case Kind::Rib:
        return t.tint(0.05);
    case Kind::Channel:
        return t.field;
    case Kind::Steel:
        return t.stator_iron;
    case Kind::Winding:
        return t.slot;
    case Kind::Ends:
        return t.filled;
    case Kind::Magnets:
        return t.north_out;
    case Kind::Bars:
        return t.bar;
    case Kind::Rotor:
        return t.rotor_iron;
    case Kind::Shaft:
        return t.shaft;
    case Kind::Bearing:
        return t.soft;
    case Kind::Fan:
        return t.tint(0.3);
    }
    return t.sheet;
}

const Parameter* parameter_of(const Document& document, const std::string& path) {
    return find_parameter(path, document.design());
}

} // namespace

LongSectionView::LongSectionView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("long_section"));
    setFixedHeight(tall);
    setMouseTracking(true);
    setAccessibleName(tr("The machine cut along its axis"));
    connect(&document, &Document::changed, this, &LongSectionView::follow_document);
    follow_document();
}

/// The last good one stays while the design cannot be built.
void LongSectionView::follow_document() {
    const auto built = m_document.built();
    if (built && m_document.is_good()) {
        const auto cooling = cooling_of(built->machine, m_document.project().materials);
        m_missing = cooling ? QString() : told(cooling.problems().front());
        if (cooling) m_section = long_section(built->machine, *cooling);
    }
    update();
}

void LongSectionView::set_hot(const std::string& path) {
    if (path == m_hot) return;
    m_hot = path;
    update();
}

double LongSectionView::scale() const {
    const double wide = (width() - 2 * side_room) / (2 * m_section->half_length),
                 high = (height() - top_room - foot_room) / m_section->radius;
    return std::min(wide, high);
}

QPointF LongSectionView::placed(double z, double r) const {
    return {width() / 2.0 + z * scale(), height() - foot_room - r * scale()};
}

/// Axial ones clear of what they measure.
QLineF LongSectionView::drawn_line(const LongSection::Dimension& d) const {
    const QPointF a = placed(d.z0, d.r0), b = placed(d.z1, d.r1);
    if (!d.is_axial()) return {a, b};
    const double off = d.path == "housing.length"          ? -beyond - (m_section->radius - d.r0) * scale()
                       : d.path == "housing.channel_width" ? beyond
                       : d.r0 == 0                         ? beyond - 2
                                                           : 0;
    return {a + QPointF(0, off), b + QPointF(0, off)};
}

QPointF LongSectionView::handle(const std::string& path) const {
    if (!m_section) return {};
    for (const LongSection::Dimension& d : m_section->dimensions)
        if (d.path == path) return drawn_line(d).p2();
    return {};
}

const LongSection::Dimension* LongSectionView::at(QPointF position) const {
    const LongSection::Dimension* nearest = nullptr;
    double best = grip;
    if (!m_section) return nearest;
    for (const LongSection::Dimension& d : m_section->dimensions) {
        const double away = QLineF(position, drawn_line(d).p2()).length();
        if (away < best) best = away, nearest = &d;
    }
    return nearest;
}

void LongSectionView::mousePressEvent(QMouseEvent* event) {
    const auto* d = at(event->position());
    if (!d || event->button() != Qt::LeftButton) return;
    m_grabbed = *d;
    m_pressed = event->position();
    m_grabbed_scale = scale();
    m_gesture = Document::next_gesture();
}

void LongSectionView::mouseMoveEvent(QMouseEvent* event) {
    if (m_grabbed) return drag(event->position());
    const auto* d = at(event->position());
    const std::string hot = d ? d->path : std::string();
    setCursor(!d ? Qt::ArrowCursor : d->is_axial() ? Qt::SizeHorCursor : Qt::SizeVerCursor);
    if (hot == m_hot) return;
    set_hot(hot);
    // Rows of other pages would put this page away.
    if (hot.empty() || parameter_of(m_document, hot)->page == "Cooling") Q_EMIT hot_changed(hot);
}

void LongSectionView::drag(QPointF to) {
    const Parameter* parameter = parameter_of(m_document, m_grabbed->path);
    if (!parameter) return;
    const QPointF moved = to - m_pressed;
    const double way = m_grabbed->is_axial() ? moved.x() : -moved.y(),
                 per_pixel = m_grabbed->factor / m_grabbed_scale;
    const double wanted = std::max(std::abs(per_pixel), m_grabbed->value + way * per_pixel);
    const double rounded = rounded_to_step(*parameter, wanted, per_pixel);
    m_document.set_text(m_grabbed->path, QString::fromStdString(text_for(*parameter, rounded)), m_gesture);
}

void LongSectionView::mouseReleaseEvent(QMouseEvent*) {
    m_grabbed.reset();
}

void LongSectionView::leaveEvent(QEvent*) {
    if (!m_grabbed && !m_hot.empty()) {
        set_hot({});
        Q_EMIT hot_changed({});
    }
}

void LongSectionView::paint_body(QPainter& painter, const LongSection::Body& body) const {
    painter.setPen(QPen(theme().ink, 0.8));
    painter.setBrush(colour_of(body.kind));
    for (double z : {body.z, -body.z - body.length}) {
        painter.drawRect(QRectF(placed(z, body.r + body.height), placed(z + body.length, body.r)));
        if (!body.both_ends) break;
    }
}

void LongSectionView::paint_dimension(QPainter& painter, const LongSection::Dimension& d) const {
    const Parameter* parameter = parameter_of(m_document, d.path);
    if (!parameter) return;
    const Theme& t = theme();
    const bool hot = d.path == m_hot || (m_grabbed && m_grabbed->path == d.path);
    const QColor ink = hot ? t.accent : t.ink;
    const QLineF line = drawn_line(d);
    painter.setPen(QPen(t.soft, 0.7));
    painter.drawLine(placed(d.z0, d.r0), line.p1());
    painter.drawLine(placed(d.z1, d.r1), line.p2());
    painter.setPen(QPen(ink, hot ? 1.6 : 1));
    painter.setBrush(ink);
    painter.drawLine(line);
    paint_arrow_head(painter, line.p2(), line.p1(), {7, 2.5});
    paint_arrow_head(painter, line.p1(), line.p2(), {7, 2.5});
    const QString text = hot ? tr("%1 %2").arg(spoken(parameter->label), dimension_text(*parameter, d.value))
                             : dimension_text(*parameter, d.value);
    const QSizeF size(painter.fontMetrics().horizontalAdvance(text) + 8, 15);
    const bool leftmost = d.path == "housing.thickness"; // it stands clear of the housing
    const QPointF at = d.is_axial() && line.length() > size.width()
                           ? line.center() - QPointF(size.width() / 2, 8)
                       : d.is_axial() ? line.p2() + QPointF(6, -8)
                       : leftmost     ? line.center() - QPointF(size.width() + 6, 8)
                                      : line.p2() + QPointF(6, -16);
    QColor ground = t.paper;
    ground.setAlphaF(0.85F);
    painter.fillRect(QRectF(at, size), ground);
    painter.drawText(QRectF(at, size), Qt::AlignCenter, text);
}

void LongSectionView::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.paper);
    painter.setPen(t.line);
    painter.drawLine(0, 0, width(), 0);
    painter.setFont(small_font());
    if (!m_section) {
        painter.setPen(t.soft);
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, m_missing);
        return;
    }
    painter.setOpacity(m_document.is_good() && m_missing.isEmpty() ? 1 : 0.5);
    for (const LongSection::Body& body : m_section->bodies) paint_body(painter, body);
    painter.setPen(QPen(t.soft, 1, Qt::DashDotLine));
    painter.drawLine(placed(-m_section->half_length, 0), placed(m_section->half_length, 0));
    for (const LongSection::Dimension& d : m_section->dimensions) paint_dimension(painter, d);
    painter.setPen(t.soft);
    painter.drawText(QRectF(12, 6, 300, 16), Qt::AlignLeft, tr("cut along the axis, mm"));
}

} // namespace mavlo::app
