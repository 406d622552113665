#include "ask/circuit_view.h"

#include "ask/answer_figure.h"
#include "question/words.h"
#include "shell/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <array>

namespace mavlo::app {
namespace {

constexpr double line_y = 46, base_y = 128, body = 44, thick = 12;
constexpr const char* bench = "_bench";

const std::array<std::pair<const char*, const char*>, 6>& elements() {
    static const std::array<std::pair<const char*, const char*>, 6> list{{{"stator_resistance", "R₁"},
                                                                          {"stator_leakage_reactance", "X₁"},
                                                                          {"iron_loss_resistance", "R Fe"},
                                                                          {"magnetising_reactance", "X m"},
                                                                          {"rotor_resistance", "R₂/s with R₂"},
                                                                          {"rotor_leakage_reactance", "X₂"}}};
    return list;
}

/// A resistance lies as a box, a reactance as three arcs, along a wire from one point on.
void draw_resistance(QPainter& painter, bool upright) {
    painter.drawRect(upright ? QRectF(-thick / 2, -body / 2, thick, body)
                             : QRectF(-body / 2, -thick / 2, body, thick));
}

void draw_reactance(QPainter& painter, bool upright) {
    QPainterPath path;
    const double bow = body / 3;
    path.moveTo(-body / 2, 0);
    for (int k = 0; k < 3; ++k) path.arcTo(QRectF(-body / 2 + k * bow, -bow / 2, bow, bow), 180, -180);
    painter.save();
    if (upright) painter.rotate(90);
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path);
    painter.restore();
}

} // namespace

CircuitView::CircuitView(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("circuit"));
    setFixedHeight(int(base_y) + 14);
    hide();
}

bool CircuitView::draws(const std::string& figure) {
    for (const auto& [name, symbol] : elements())
        if (figure == name || figure == std::string(name) + bench) return true;
    return false;
}

void CircuitView::show_answer(const Answer& answer) {
    Element* places[] = {&m_r1, &m_x1, &m_rfe, &m_xm, &m_r2, &m_x2};
    const bool has = figure_of(answer, elements()[3].first) != nullptr;
    setVisible(has);
    if (!has) return;
    QStringList told;
    for (std::size_t k = 0; k < elements().size(); ++k) {
        const auto& [name, symbol] = elements()[k];
        const Figure *own = figure_of(answer, name), *other = figure_of(answer, std::string(name) + bench);
        *places[k] = {QString::fromUtf8(symbol), own ? QString::fromStdString(shown_figure(*own)) : QString(),
                      other ? tr("bench %1").arg(QString::fromStdString(shown_figure(*other))) : QString()};
        told.append(QStringLiteral("%1 %2 %3").arg(places[k]->symbol, places[k]->value, places[k]->beside));
    }
    setAccessibleName(tr("Circuit of one phase"));
    setAccessibleDescription(told.join(QStringLiteral(", ")));
    update();
}

void CircuitView::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    const double left = 12, right = std::min(double(width()) - 160, 720.0), span = right - left;
    const auto at = [&](double share) { return left + share * span; };
    const double first = at(0.40), second = at(0.56);
    const QPen wire(t.ink, 1.4);
    painter.setPen(wire);
    painter.drawLine(QPointF(left, line_y), QPointF(right, line_y));
    painter.drawLine(QPointF(left, base_y), QPointF(right, base_y));
    for (double x : {first, second, right}) painter.drawLine(QPointF(x, line_y), QPointF(x, base_y));
    painter.setBrush(t.sheet);
    for (double y : {line_y, base_y}) painter.drawEllipse(QPointF(left, y), 3, 3);
    const auto element = [&](QPointF where, bool upright, bool resistance, const Element& e) {
        painter.save();
        painter.translate(where);
        // The wire ends where the symbol begins.
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.sheet);
        painter.drawRect(upright ? QRectF(-thick, -body / 2, 2 * thick, body)
                                 : QRectF(-body / 2, -thick, body, 2 * thick));
        painter.setPen(wire);
        resistance ? draw_resistance(painter, upright) : draw_reactance(painter, upright);
        painter.setPen(t.ink);
        const QString words = e.symbol + QStringLiteral("  ") + (e.value.isEmpty() ? tr("–") : e.value);
        if (upright) {
            painter.drawText(QRectF(thick + 4, -20, 140, 18), Qt::AlignLeft | Qt::AlignVCenter, words);
            painter.setPen(t.soft);
            painter.drawText(QRectF(thick + 4, 0, 140, 18), Qt::AlignLeft | Qt::AlignVCenter, e.beside);
        } else {
            painter.drawText(QRectF(-90, -44, 180, 18), Qt::AlignCenter, words);
            painter.setPen(t.soft);
            painter.drawText(QRectF(-90, -28, 180, 16), Qt::AlignCenter, e.beside);
        }
        painter.restore();
    };
    const double middle = (line_y + base_y) / 2;
    element({at(0.10), line_y}, false, true, m_r1);
    element({at(0.28), line_y}, false, false, m_x1);
    element({first, middle}, true, true, m_rfe);
    element({second, middle}, true, false, m_xm);
    element({at(0.76), line_y}, false, false, m_x2);
    element({right, middle}, true, true, m_r2);
}

} // namespace mavlo::app
