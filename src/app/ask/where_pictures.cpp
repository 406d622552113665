#include "ask/where_pictures.h"

#include "ask/answer_figure.h"
#include "ask/where_view.h"
#include "figure/palette.h"
#include "quantity/constants.h"
#include "question/words.h"
#include "section/section_layers.h"
#include "section/small_section.h"
#include "shell/theme.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

QString told(const QString& words, double value, const char* unit) {
    return words + QLatin1Char(' ') + QString::fromStdString(shown_figure({"", value, unit}));
}

QColor heat_colour(double share) {
    const Rgb c = field_colour(0.1 + 0.85 * std::clamp(share, 0.0, 1.0));
    return {c.r, c.g, c.b};
}

// --- losses

/// A part of the section with what it loses.
struct LosingPart {
    const char* words;
    double watts;
    bool turns;
    Use use;     ///< of its regions
    bool ground; ///< the body's iron itself
};

std::vector<LosingPart> losing_parts(const Answer& answer) {
    const auto sum = [&](std::initializer_list<const char*> names) {
        double total = 0;
        for (const char* name : names) total += answer.figure(name).value_or(0);
        return total;
    };
    std::vector<LosingPart> parts{
        {QT_TRANSLATE_NOOP("mavlo::app::WhereView", "winding"), sum({"copper_loss", "winding_stray_loss"}),
         false, Use::Conductor, false},
        {QT_TRANSLATE_NOOP("mavlo::app::WhereView", "stator iron"),
         sum({"iron_loss_stator", "solid_loss_stator"}), false, Use::Iron, true},
        {QT_TRANSLATE_NOOP("mavlo::app::WhereView", "rotor iron"), sum({"iron_loss_rotor", "solid_loss_rotor"}),
         true, Use::Iron, true},
        {QT_TRANSLATE_NOOP("mavlo::app::WhereView", "magnets"), sum({"magnet_loss"}), true, Use::Magnet, false},
        {QT_TRANSLATE_NOOP("mavlo::app::WhereView", "cage"), sum({"bar_loss", "copper_loss_rotor"}), true,
         Use::Solid, false},
    };
    std::erase_if(parts, [](const LosingPart& part) { return part.watts <= 0; });
    return parts;
}

double largest_of(const std::vector<LosingPart>& parts) {
    double largest = 0;
    for (const LosingPart& part : parts) largest = std::max(largest, part.watts);
    return largest;
}

// --- the wave

/// Round the gap: the gap's middle and what it is moved by at an angle.
QPointF wave_point(const ViewFrame& frame, double radius, double swing, double order, double angle) {
    const double r = radius + swing * std::cos(order * angle);
    return frame.to_screen({r * std::cos(angle), r * std::sin(angle)});
}

} // namespace

bool has_losses_by_part(const Answer& answer) {
    return figure_of(answer, "copper_loss") && figure_of(answer, "iron_loss_stator") &&
           losing_parts(answer).size() > 1;
}

QStringList paint_losses_by_part(QPainter& painter, const QRectF& room, const Answer& answer,
                                 const DrawnMachine& built) {
    const ViewFrame frame = small_frame(room, built);
    paint_small_section(painter, room, built);
    const auto parts = losing_parts(answer);
    const double largest = largest_of(parts);
    QStringList words;
    // The ground first, so that what lies in it stays seen.
    for (const bool ground : {true, false})
        for (const LosingPart& part : parts) {
            if (part.ground != ground) continue;
            const DrawnBody& body = part.turns ? built.drawing.rotor() : built.drawing.stator();
            painter.setPen(Qt::NoPen);
            painter.setBrush(heat_colour(std::sqrt(part.watts / largest)));
            QPainterPath area;
            if (ground) {
                QPainterPath inner;
                area.addEllipse(frame.centre(), body.outer_radius * frame.scale(),
                                body.outer_radius * frame.scale());
                inner.addEllipse(frame.centre(), body.inner_radius * frame.scale(),
                                 body.inner_radius * frame.scale());
                area = area.subtracted(inner);
                for (const DrawnRegion& region : body.regions)
                    if (region.use != Use::Iron) area = area.subtracted(path_of(region.polygon, frame));
            } else {
                for (const DrawnRegion& region : body.regions)
                    if (region.use == part.use) area.addPath(path_of(region.polygon, frame));
            }
            painter.drawPath(area);
        }
    for (const LosingPart& part : parts) words << told(WhereView::tr(part.words), part.watts, "W");
    words.prepend(WhereView::tr("where it loses"));
    return words;
}

