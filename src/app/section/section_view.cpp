#include "section/section_view.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "section/section_accessible.h"
#include "shell/theme.h"

#include <QPainter>
#include <QtMath>
#include <cmath>

namespace mavlo::app {

SectionView::SectionView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_material(new PartMaterial(document, this))
    , m_editor(new QLineEdit(this)) {
    install_section_accessible();
    setObjectName(QStringLiteral("section"));
    setAccessibleName(tr("Section of the machine"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(420, 360);
    m_editor->hide();
    m_editor->setObjectName(QStringLiteral("dimension_editor"));
    m_editor->installEventFilter(this);
    connect(m_editor, &QLineEdit::returnPressed, this, &SectionView::take_typed);
    connect(m_editor, &QLineEdit::editingFinished, m_editor, &QWidget::hide);
    connect(&document, &Document::changed, this, &SectionView::follow_document);
    follow_document();
}

void SectionView::set_editable(bool on) {
    if (!on) set_close_up(false);
    m_editable = on;
    take_housing();
    m_editor->hide();
    m_material->hide();
    update();
}

void SectionView::make_little() {
    m_little = true;
    // What stands beside other things has no fields to be found by their names.
    for (QWidget* field : std::initializer_list<QWidget*>{m_editor, m_material})
        field->setObjectName(QString());
    setMinimumSize(150, 130);
    fit();
}

void SectionView::set_overlays(const OverlaySet& overlays) {
    const bool colours_change = !overlays.colours() != !m_overlays.colours();
    m_overlays = overlays;
    if ((m_close_up ? colours_change : overlay_room() != m_fitted_room) && m_frame.is_fitted()) fit();
    update();
}

void SectionView::set_result(std::shared_ptr<const LiveResult> result) {
    m_result = std::move(result);
    update();
}

void SectionView::set_angle(double radians) {
    m_angle = std::remainder(radians, 2 * pi);
    if (m_angle < -1e-12) m_angle += 2 * pi;
    if (const auto built = m_document.built(); m_close_up && built) m_close_up = close_up_of(*built, m_angle);
    replace_labels();
    update();
    Q_EMIT angle_changed(m_angle);
}

void SectionView::set_hot(const std::string& path) {
    if (path == m_hot) return;
    m_hot = path;
    update();
}

void SectionView::set_selected(const std::string& region) {
    m_selected = region;
    m_material->hide();
    replace_labels();
    update();
}

void SectionView::set_range(double low, double high) {
    m_low = low;
    m_high = high;
    update();
}

void SectionView::follow_document() {
    const auto built = m_document.built();
    if (m_document.is_good()) find_housing();
    if (built && m_close_up) m_close_up = close_up_of(*built, m_angle);
    if (built && m_close_up && m_frame.is_fitted() && m_grab != Grab::Dimension)
        fit_close_up();
    else if (built && m_frame.is_fitted() &&
             (std::abs(shown_radius() - m_fitted_radius) > 1e-9 || overlay_room() != m_fitted_room) &&
             m_grab != Grab::Dimension)
        fit();
    replace_labels();
    update();
}

void SectionView::fit() {
    if (m_close_up) {
        fit_close_up();
        return;
    }
    const auto built = m_document.built();
    if (!built) return;
    m_fitted_radius = shown_radius();
    m_fitted_room = overlay_room();
    if (m_little) {
        m_frame.fit(QRectF(rect()).adjusted(4, 4, -4, -4), m_fitted_radius);
        update();
        return;
    }
    const double radius_in_pixels = 52 + overlay_room(); // ring and its ticks
    const QRectF room(168, 96, width() - 168 - 92, height() - 96 - 48);
    const double size = std::min(room.width(), room.height());
    m_frame.fit(QRectF(room.center() - QPointF(size / 2, size / 2), QSizeF(size, size))
                    .adjusted(radius_in_pixels - 30, radius_in_pixels - 30, 30 - radius_in_pixels,
                              30 - radius_in_pixels),
                m_fitted_radius);
    replace_labels();
    update();
}

double SectionView::shown_radius() const {
    const auto built = m_document.built();
    const double own = built ? built->drawing.outer_radius : 0;
    return m_housing && !m_close_up ? std::max(own, m_housing->reach) : own;
}

void SectionView::set_housing(bool on) {
    if (on == m_wants_housing) return;
    m_wants_housing = on;
    take_housing();
    update();
}

void SectionView::take_housing() {
    const bool had = m_housing.has_value();
    find_housing();
    if (had == m_housing.has_value()) return;
    if (m_frame.is_fitted())
        fit();
    else
        replace_labels();
}

void SectionView::find_housing() {
    const auto built = m_document.built();
    m_housing.reset();
    if (m_wants_housing && m_editable && built)
        if (const auto cooling = cooling_of(built->machine, m_document.project().materials))
            m_housing = housing_section(built->machine, *cooling);
}

void SectionView::fit_close_up() {
    // Room for leaders to the left, for dimension lines and a field's scale to the right.
    const double left = 176, right = m_overlays.colours() ? 280 : 200;
    m_frame.fit(QRectF(left, 112, width() - left - right, height() - 112 - 36), m_close_up->corners(),
                upright - m_close_up->slot.middle);
    replace_labels();
    update();
}

void SectionView::set_close_up(bool on) {
    const auto built = m_document.built();
    if (!built || on == is_close_up()) return;
    m_editor->hide();
    m_material->hide();
    m_close_up = on ? std::optional(close_up_of(*built, m_angle)) : std::nullopt;
    fit();
    Q_EMIT close_up_changed(on);
}

QRectF SectionView::key_plan() const {
    return {16, height() - 128.0, 112, 112};
}

void SectionView::set_effects(DimensionEffects effects) {
    m_dimensions.set_effects(std::move(effects));
    replace_labels();
    update();
}

void SectionView::replace_labels() {
    const bool housed = m_housing && !m_close_up;
    m_dimensions.set_housing(housed ? m_housing->marks : std::vector<DimensionMark>(),
                             housed ? m_housing->pitch : 1);
    m_dimensions.place(m_document, m_frame, size(), m_angle, m_selected, m_close_up ? &*m_close_up : nullptr);
}

void SectionView::resizeEvent(QResizeEvent*) {
    if (m_frame.is_fitted())
        fit();
    else
        replace_labels();
}

std::optional<QPointF> SectionView::label_position(const std::string& path) const {
    const auto* label = m_dimensions.find(path);
    return label ? std::optional(label->box.center()) : std::nullopt;
}

std::optional<QPointF> SectionView::handle_position(const std::string& path) const {
    const auto* label = m_dimensions.find(path);
    return label ? std::optional(DimensionLayer::handle(*label, m_frame)) : std::nullopt;
}

double SectionView::overlay_room() const {
    const auto built = m_document.built();
    return built ? m_overlays.room(built->machine) : 0;
}

double SectionView::ring_radius() const {
    return shown_radius() * m_frame.scale() + 22 + overlay_room();
}

QPointF SectionView::ring_handle() const {
    return m_frame.centre() + ring_radius() * QPointF(std::cos(m_angle), -std::sin(m_angle));
}

SectionView::RegionPick SectionView::part_at(Point p) const {
    const auto built = m_document.built();
    if (!built) return {};
    const double radius = norm(p);
    for (const DrawnBody& body : built->drawing.bodies) {
        const std::string side = body.turns ? "rotor" : "stator";
        if (radius < body.hole_radius)
            return {body.shaft ? "rotor.shaft" : body.turns ? "rotor.bore" : "stator.bore", {}};
        if (const DrawnRegion* region = region_at(body, rotated(p, body.turns ? -m_angle : 0)))
            return {region->path, region->material};
        if (radius >= body.inner_radius && radius <= body.outer_radius) return {side, body.steel};
    }
    return {};
}

} // namespace mavlo::app
