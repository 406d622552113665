#include "section/dimension_layer.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "section/sheet_dimensions.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QFontMetricsF>
#include <QRegularExpression>
#include <QtMath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double column_right = 150; ///< right edge of the column of labels
constexpr double grab = 9;           ///< pixels round a handle

/// Turns of whole pitches that bring a mark on angle 0 nearest to the wanted angle.
double turn_towards(double wanted, double pitch, double offset) {
    return std::round((wanted - offset) / pitch) * pitch + offset;
}

bool is_rotor(const std::string& path) {
    return path.starts_with("rotor.") || path == "gap";
}

/// Whether a dimension is of the part in hand: "stator.slot.mouth" has those of "stator.slot", iron those that
/// are in no part of their own.
bool belongs_to(const std::string& path, const std::string& part) {
    if (part.empty()) return true;
    if (part == "stator" || part == "rotor") return path.starts_with(part + ".");
    const std::string group = part.substr(0, part.find('.', part.find('.') + 1));
    return path.starts_with(group + ".");
}

/// What stands on the whole section while no part is in hand.
bool is_of_the_whole(const std::string& path) {
    return path == "stator.outer_diameter" || path == "stator.bore_diameter" ||
           path == "rotor.shaft_diameter" || path == "gap";
}

Point turned_middle(const DimensionLayer::Label& label) {
    return rotated(0.5 * (label.mark.a + label.mark.b), label.turn);
}

void arrow(QPainter& painter, QPointF tip, QPointF from) {
    const QPointF d = tip - from;
    const double length = std::hypot(d.x(), d.y());
    if (length < 1e-6) return;
    const QPointF u = d / length, v(-u.y(), u.x());
    const QPolygonF head{{tip, tip - 7 * u + 2.5 * v, tip - 7 * u - 2.5 * v}};
    painter.drawPolygon(head);
}

void double_arrow(QPainter& painter, QPointF a, QPointF b) {
    painter.drawLine(a, b);
    if (std::hypot(b.x() - a.x(), b.y() - a.y()) > 18) {
        arrow(painter, a, b);
        arrow(painter, b, a);
        return;
    }
    // too short for arrows inside: they point inwards from both ends
    const QPointF d = b - a;
    const double length = std::max(1e-6, std::hypot(d.x(), d.y()));
    const QPointF u = d / length;
    painter.drawLine(a - 16 * u, a);
    painter.drawLine(b, b + 16 * u);
    arrow(painter, a, a - 16 * u);
    arrow(painter, b, b + 16 * u);
}

/// The arc of an angle's mark.
void draw_angle(QPainter& painter, const ViewFrame& frame, const DimensionLayer::Label& label) {
    const Point a = rotated(label.mark.a, label.turn), b = rotated(label.mark.b, label.turn);
    const double radius = norm(a) * frame.scale();
    const QRectF circle(frame.centre() - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius));
    const double from = qRadiansToDegrees(angle_of(a) + frame.turn()),
                 sweep = qRadiansToDegrees(std::remainder(angle_of(b) - angle_of(a), 2 * pi));
    painter.setBrush(Qt::NoBrush);
    painter.drawArc(circle, int(from * 16), int(sweep * 16));
    const double turn = std::copysign(12 / std::max(12.0, radius), sweep); // 12 pixels along the arc
    if (std::abs(qDegreesToRadians(sweep)) < 3 * std::abs(turn)) return;
    painter.setBrush(painter.pen().color());
    arrow(painter, frame.to_screen(a), frame.to_screen(rotated(a, turn)));
    arrow(painter, frame.to_screen(b), frame.to_screen(rotated(b, -turn)));
}

} // namespace

QString dimension_text(const Parameter& parameter, double si) {
    if (parameter.unit.empty())
        return QString::number(si, 'f', 3).remove(QRegularExpression(QStringLiteral("0$")));
    const double number = to_unit(si, *find_unit(parameter.unit));
    const int decimals = std::abs(number) >= 100 ? 1 : 2;
    return QString::number(number, 'f', decimals) + (parameter.unit == "deg" ? QStringLiteral("°") : QString());
}

