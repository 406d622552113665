#include "draw/shapes/sketch_tool.h"

#include "draw/shapes/dimension_table.h"
#include "draw/shapes/typed_point.h"
#include "quantity/formula.h"
#include "shell/theme.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

constexpr double reach_in_pixels = 9, handle_radius = 4.5;

QPainterPath path_of(const std::vector<Piece>& pieces, const auto& to_screen) {
    QPainterPath path;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (i == 0 || distance(pieces[i - 1].b, pieces[i].a) > 1e-9) path.moveTo(to_screen(pieces[i].a));
        const int steps = pieces[i].straight() ? 1 : 2 + int(std::abs(sweep_of(pieces[i])) / 0.05);
        for (int k = 1; k <= steps; ++k) path.lineTo(to_screen(point_at(pieces[i], double(k) / steps)));
    }
    return path;
}

} // namespace

SketchTool::SketchTool(Document& document, SectionView& view, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_view(view)
    , m_typed(new QLineEdit(&view)) {
    m_typed->setObjectName(QStringLiteral("sketch_typed"));
    m_typed->setPlaceholderText(SketchTool::tr("8   8<30   12, 3   @4, 2"));
    m_typed->setToolTip(
        SketchTool::tr("A length towards the cursor, a length at an angle, coordinates, or steps further"));
    m_typed->setFixedWidth(180);
    m_typed->hide();
    m_typed->installEventFilter(this);
    connect(&document, &Document::changed, this, [this] {
        const auto& shapes = m_document.design().shapes;
        if (std::none_of(shapes.begin(), shapes.end(),
                         [&](const FreeShape& s) { return s.name == m_selected; }))
            select({});
    });
}

const ShapeOutline* SketchTool::outline(const std::string& name) const {
    const auto built = m_document.built();
    if (!built) return nullptr;
    for (const ShapeOutline& shape : built->machine.values.shapes())
        if (shape.name == name) return &shape;
    return nullptr;
}

void SketchTool::begin(SketchKind kind) {
    cancel();
    m_sketch.emplace(kind);
    m_snapper.reset();
    m_said.clear();
    m_typed->clear();
    m_typed->move(24, m_view.height() - 44);
    m_typed->show();
    m_view.setFocus();
    Q_EMIT drawing_changed(true);
    m_view.update();
}

void SketchTool::begin_trim() {
    cancel();
    m_trimming = true;
    m_view.setFocus();
    say(SketchTool::tr(
        "Trim: click the part of the shape that shall go; it ends where lines cross it. Esc leaves."));
    Q_EMIT drawing_changed(true);
}

void SketchTool::cancel() {
    if (!m_sketch && !m_trimming) return;
    m_sketch.reset();
    m_trimming = false;
    m_said.clear();
    m_typed->hide();
    Q_EMIT drawing_changed(false);
    m_view.update();
}

void SketchTool::select(const std::string& name) {
    if (name == m_selected) return;
    m_selected = name;
    Q_EMIT selection_changed(name);
    m_view.update();
}

Point SketchTool::to_pitch(Point world) const {
    return rotated(world, -m_place.axis - (m_place.side == "rotor" ? m_rotor_angle : 0));
}

Point SketchTool::to_world(Point local) const {
    return rotated(local, m_place.axis + (m_place.side == "rotor" ? m_rotor_angle : 0));
}

Snapped SketchTool::snapped(QPointF at, const std::optional<Point>& from) {
    const ViewFrame& frame = m_view.frame();
    const Point p = to_pitch(frame.to_metres(at));
    const double grid = grid_step(frame.scale());
    Snapped snap = m_snapper->snap(p, reach_in_pixels / frame.scale(), grid, from);
    // Of a circle it is the radius that is even.
    if (snap.loose && m_sketch && m_sketch->kind() == SketchKind::Circle && !m_sketch->empty()) {
        const Point centre = *m_sketch->last(), d = p - centre;
        if (norm(d) > 0)
            snap = {centre + (std::max(1.0, std::round(norm(d) / grid)) * grid / norm(d)) * d, true,
                    SketchTool::tr("grid")};
    }
    return snap;
}

/// The cursor's place on the pitch under it; the first point settles the pitch.
void SketchTool::aim(QPointF at) {
    if (m_sketch->empty()) {
        const Machine& machine = m_document.built()->machine;
        m_place = pitch_at(machine, m_view.frame().to_metres(at), m_rotor_angle);
        m_snapper.emplace(machine, m_place.side);
    }
    m_cursor = snapped(at, turned_from());
}

PitchPlace SketchTool::first_pitch(const std::string& side) const {
    const Section& section = m_document.built()->machine.section;
    return {side, (side == "rotor" ? section.rotor() : section.stator()).tile.turn};
}

bool SketchTool::press(QPointF at, const ViewFrame& frame, double rotor_angle) {
    m_rotor_angle = rotor_angle;
    if (!m_document.built()) return false;
    if (m_trimming) {
        if (const ShapeOutline* shape = outline(m_selected)) {
            m_place = first_pitch(shape->side);
            trim(to_pitch(frame.to_metres(at)));
        }
        return true;
    }
    if (!m_sketch) return grab_corner(at);
    aim(at);
    // Near the first corner the outline closes.
    if (const auto first = m_sketch->first();
        first && m_sketch->can_close() &&
        distance(to_pitch(frame.to_metres(at)), *first) < reach_in_pixels / frame.scale())
        m_cursor.at = *first;
    add_point(m_cursor.at);
    return true;
}

bool SketchTool::move(QPointF at, const ViewFrame&, double rotor_angle) {
    m_rotor_angle = rotor_angle;
    if (m_grabbed >= 0) {
        drag_to(snapped(at, std::nullopt).at);
        return true;
    }
    if (!m_sketch) return false;
    if (!m_document.built()) return true;
    aim(at);
    m_view.update();
    return true;
}

bool SketchTool::release(QPointF, const ViewFrame&, double) {
    const bool took = m_grabbed >= 0 || m_sketch || m_trimming;
    m_grabbed = -1;
    return took;
}

bool SketchTool::double_click(QPointF) {
    if (!m_sketch) return false;
    if (m_sketch->can_close()) finish();
    return true;
}

/// Where lines at even angles start: the sides of a rectangle and a circle's radius have no angle.
std::optional<Point> SketchTool::turned_from() const {
    return m_sketch->kind() == SketchKind::Polygon ? m_sketch->last() : std::nullopt;
}

void SketchTool::add_point(Point local) {
    m_said.clear();
    if (m_sketch->add(local)) finish();
    m_view.update();
}

void SketchTool::add_dimension() {
    Design design = m_document.design();
    DrawnDimension added{dimension_name(design.dimensions), m_place.side, *m_sketch->first(),
                         *m_sketch->last()};
    const Values& values = m_document.built()->machine.values;
    if (const auto drawn = design.drawings.find(added.side); drawn != design.drawings.end())
        for (Point* end : {&added.from, &added.to})
            *end = carried(*values.drawing(added.side), drawn->second, *end);
    design.dimensions.push_back(added);
    cancel();
    m_document.set_design(SketchTool::tr("dimension %1").arg(QString::fromStdString(added.name)), design);
}

/// Cut by what the pitch would be without the shape, and by the other shapes.
void SketchTool::trim(Point local) {
    const ShapeOutline* shape = outline(m_selected);
    Design without = m_document.design();
    std::erase_if(without.shapes, [&](const FreeShape& s) { return s.name == m_selected; });
    const auto plain = build_machine(without, m_document.project().materials);
    if (!plain) return say(QString::fromStdString(plain.problems().front().sentence));
    const auto corners = trimmed_corners(*shape, Snapper(*plain, shape->side).lines(), local);
    if (!corners) return say(QString::fromStdString(corners.problems().front().sentence));
    Design design = m_document.design();
    for (FreeShape& s : design.shapes)
        if (s.name == m_selected) s.corners = *corners;
    cancel();
    m_document.set_design(SketchTool::tr("trim %1").arg(QString::fromStdString(m_selected)), design);
}

void SketchTool::finish() {
    if (m_sketch->kind() == SketchKind::Dimension) return add_dimension();
    FreeShape shape = m_sketch->shape();
    Design design = m_document.design();
    shape.side = m_place.side;
    shape.use = m_use;
    shape.name = free_shape_name(design, m_use);
    design.shapes.push_back(shape);
    cancel();
    m_document.set_design(SketchTool::tr("draw %1").arg(QString::fromStdString(shape.name)), design);
    select(shape.name);
}

void SketchTool::take_typed() {
    if (!m_sketch) return;
    const QString text = m_typed->text();
    if (text.trimmed().isEmpty()) {
        if (m_sketch->can_close()) finish();
        return;
    }
    const Point from = m_sketch->last().value_or(Point{});
    auto point = typed_point(text, from, m_cursor.at);
    // A circle's radius and a rectangle's sides need no direction.
    if (m_sketch->kind() == SketchKind::Circle && !m_sketch->empty())
        if (const auto radius = typed_length(text)) point = from + Point{*radius, 0};
    if (m_sketch->kind() == SketchKind::Rectangle && !m_sketch->empty() && !text.contains('@'))
        if (auto sides = typed_point(QStringLiteral("@") + text, from, m_cursor.at)) point = sides;
    if (!point) {
        say(QString::fromStdString(point.problems().front().sentence));
        return;
    }
    m_typed->clear();
    if (!m_snapper)
        if (const auto built = m_document.built()) {
            m_place = first_pitch("rotor");
            m_snapper.emplace(built->machine, m_place.side);
        }
    m_cursor.at = *point;
    add_point(*point);
}

void SketchTool::say(const QString& sentence) {
    m_said = sentence;
    m_view.update();
}

bool SketchTool::eventFilter(QObject* watched, QEvent* event) {
    if (watched != m_typed || event->type() != QEvent::KeyPress) return QObject::eventFilter(watched, event);
    switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Escape:
        cancel();
        m_view.setFocus();
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter: // which would go on to the section and close the outline there
        take_typed();
        return true;
    default:
        return false;
    }
}

