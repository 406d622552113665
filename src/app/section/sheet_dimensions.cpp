#include "section/sheet_dimensions.h"

#include "shell/theme.h"

#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

using Label = DimensionLayer::Label;

constexpr double first_column = 34, column_step = 30, overshoot = 5, text_height = 16, between_texts = 20;

double length(const QLineF& line) {
    return std::hypot(line.dx(), line.dy());
}

bool is_upright(const Label& label) {
    return label.mark.kind == DimensionMark::Kind::Length &&
           std::abs(label.line.dy()) > 2 * std::abs(label.line.dx());
}

Point mirror_image(Point p) {
    return {p.x, -p.y};
}

QLineF line_at(Point a, Point b, double turn, const ViewFrame& frame) {
    return {frame.to_screen(rotated(a, turn)), frame.to_screen(rotated(b, turn))};
}

QRectF box_at(QPointF centre, double width) {
    return {centre.x() - width / 2, centre.y() - text_height / 2, width, text_height};
}

/// Columns of dimension lines to the right, the shortest next to the shape.
class Columns {
  public:
    Columns(const QRectF& shape, const QFontMetricsF& metrics)
        : m_shape(shape)
        , m_metrics(metrics) {}

    void place(Label& label) {
        const double top = std::min(label.line.y1(), label.line.y2()),
                     bottom = std::max(label.line.y1(), label.line.y2());
        const double width = m_metrics.horizontalAdvance(label.value);
        // A short line has its arrows, and then its value, outside.
        const bool inside = bottom - top > text_height + 22;
        const double low = inside ? top : top - 18 - text_height, high = inside ? bottom : bottom + 18;
        std::size_t column = 0;
        while (column < m_taken.size() && overlaps(m_taken[column], low, high)) ++column;
        if (column == m_taken.size()) m_taken.emplace_back();
        m_taken[column].push_back({low, high});
        const double x = m_shape.right() + first_column + column_step * double(column);
        const auto extension = [&](QPointF from) { return QLineF(from, QPointF(x + overshoot, from.y())); };
        label.extensions = {extension(label.line.p1()), extension(label.line.p2())};
        label.line = QLineF(x, top, x, bottom);
        label.box =
            inside ? box_at({x, (top + bottom) / 2}, width) : box_at({x, top - 16 - text_height / 2}, width);
    }

  private:
    using Range = std::pair<double, double>;
    static bool overlaps(const std::vector<Range>& taken, double low, double high) {
        return std::any_of(taken.begin(), taken.end(),
                           [&](const Range& r) { return low < r.second + 4 && high > r.first - 4; });
    }
    QRectF m_shape;
    const QFontMetricsF& m_metrics;
    std::vector<std::vector<Range>> m_taken;
};

/// A column of texts to the left, each on a leader to what it measures.
void place_leaders(std::vector<Label*> labels, const QRectF& shape, const QRectF& room,
                   const QFontMetricsF& metrics) {
    std::stable_sort(labels.begin(), labels.end(),
                     [](const Label* a, const Label* b) { return a->anchor.y() < b->anchor.y(); });
    double last = room.top() - between_texts;
    for (Label* label : labels) {
        const double y = std::max(label->anchor.y(), last + between_texts);
        const double width = metrics.horizontalAdvance(label->text),
                     right = std::max(room.left() + width, shape.left() - 30);
        label->box = QRectF(right - width, y - text_height / 2, width, text_height);
        label->leader = QLineF(QPointF(right + 6, y), label->anchor);
        last = y;
    }
    // Pushed beyond the foot they move up again, the last one first.
    double limit = room.bottom();
    for (auto label = labels.rbegin(); label != labels.rend() && (*label)->box.bottom() > limit; ++label) {
        (*label)->box.moveBottom(limit);
        (*label)->leader.setP1({(*label)->leader.x1(), (*label)->box.center().y()});
        limit -= between_texts;
    }
}

} // namespace

void place_on_sheet(std::vector<Label>& labels, const ViewFrame& frame, const QRectF& shape,
                    const QRectF& room) {
    const QFontMetricsF metrics(small_font());
    std::vector<Label*> radial, leaders;
    for (Label& label : labels) {
        label.on_sheet = true;
        const Point a = rotated(label.mark.a, label.turn), b = rotated(label.mark.b, label.turn);
        label.line = line_at(label.mark.a, label.mark.b, label.turn, frame);
        label.anchor =
            label.mark.kind == DimensionMark::Kind::Diameter ? label.line.p2() : frame.to_screen(0.5 * (a + b));
        const double width = metrics.horizontalAdvance(label.value);
        // Its line stands on the right, where the other half is alike: no extension line crosses the axis.
        if (is_upright(label) && label.mirrored && label.mark.a.y + label.mark.b.y > 0)
            label.line = line_at(mirror_image(label.mark.a), mirror_image(label.mark.b), label.turn, frame);
        if (is_upright(label))
            radial.push_back(&label);
        else if (label.mark.kind == DimensionMark::Kind::Length && length(label.line) > width + 30)
            label.box = box_at(label.line.center(), width);
        else
            leaders.push_back(&label);
    }
    std::stable_sort(radial.begin(), radial.end(),
                     [](const Label* a, const Label* b) { return length(a->line) < length(b->line); });
    Columns columns(shape, metrics);
    for (Label* label : radial) columns.place(*label);
    place_leaders(leaders, shape, room, metrics);
}

} // namespace mavlo::app