double rounded_to_step(const Parameter& parameter, double si, double per_pixel) {
    const double factor = parameter.unit.empty() ? 1 : find_unit(parameter.unit)->factor;
    const double raw = std::max(1e-6, std::abs(per_pixel) / factor);
    const double decade = std::pow(10, std::floor(std::log10(raw)));
    const double step = raw / decade < 2 ? decade : raw / decade < 5 ? 2 * decade : 5 * decade;
    return std::round(si / factor / step) * step * factor;
}

void DimensionLayer::place(const Document& document, const ViewFrame& frame, QSizeF view, double rotor_angle,
                           const std::string& part, const CloseUp* close_up) {
    m_labels.clear();
    const auto built = document.built();
    if (!built) return;
    std::vector<DimensionMark> marks = m_housing;
    const bool housed = !marks.empty();
    for (const DimensionMark& mark : built->machine.marks)
        if (!housed || mark.path == "stator.outer_diameter") marks.push_back(mark);
    for (const DimensionMark& mark : marks) {
        const Parameter* parameter = find_parameter(mark.path, document.design());
        Label label{mark, 0, {}, {}, {}, false};
        QString word = spoken(parameter->label).toLower();
        if (mark.kind == DimensionMark::Kind::Diameter)
            word.replace(QStringLiteral("diameter"), QStringLiteral("⌀"));
        label.value = dimension_text(*parameter, document.value(mark.path));
        if (const auto effect = m_effects.texts.find(mark.path); effect != m_effects.texts.end())
            label.value += QStringLiteral("  (%1)").arg(effect->second);
        label.text = word + ' ' + label.value;
        label.wrong = std::any_of(document.problems().begin(), document.problems().end(),
                                  [&](const Problem& p) { return p.path == mark.path; });
        const bool effect = m_effects.texts.contains(mark.path);
        label.shown = close_up || housed || label.wrong || effect ||
                      (part.empty() ? is_of_the_whole(mark.path) : belongs_to(mark.path, part));
        m_labels.push_back(label);
    }
    if (close_up)
        place_close_up(built->machine, frame, view, *close_up);
    else
        place_round(built->machine, frame, view, rotor_angle, part.empty() && !housed);
}

void DimensionLayer::place_close_up(const Machine& machine, const ViewFrame& frame, QSizeF view,
                                    const CloseUp& close_up) {
    const auto part_of = [&](const DimensionMark& mark) -> const CloseUp::Part& {
        const bool circle = mark.kind == DimensionMark::Kind::Diameter,
                   inside = norm(mark.b) < machine.middle_of_gap();
        const bool rotor = is_rotor(mark.path) || (circle && inside != machine.outer_rotor());
        return rotor ? close_up.pole : close_up.slot;
    };
    std::erase_if(m_labels, [&](const Label& label) { // what lies beyond the close-up
        const CloseUp::Part& part = part_of(label.mark);
        const double r = norm(label.mark.b), slack = 1e-3 * machine.middle_of_gap();
        return label.mark.kind == DimensionMark::Kind::Diameter &&
               (r < std::min(part.from, part.to) - slack || r > std::max(part.from, part.to) + slack);
    });
    for (Label& label : m_labels) {
        const CloseUp::Part& part = part_of(label.mark);
        label.mirrored =
            (&part == &close_up.pole ? machine.section.rotor() : machine.section.stator()).tile.mirrored;
        label.turn = part.middle + (label.mark.kind == DimensionMark::Kind::Diameter ? part.half : 0);
    }
    place_on_sheet(m_labels, frame, close_up.shape(frame).boundingRect(),
                   QRectF(12, 120, view.width() - 24, view.height() - 260)); // over the key plan
}