bool SketchTool::key(QKeyEvent& event) {
    if (m_trimming && event.key() == Qt::Key_Escape) {
        cancel();
        return true;
    }
    if (!m_sketch) {
        if (event.key() != Qt::Key_Delete || m_selected.empty()) return false;
        Design design = m_document.design();
        std::erase_if(design.shapes, [&](const FreeShape& s) { return s.name == m_selected; });
        m_document.set_design(SketchTool::tr("remove %1").arg(QString::fromStdString(m_selected)), design);
        return true;
    }
    switch (event.key()) {
    case Qt::Key_Escape:
        cancel();
        return true;
    case Qt::Key_Backspace:
        m_sketch->undo_point();
        m_view.update();
        return true;
    case Qt::Key_A:
        m_sketch->begin_arc();
        m_view.update();
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_sketch->can_close()) finish();
        return true;
    default:
        break;
    }
    const QString text = event.text();
    if (text.isEmpty() || !QStringLiteral("0123456789.-@").contains(text)) return false;
    m_typed->setFocus();
    m_typed->setText(text);
    return true;
}

std::optional<QPointF> SketchTool::corner_position(std::size_t corner) const {
    const ShapeOutline* shape = outline(m_selected);
    if (!shape || corner >= shape->corners.size()) return std::nullopt;
    const double turn = first_pitch(shape->side).axis + (shape->side == "rotor" ? m_view.angle() : 0);
    return m_view.frame().to_screen(rotated(shape->corners[corner], turn));
}

