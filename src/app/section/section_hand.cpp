// What the hand does on the section: mouse and keys.

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "section/section_parts.h"
#include "section/section_view.h"
#include "shell/spoken.h"
#include "shell/told_problem.h"

#include <QMenu>
#include <QMouseEvent>
#include <QtMath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {

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
    auto* vary = menu->addAction(tr("Vary “%1” in a sweep").arg(spoken(parameter->label)));
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
    if (!m_moved && m_problem_box.contains(event->position()) && !m_document.problems().empty()) {
        Q_EMIT hot_changed(m_document.problems().front().path);
        return;
    }
    if (grab == Grab::Pan && !m_moved && event->button() == Qt::LeftButton) {
        const RegionPick pick = part_at(m_frame.to_metres(event->position()));
        take_part(pick.region, pick.material);
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
    case Qt::Key_P:
        if (m_editable) step_part(event->modifiers() & Qt::ShiftModifier ? -1 : 1);
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
    if (problem) Q_EMIT refused(told(*problem));
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

void SectionView::step_part(int by) {
    const auto built = m_document.built();
    const auto parts = built ? section_parts(*built) : std::vector<SectionPart>{};
    if (parts.empty()) return;
    const auto now = std::find_if(parts.begin(), parts.end(),
                                  [&](const SectionPart& part) { return part.region == m_selected; });
    const int count = int(parts.size()), at = now == parts.end() ? (by > 0 ? -1 : 0) : int(now - parts.begin());
    const SectionPart& next = parts[std::size_t((at + by + count) % count)];
    take_part(next.region, next.material);
    setAccessibleDescription(tr("in hand: %1").arg(next.words));
    Q_EMIT reading(next.words);
}

void SectionView::take_part(const std::string& region, const std::string& material) {
    set_selected(region);
    Q_EMIT part_selected(region, material);
}

void SectionView::turn_to(QPointF position) {
    const QPointF d = position - m_frame.centre();
    set_angle(std::atan2(-d.y(), d.x()) + m_ring_offset);
}

bool SectionView::on_ring(QPointF position) const {
    if (m_close_up || m_little) return false;
    const QPointF d = position - m_frame.centre();
    return std::abs(std::hypot(d.x(), d.y()) - ring_radius()) < 11;
}

} // namespace mavlo::app