void DimensionLayer::place_round(const Machine& machine, const ViewFrame& frame, QSizeF view,
                                 double rotor_angle, bool whole) {
    const QFontMetricsF metrics(small_font());
    std::vector<Label*> column, middle;
    const auto in_column = [](const DimensionMark& m) {
        return m.path != "stator.outer_diameter" && m.path != "rotor.shaft_diameter";
    };
    std::size_t all = 0;
    for (Label& label : m_labels) {
        const bool aside = in_column(label.mark);
        all += aside;
        // With no part in hand a leader would cross all that is drawn: those stand in the shaft.
        if (label.shown && label.mark.path != "stator.outer_diameter" &&
            (!aside || (whole && is_of_the_whole(label.mark.path))))
            middle.push_back(&label);
        else if (label.shown && aside)
            column.push_back(&label);
    }
    int index = 0;
    for (Label& label : m_labels) {
        const DimensionMark& mark = label.mark;
        if (in_column(mark)) {
            const double wanted = pi * (0.80 + 0.42 * (index++ + 0.5) / double(all));
            if (mark.kind == DimensionMark::Kind::Diameter)
                label.turn = wanted - pi;
            else if (is_rotor(mark.path))
                label.turn = turn_towards(wanted, machine.section.rotor().tile.pitch, rotor_angle);
            else
                label.turn =
                    turn_towards(wanted, m_housing.empty() ? 2 * pi / machine.slots : m_housing_pitch, 0);
        }
        const Point at =
            mark.kind == DimensionMark::Kind::Diameter ? rotated(mark.a, label.turn) : turned_middle(label);
        label.anchor = frame.to_screen(at);
    }
    std::sort(column.begin(), column.end(),
              [](const Label* a, const Label* b) { return a->anchor.y() < b->anchor.y(); });
    const double top = 138, bottom = view.height() - 70;
    const double step = column.size() > 1 ? std::min(72.0, (bottom - top) / double(column.size() - 1)) : 0;
    const double start = (top + bottom) / 2 - step * double(column.size() - 1) / 2;
    for (std::size_t i = 0; i < column.size(); ++i) {
        const double width = metrics.horizontalAdvance(column[i]->text);
        column[i]->box = QRectF(column_right - width, start + step * double(i) - 9, width, 18);
    }
    for (Label& label : m_labels) {
        const double width = metrics.horizontalAdvance(label.text);
        if (label.mark.path == "stator.outer_diameter")
            label.box = QRectF(frame.centre().x() - width / 2, view.height() - 34, width, 18);
        if (!label.shown && in_column(label.mark)) // beside its handle
            label.box = QRectF(handle(label, frame) + QPointF(14, -26), QSizeF(width, 18));
    }
    for (std::size_t i = 0; i < middle.size(); ++i) {
        const double width = metrics.horizontalAdvance(middle[i]->text),
                     y = frame.centre().y() + 25 * (double(i) - double(middle.size() - 1) / 2);
        middle[i]->box = QRectF(frame.centre().x() - width / 2, y - 9, width, 18);
    }
}

QPointF DimensionLayer::handle(const Label& label, const ViewFrame& frame) {
    return frame.to_screen(rotated(label.mark.handle, label.turn));
}

const DimensionLayer::Label* DimensionLayer::at(QPointF position, const ViewFrame& frame) const {
    for (const Label& label : m_labels)
        if (label.shown && label.box.adjusted(-6, -4, 6, 4).contains(position)) return &label;
    const Label* best = nullptr;
    double least = grab;
    for (const Label& label : m_labels) {
        const QPointF d = handle(label, frame) - position;
        const double distance = std::hypot(d.x(), d.y());
        if (distance < least) least = distance, best = &label;
    }
    return best;
}

const DimensionLayer::Label* DimensionLayer::find(const std::string& path) const {
    const auto found =
        std::find_if(m_labels.begin(), m_labels.end(), [&](const Label& l) { return l.mark.path == path; });
    return found == m_labels.end() ? nullptr : &*found;
}

/// The dimension itself, drawn on the geometry as on an engineer's sheet.
void DimensionLayer::paint_dimension(QPainter& painter, const ViewFrame& frame, const Label& label) const {
    painter.setPen(QPen(theme().accent, 1.2));
    painter.setBrush(theme().accent);
    const DimensionMark& mark = label.mark;
    if (mark.kind == DimensionMark::Kind::Angle) {
        draw_angle(painter, frame, label);
        painter.setBrush(theme().accent);
    } else if (mark.kind == DimensionMark::Kind::Diameter && !label.turn &&
               mark.path == "stator.outer_diameter") {
        const double y = label.box.center().y();
        const QPointF a = frame.to_screen(mark.a), b = frame.to_screen(mark.b);
        painter.drawLine(QPointF(a.x(), a.y()), QPointF(a.x(), y + 6));
        painter.drawLine(QPointF(b.x(), b.y()), QPointF(b.x(), y + 6));
        double_arrow(painter, {a.x(), y}, {b.x(), y});
    } else {
        double_arrow(painter, frame.to_screen(rotated(mark.a, label.turn)),
                     frame.to_screen(rotated(mark.b, label.turn)));
    }
    painter.setPen(QPen(theme().sheet, 1.5));
    painter.drawEllipse(handle(label, frame), 5, 5);
}