bool SketchTool::grab_corner(QPointF at) {
    const ShapeOutline* shape = outline(m_selected);
    if (!shape) return false;
    for (std::size_t i = 0; i < shape->corners.size(); ++i) {
        const QPointF d = *corner_position(i) - at;
        if (std::hypot(d.x(), d.y()) > handle_radius + 3) continue;
        m_place = first_pitch(shape->side);
        m_snapper.emplace(m_document.built()->machine, shape->side);
        m_grabbed = int(i);
        m_gesture = Document::next_gesture();
        return true;
    }
    return false;
}

void SketchTool::drag_to(Point local) {
    Design design = m_document.design();
    for (FreeShape& shape : design.shapes) {
        if (shape.name != m_selected) continue;
        std::string &x = shape.corners.empty() ? shape.x : shape.corners[std::size_t(m_grabbed)].x,
                    &y = shape.corners.empty() ? shape.y : shape.corners[std::size_t(m_grabbed)].y;
        if (is_formula(x) || is_formula(y))
            return say(SketchTool::tr("This corner follows a formula; change it in the table."));
        x = coordinate_text(local.x);
        y = coordinate_text(local.y);
    }
    m_document.set_design(SketchTool::tr("move a corner"), design, m_gesture);
}

void SketchTool::paint(QPainter& painter, const ViewFrame& frame, double) const {
    const Theme& t = theme();
    painter.setFont(small_font());
    if (const ShapeOutline* shape = outline(m_selected)) {
        painter.setBrush(t.sheet);
        painter.setPen(QPen(t.accent, 1.6));
        for (std::size_t i = 0; i < shape->corners.size(); ++i)
            if (const auto at = corner_position(i)) painter.drawEllipse(*at, handle_radius, handle_radius);
    }
    if (const auto built = m_document.built()) paint_dimensions(painter, frame, built->machine, m_view.angle());
    const auto to_screen = [&](Point p) { return frame.to_screen(to_world(p)); };
    QString words = m_said;
    if (m_sketch) {
        const auto pieces = m_sketch->preview(m_cursor.at);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.accent, 1.8));
        painter.drawPath(path_of(pieces, to_screen));
        const QPointF at = to_screen(m_cursor.at);
        painter.setPen(QPen(t.ink, 1.2));
        painter.drawLine(at - QPointF(7, 0), at + QPointF(7, 0));
        painter.drawLine(at - QPointF(0, 7), at + QPointF(0, 7));
        QString label = m_cursor.what;
        if (const auto from = m_sketch->last()) {
            const Point d = m_cursor.at - *from;
            label += SketchTool::tr("   %1 mm < %2°")
                         .arg(norm(d) * 1e3, 0, 'f', 3)
                         .arg(angle_of(d) * 180 / std::numbers::pi, 0, 'f', 1);
        } else {
            label += SketchTool::tr("   %1, %2 mm")
                         .arg(m_cursor.at.x * 1e3, 0, 'f', 3)
                         .arg(m_cursor.at.y * 1e3, 0, 'f', 3);
        }
        QColor ground = t.paper;
        ground.setAlphaF(0.9F);
        const QRectF box(at + QPointF(12, 10), QSizeF(painter.fontMetrics().horizontalAdvance(label) + 10, 18));
        painter.fillRect(box, ground);
        painter.drawText(box, Qt::AlignCenter, label);
        if (words.isEmpty())
            words = m_sketch->kind() == SketchKind::Circle
                        ? SketchTool::tr("Circle: its centre, then a point of it or its radius typed.")
                    : m_sketch->kind() == SketchKind::Rectangle
                        ? SketchTool::tr("Rectangle: two opposite corners, or the second typed as two sides.")
                    : m_sketch->kind() == SketchKind::Dimension
                        ? SketchTool::tr("Dimension: from a point or a line to the one that it shall move.")
                    : m_sketch->in_arc()
                        ? SketchTool::tr("Arc: a point on it, then its end.")
                        : SketchTool::tr("Corner after corner; A makes the next edge an arc, Backspace takes "
                                         "one back, Enter or the first corner closes.");
    }
    if (words.isEmpty()) return;
    const QRectF ground(208, m_view.height() - 40.0, painter.fontMetrics().horizontalAdvance(words) + 16, 22);
    painter.fillRect(ground, t.paper);
    painter.setPen(t.ink);
    painter.drawText(ground, Qt::AlignCenter, words);
}

} // namespace mavlo::app
