#include "section/section_view.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QtMath>
#include <cmath>

namespace mavlo::app {

SectionView::SectionView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_material(new PartMaterial(document, this))
    , m_editor(new QLineEdit(this)) {
    setObjectName(QStringLiteral("section"));
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

bool SectionView::on_ring(QPointF position) const {
    if (m_close_up || m_little) return false;
    const QPointF d = position - m_frame.centre();
    return std::abs(std::hypot(d.x(), d.y()) - ring_radius()) < 11;
}

void SectionView::turn_to(QPointF position) {
    const QPointF d = position - m_frame.centre();
    set_angle(std::atan2(-d.y(), d.x()) + m_ring_offset);
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

void SectionView::mousePressEvent(QMouseEvent* event) {
    setFocus();
    m_press = event->position();
    m_moved = false;
    if (m_tool && event->button() == Qt::LeftButton && m_tool->press(m_press, m_frame, m_angle)) return;
    if (event->button() == Qt::MiddleButton || event->button() == Qt::RightButton) {
        m_grab = Grab::Pan;
        return;
    }
    const auto* label = m_editable ? m_dimensions.at(m_press, m_frame) : nullptr;
    if (label) {
        m_grab = Grab::Dimension;
        m_grabbed = *label;
        m_start_value = m_document.value(label->mark.path);
        m_gesture = Document::next_gesture();
    } else if (on_ring(m_press)) {
        m_grab = Grab::Ring;
        const QPointF d = m_press - m_frame.centre();
        const QPointF to_handle = ring_handle() - m_press;
        // Grabbed by its handle the ring turns with the hand; elsewhere the handle jumps there.
        m_ring_offset = std::hypot(to_handle.x(), to_handle.y()) < 14 ? m_angle - std::atan2(-d.y(), d.x()) : 0;
        turn_to(m_press);
    } else {
        m_grab = Grab::Pan;
    }
}

void SectionView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF position = event->position();
    if (m_tool && m_grab == Grab::None && m_tool->move(position, m_frame, m_angle)) {
        say_reading(position);
        return;
    }
    if (m_grab != Grab::None && (position - m_press).manhattanLength() > 3) m_moved = true;
    switch (m_grab) {
    case Grab::Dimension:
        if (m_moved) drag_dimension(position);
        return;
    case Grab::Ring:
        turn_to(position);
        return;
    case Grab::Pan:
        if (!m_moved) return;
        m_frame.pan(position - m_press);
        m_press = position;
        replace_labels();
        update();
        return;
    case Grab::None:
        break;
    }
    const auto* label = m_editable ? m_dimensions.at(position, m_frame) : nullptr;
    const std::string hot = label ? label->mark.path : std::string();
    setCursor(label || on_ring(position) ? Qt::PointingHandCursor : Qt::ArrowCursor);
    if (hot != m_hot) {
        set_hot(hot);
        Q_EMIT hot_changed(hot);
    }
    say_reading(position);
}

/// What else can be done with the dimension under the cursor.
void SectionView::offer_menu(QPoint at) {
    const auto* label = m_editable ? m_dimensions.at(m_press, m_frame) : nullptr;
    const Parameter* parameter = label ? find_parameter(label->mark.path, m_document.design()) : nullptr;
    if (!parameter) return;
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("dimension_menu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    auto* vary = menu->addAction(tr("Vary “%1” in a sweep").arg(QString::fromStdString(parameter->label)));
    connect(vary, &QAction::triggered, this, [this, path = label->mark.path] { Q_EMIT vary_wanted(path); });
    menu->popup(at);
}

void SectionView::drag_dimension(QPointF to) {
    const Point moved = m_frame.to_metres(to) - m_frame.to_metres(m_press);
    const Point local = rotated(moved, -m_grabbed.turn);
    const Parameter* parameter = find_parameter(m_grabbed.mark.path, m_document.design());
    const double value = m_start_value + dot(local, m_grabbed.mark.gradient);
    const double per_pixel = norm(m_grabbed.mark.gradient) / m_frame.scale();
    const double rounded = rounded_to_step(*parameter, value, per_pixel);
    m_document.set_text(m_grabbed.mark.path, QString::fromStdString(text_for(*parameter, rounded)), m_gesture);
}

void SectionView::mouseReleaseEvent(QMouseEvent* event) {
    if (m_tool && m_grab == Grab::None && m_tool->release(event->position(), m_frame, m_angle)) return;
    const Grab grab = m_grab;
    m_grab = Grab::None;
    if (event->button() == Qt::RightButton && !m_moved) return offer_menu(event->globalPosition().toPoint());
    if (grab == Grab::Dimension && !m_moved)
        type_dimension(m_grabbed);
    else if (grab == Grab::Dimension)
        follow_document();
    if (m_close_up && !m_moved && key_plan().contains(event->position())) {
        set_close_up(false);
        return;
    }
    if (grab == Grab::Pan && !m_moved && event->button() == Qt::LeftButton) {
        const RegionPick pick = part_at(m_frame.to_metres(event->position()));
        set_selected(pick.region);
        Q_EMIT part_selected(pick.region, pick.material);
        if (m_editable) m_material->show_at(event->position(), pick.material);
    }
}

void SectionView::mouseDoubleClickEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (m_tool && m_tool->double_click(at)) return;
    if (m_dimensions.at(at, m_frame) || on_ring(at)) return;
    // On a part it goes into the close-up, beside the section back to what fits.
    if (m_editable && !m_close_up && !part_at(m_frame.to_metres(at)).region.empty())
        set_close_up(true);
    else
        fit();
}

void SectionView::wheelEvent(QWheelEvent* event) {
    m_frame.zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
    replace_labels();
    update();
}

void SectionView::keyPressEvent(QKeyEvent* event) {
    if (m_tool && m_tool->key(*event)) return;
    const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 1;
    switch (event->key()) {
    case Qt::Key_Left:
        set_angle(m_angle + qDegreesToRadians(step));
        break;
    case Qt::Key_Right:
        set_angle(m_angle - qDegreesToRadians(step));
        break;
    case Qt::Key_Home:
        set_angle(0);
        break;
    case Qt::Key_Plus:
        m_frame.zoom(1.25, rect().center());
        break;
    case Qt::Key_Minus:
        m_frame.zoom(0.8, rect().center());
        break;
    case Qt::Key_0:
        fit();
        break;
    case Qt::Key_C:
        if (m_editable) set_close_up(!m_close_up);
        break;
    case Qt::Key_Escape:
        set_close_up(false);
        break;
    default:
        QWidget::keyPressEvent(event);
        return;
    }
    replace_labels();
    update();
}

void SectionView::leaveEvent(QEvent*) {
    if (!m_hot.empty()) {
        set_hot({});
        Q_EMIT hot_changed({});
    }
    Q_EMIT reading({});
}

void SectionView::type_dimension(const DimensionLayer::Label& label) {
    m_typed_path = label.mark.path;
    m_editor->setText(QString::fromStdString(m_document.design().text(label.mark.path)));
    const double width = std::max(110.0, label.box.width() + 20);
    const double left = label.box.left() < 160 ? std::max(8.0, label.box.right() - width + 8)
                                               : label.box.center().x() - width / 2;
    m_editor->setGeometry(int(left), int(label.box.center().y()) - 14, int(width), 28);
    m_editor->show();
    m_editor->selectAll();
    m_editor->setFocus();
}

void SectionView::take_typed() {
    const auto problem = m_document.set_text(m_typed_path, m_editor->text());
    if (problem) Q_EMIT refused(QString::fromStdString(to_string(*problem)));
    m_editor->hide();
    setFocus();
}

void SectionView::say_reading(QPointF position) {
    const Point p = m_frame.to_metres(position);
    QString text = QStringLiteral("r %1 mm   %2°")
                       .arg(norm(p) * 1e3, 0, 'f', 2)
                       .arg(std::fmod(qRadiansToDegrees(angle_of(p)) + 360, 360), 0, 'f', 1);
    if (const RegionPick pick = part_at(p); m_editable && !pick.region.empty()) {
        text += QStringLiteral("   ") +
                QString::fromStdString(pick.region).replace(QLatin1Char('.'), QLatin1Char(' '));
        if (!pick.material.empty())
            text += QStringLiteral(": ") + QString::fromStdString(m_document.design().text(pick.material));
    }
    if (m_result && m_overlays.needs_field())
        if (const auto field = read_field(m_result->picture, p)) {
            const auto& shown = m_result->picture.shown;
            text += QStringLiteral("   %1 %2 %3   A %4 mWb/m")
                        .arg(QString::fromStdString(shown.symbol))
                        .arg(field->shown, 0, 'f', 3)
                        .arg(QString::fromStdString(shown.unit))
                        .arg(field->potential * 1e3, 0, 'f', 2);
        }
    Q_EMIT reading(text);
}

} // namespace mavlo::app