bool has_magnet_margins(const Answer& answer) {
    return answer.curve("magnet_margin") && answer.curve("magnet_place_x") && answer.curve("magnet_place_y") &&
           answer.curve("magnet_element_area");
}

QStringList paint_magnet_margins(QPainter& painter, const QRectF& room, const Answer& answer,
                                 const DrawnMachine& built) {
    const Theme& t = theme();
    const Curve &margin = *answer.curve("magnet_margin"), &x = *answer.curve("magnet_place_x"),
                &y = *answer.curve("magnet_place_y"), &area = *answer.curve("magnet_element_area");
    if (margin.y.empty()) return {};
    // The poles that were computed fill the picture.
    std::vector<Point> ends;
    for (std::size_t i = 0; i < x.y.size(); ++i) ends.push_back({x.y[i], y.y[i]});
    ViewFrame frame;
    const double turn = pi / 2 - std::atan2(ends.front().y, ends.front().x);
    frame.fit(room.adjusted(14, 14, -14, -14), ends, turn);
    painter.save();
    painter.setClipRect(room);
    paint_materials(painter, frame, built, {});
    const double most = std::max(1e-3, margin.y.front());
    painter.setPen(Qt::NoPen);
    for (std::size_t i = 0; i < margin.y.size(); ++i) {
        const double side = 0.75 * std::sqrt(area.y[i]) * frame.scale();
        const bool lost = margin.y[i] < 0;
        painter.setBrush(lost ? t.caution : heat_colour(0.9 * (1 - margin.y[i] / most)));
        painter.drawEllipse(frame.to_screen(ends[i]), std::max(1.0, side), std::max(1.0, side));
    }
    painter.setOpacity(0.6);
    paint_outlines(painter, frame, built, {});
    painter.restore();
    const double least = margin.y.back();
    return {WhereView::tr("flux density over the knee"), told(WhereView::tr("palest: most,"), most, "T"),
            least < 0 ? told(WhereView::tr("lost where it is below; worst"), least, "T")
                      : told(WhereView::tr("deepest: least,"), least, "T")};
}

bool has_force_wave(const Answer& answer) {
    return figure_of(answer, "stress_largest") && figure_of(answer, "space_order_largest");
}

QStringList paint_force_wave(QPainter& painter, const QRectF& room, const Answer& answer,
                             const DrawnMachine& built) {
    const Theme& t = theme();
    const ViewFrame frame = small_frame(room, built);
    painter.setOpacity(0.35);
    paint_small_section(painter, room, built);
    painter.setOpacity(1);
    const double order = answer.figure("space_order_largest").value_or(0),
                 time = answer.figure("electrical_order_largest").value_or(0);
    const double radius = built.machine.middle_of_gap(), swing = 0.16 * radius;
    constexpr int steps = 720;
    QPolygonF wave;
    for (int k = 0; k <= steps; ++k) wave << wave_point(frame, radius, swing, order, 2 * pi * k / steps);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.soft, 1, Qt::DashLine));
    painter.drawEllipse(frame.centre(), radius * frame.scale(), radius * frame.scale());
    painter.setPen(QPen(t.accent, 2));
    painter.drawPolyline(wave);
    QStringList words{WhereView::tr("strongest wave of radial stress"),
                      WhereView::tr("%1 periods round the gap").arg(order),
                      told({}, answer.figure("stress_largest").value_or(0), "Pa") +
                          told(QStringLiteral(","), answer.figure("frequency_largest").value_or(0), "Hz")};
    words << (order == 0 ? WhereView::tr("it breathes: the same all round")
              : time > 0 ? WhereView::tr("it runs with the rotor")
              : time < 0 ? WhereView::tr("it runs against the rotor")
                         : WhereView::tr("it stands"));
    return words;
}

} // namespace mavlo::app
