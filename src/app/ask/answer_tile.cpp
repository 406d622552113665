#include "ask/answer_tile.h"

#include "ask/drawn_curve.h"
#include "figure/palette.h"
#include "plot/contours.h"
#include "question/figure_names.h"
#include "question/words.h"
#include "shell/theme.h"

#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr std::size_t most_curves = 6;
constexpr int with_picture = 176, without_picture = 124;

struct Range {
    double low = 1e300, high = -1e300;
    void take(double v) {
        if (!std::isfinite(v)) return;
        low = std::min(low, v);
        high = std::max(high, v);
    }
    double share(double v) const { return high > low ? (v - low) / (high - low) : 0.5; }
};

void paint_map(QPainter& painter, const QRectF& room, const Map& map) {
    const auto [low, high] = coloured_range(map);
    const Range range{low, high};
    QImage image(int(map.x.size()), int(map.y.size()), QImage::Format_ARGB32);
    for (int j = 0; j < image.height(); ++j)
        for (int i = 0; i < image.width(); ++i) {
            const double z = map.z[std::size_t(j)][std::size_t(i)];
            const double share = std::clamp(range.share(z), 0.0, 1.0);
            // As on the large map, where what matters is pale.
            const Rgb c = field_colour(map.name == "efficiency" ? 1 - share : share);
            image.setPixel(i, image.height() - 1 - j,
                           std::isfinite(z) ? qRgb(c.r, c.g, c.b) : qRgba(0, 0, 0, 0));
        }
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(room, image);
}

void paint_bars(QPainter& painter, const QRectF& room, const Curve& curve) {
    Range range;
    range.take(0);
    for (double y : curve.y) range.take(y);
    const auto count = double(curve.y.size());
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    const auto at = [&](double v) { return room.bottom() - range.share(v) * room.height(); };
    for (std::size_t k = 0; k < curve.y.size(); ++k) {
        const double x = room.left() + room.width() * (double(k) + 0.2) / count, zero = at(0),
                     top = at(curve.y[k]);
        painter.drawRect(QRectF(QPointF(x, std::min(top, zero)),
                                QSizeF(0.6 * room.width() / count, std::max(1.0, std::abs(zero - top)))));
    }
}

void paint_curves(QPainter& painter, const QRectF& room, const std::vector<Curve>& curves) {
    Range x, y;
    for (const Curve& c : curves) {
        for (double v : c.x) x.take(v);
        for (double v : c.y) y.take(v);
    }
    const auto place = [&](double px, double py) {
        return QPointF(room.left() + x.share(px) * room.width(), room.bottom() - y.share(py) * room.height());
    };
    if (y.low < 0 && y.high > 0) {
        painter.setPen(QPen(theme().line, 1));
        painter.drawLine(place(x.low, 0), place(x.high, 0));
    }
    std::size_t k = 0;
    for (const Curve& c : curves) {
        QPolygonF line;
        for (std::size_t i = 0; i < c.x.size(); ++i)
            if (std::isfinite(c.y[i])) line << place(c.x[i], c.y[i]);
        painter.setPen(QPen(curves.size() == 1 ? theme().accent : theme().phase[k++ % 3], 1.4));
        painter.drawPolyline(line);
    }
}

} // namespace

void paint_sketch(QPainter& painter, const QRectF& room, const Answer& answer) {
    if (!answer.maps.empty()) return paint_map(painter, room, answer.maps.front());
    const auto groups = curve_groups(answer);
    if (groups.empty()) return;
    std::vector<Curve> curves;
    for (const std::string& name : groups.front().names)
        if (const Curve* c = answer.curve(name); c && curves.size() < most_curves)
            curves.push_back(drawn_curve(*c));
    if (curves.empty()) return;
    if (groups.front().bars || groups.front().ranked) return paint_bars(painter, room, curves.front());
    paint_curves(painter, room, curves);
}

AnswerTile::AnswerTile(const QuestionKind& kind, const QString& title, QString tells, QWidget* parent)
    : QAbstractButton(parent)
    , m_tells(std::move(tells)) {
    setObjectName(QString::fromStdString("tile:" + kind.name));
    setText(title);
    setToolTip(m_tells);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAttribute(Qt::WA_Hover);
}

void AnswerTile::show_answer(const Answer& answer, AnswerState state, const QString& why) {
    m_answer = answer;
    m_state = state;
    m_why = why;
    setFixedHeight(with_picture);
    setAccessibleDescription(QString::fromStdString(answer.sentence));
    update();
}

void AnswerTile::show_price(const QString& price) {
    m_answer.reset();
    m_state = AnswerState::None;
    m_price = price;
    setFixedHeight(without_picture);
    setAccessibleDescription(price);
    update();
}

/// The first large, the second after it; takes their room from the top.
void AnswerTile::paint_figures(QPainter& painter, QRectF& room) const {
    const Theme& t = theme();
    const auto names = headline_figures(*m_answer);
    double x = room.left();
    for (std::size_t k = 0; k < std::min<std::size_t>(2, names.size()); ++k)
        for (const Figure& figure : m_answer->figures) {
            if (figure.name != names[k]) continue;
            painter.setFont(figure_font(k == 0 ? 18 : 13));
            painter.setPen(k == 0 ? t.ink : t.soft);
            const QString text = QString::fromStdString(shown_figure(figure));
            const double wide = painter.fontMetrics().horizontalAdvance(text) + 12;
            if (x + wide > room.right() + 12) return room.setTop(room.top() + 28), void();
            painter.drawText(QRectF(x, room.top(), wide, 24), Qt::AlignLeft | Qt::AlignBottom, text);
            x += wide;
        }
    room.setTop(room.top() + 28);
}

void AnswerTile::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
    painter.setPen(QPen(hasFocus() || underMouse() ? t.accent : t.line, hasFocus() ? 2 : 1));
    painter.setBrush(m_answer ? t.sheet : t.paper);
    painter.drawRoundedRect(box, 8, 8);
    QRectF room = box.adjusted(14, 10, -14, -12);
    painter.setFont(body_font());
    painter.setPen(t.ink);
    painter.drawText(QRectF(room.left(), room.top(), room.width() - 16, 18), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(text(), Qt::ElideRight, int(room.width()) - 18));
    if (m_state != AnswerState::None) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(m_state == AnswerState::Fresh ? t.good : t.caution);
        painter.drawEllipse(QPointF(room.right() - 4, room.top() + 9), 4, 4);
    }
    room.setTop(room.top() + 22);
    painter.setPen(t.soft);
    painter.setFont(small_font());
    if (!m_answer) {
        painter.drawText(room.adjusted(0, 0, 0, -20), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, m_tells);
        painter.setPen(t.accent);
        painter.drawText(room, Qt::AlignLeft | Qt::AlignBottom, m_price);
        return;
    }
    paint_figures(painter, room);
    if (!m_why.isEmpty()) {
        painter.setFont(small_font());
        painter.setPen(t.written(t.caution));
        painter.drawText(QRectF(room.left(), room.top(), room.width(), 16), Qt::AlignLeft,
                         painter.fontMetrics().elidedText(m_why, Qt::ElideRight, int(room.width())));
        room.setTop(room.top() + 18);
    }
    painter.setOpacity(m_state == AnswerState::Fresh ? 1 : 0.55);
    painter.setClipRect(room.adjusted(-2, -2, 2, 2));
    paint_sketch(painter, room.adjusted(0, 4, 0, 0), *m_answer);
}

} // namespace mavlo::app