/// The dimension of the close-up: thin extension lines, the line with its arrows, the value on it.
void DimensionLayer::paint_on_sheet(QPainter& painter, const ViewFrame& frame, const Label& label, bool is_hot,
                                    bool strong) const {
    const Theme& t = theme();
    QColor colour = is_hot ? t.accent : label.wrong ? t.caution : t.ink;
    if (!strong && !is_hot) colour.setAlphaF(0.35F);
    painter.setPen(QPen(colour, 0.6));
    for (const QLineF& extension : label.extensions) painter.drawLine(extension);
    if (!label.leader.isNull()) painter.drawLine(label.leader);
    painter.setPen(QPen(colour, is_hot ? 1.4 : 1.0));
    painter.setBrush(colour);
    const DimensionMark& mark = label.mark;
    if (mark.kind == DimensionMark::Kind::Length) {
        double_arrow(painter, label.line.p1(), label.line.p2());
    } else if (mark.kind == DimensionMark::Kind::Diameter) {
        arrow(painter, label.leader.p2(), label.leader.p1());
    } else {
        draw_angle(painter, frame, label);
    }
    if (is_hot || strong) {
        painter.setPen(QPen(t.sheet, 1.5));
        painter.setBrush(colour);
        const double size = is_hot ? 5 : 3;
        painter.drawEllipse(handle(label, frame), size, size);
    }
    const QString text = is_hot || !label.leader.isNull() ? label.text : label.value;
    QRectF box = label.box;
    const double wide = painter.fontMetrics().horizontalAdvance(text);
    if (wide > box.width()) box = QRectF(box.center().x() - wide / 2, box.top(), wide, box.height());
    QColor ground = t.paper;
    ground.setAlphaF(0.92F);
    painter.setPen(is_hot ? QPen(t.accent, 1) : QPen(Qt::NoPen));
    painter.setBrush(is_hot ? t.sheet : ground);
    painter.drawRoundedRect(box.adjusted(-4, 0, 4, 0), 3, 3);
    painter.setPen(colour);
    painter.drawText(box, Qt::AlignCenter, text);
}

void DimensionLayer::paint(QPainter& painter, const ViewFrame& frame, const std::string& hot,
                           const std::string& part) const {
    const Theme& t = theme();
    painter.setFont(small_font());
    const Label* on_top = nullptr;
    for (const Label& label : m_labels) {
        const bool is_hot = label.mark.path == hot;
        if (label.on_sheet) {
            if (is_hot)
                on_top = &label;
            else
                paint_on_sheet(painter, frame, label, false, belongs_to(label.mark.path, part));
            continue;
        }
        if (!label.shown && !is_hot) continue;
        const QColor colour = is_hot ? t.accent : label.wrong ? t.caution : t.soft;
        if (is_hot) paint_dimension(painter, frame, label);
        const bool in_column = label.shown && label.box.right() <= column_right + 1;
        if (in_column) {
            painter.setPen(QPen(colour, label.wrong ? 1.6 : 0.8));
            painter.drawLine(QPointF(label.box.right() + 6, label.box.center().y()), label.anchor);
            painter.setBrush(colour);
            painter.setPen(Qt::NoPen);
            painter.drawEllipse(label.anchor, 2, 2);
        }
        if (!in_column || is_hot || label.wrong) {
            painter.setPen(QPen(is_hot || label.wrong ? colour : t.line, 1));
            painter.setBrush(t.sheet);
            painter.drawRoundedRect(label.box.adjusted(-6, -2, 6, 2), 4, 4);
        }
        painter.setPen(is_hot ? t.accent : t.ink);
        painter.drawText(label.box, Qt::AlignCenter, label.text);
    }
    if (on_top) paint_on_sheet(painter, frame, *on_top, true, true);
    if (part.empty() &&
        std::any_of(m_labels.begin(), m_labels.end(), [](const Label& l) { return !l.shown; })) {
        painter.setPen(t.soft);
        painter.drawText(QRectF(24, painter.viewport().height() - 34.0, 300, 18), Qt::AlignLeft,
                         QObject::tr("a click on a part shows its dimensions"));
    }
}

} // namespace mavlo::app
