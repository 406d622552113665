#include "start/pair_map.h"

#include "figure/palette.h"
#include "shell/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int least_poles = 2, most_poles = 28, step_of_poles = 2, most_slots = 48;
constexpr int left_edge = 34, bottom_edge = 34, top_edge = 20, right_edge = 6;
constexpr double good_factor = 0.8; // lighter below

int slot_step(int phases) {
    return phases == 1 ? 2 : phases;
}

} // namespace

PairMap::PairMap(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("pair_map"));
    setAccessibleName(tr("Slots and poles"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    set_winding(3, 2);
}

void PairMap::set_winding(int phases, int layers) {
    m_phases = phases;
    m_layers = layers;
    m_pairs.clear();
    for (int slots = slot_step(phases); slots <= most_slots; slots += slot_step(phases))
        for (int poles = least_poles; poles <= most_poles; poles += step_of_poles)
            if (const auto pair = judge_pair(slots, poles, phases, layers)) m_pairs[{slots, poles}] = *pair;
    if (m_chosen) {
        const SlotPolePair* same = find(m_chosen->slots, m_chosen->poles);
        m_chosen = same ? std::optional(*same) : std::nullopt;
    }
    update();
}

void PairMap::set_shown(Shown shown) {
    m_shown = shown;
    update();
}

const SlotPolePair* PairMap::find(int slots, int poles) const {
    const auto found = m_pairs.find({slots, poles});
    return found == m_pairs.end() ? nullptr : &found->second;
}

void PairMap::choose(int slots, int poles) {
    if (const SlotPolePair* pair = find(slots, poles)) {
        m_chosen = *pair;
        update();
        Q_EMIT pair_chosen();
    }
}

QRectF PairMap::cell(int slots, int poles) const {
    const int rows = most_slots / slot_step(m_phases), columns = (most_poles - least_poles) / step_of_poles + 1;
    const int row = slots / slot_step(m_phases) - 1, column = (poles - least_poles) / step_of_poles;
    if (row < 0 || row >= rows || column < 0 || column >= columns) return {};
    const double w = double(width() - left_edge - right_edge) / columns,
                 h = double(height() - top_edge - bottom_edge) / rows;
    return {left_edge + column * w, height() - bottom_edge - (row + 1) * h, w, h};
}

std::optional<std::pair<int, int>> PairMap::pair_at(QPointF at) const {
    for (int slots = slot_step(m_phases); slots <= most_slots; slots += slot_step(m_phases))
        for (int poles = least_poles; poles <= most_poles; poles += step_of_poles)
            if (cell(slots, poles).contains(at)) return std::pair{slots, poles};
    return std::nullopt;
}

QColor PairMap::colour_of(const SlotPolePair& pair) const {
    const double share = m_shown == Shown::WindingFactor
                             ? (pair.winding_factor - good_factor) / (1 - good_factor)
                             : std::log(pair.cogging_per_turn / 12.0) / std::log(100.0);
    return theme().tint(0.12 + 0.88 * std::clamp(share, 0.0, 1.0));
}

QString PairMap::number_of(const SlotPolePair& pair) const {
    if (m_shown == Shown::Cogging) return QString::number(pair.cogging_per_turn);
    return QStringLiteral(".%1").arg(std::min(99, int(std::lround(100 * pair.winding_factor))), 2, 10,
                                     QLatin1Char('0'));
}

QString PairMap::why_not(int slots, int poles) const {
    const auto layout = propose_winding({slots, poles, m_phases, m_layers, 0});
    return layout ? QString() : QString::fromStdString(layout.problems().front().sentence);
}

void PairMap::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    QFont tiny = small_font();
    tiny.setPixelSize(10);
    for (const auto& [key, pair] : m_pairs) {
        const QRectF box = cell(key.first, key.second).adjusted(0.5, 0.5, -0.5, -0.5);
        painter.fillRect(box, colour_of(pair));
        painter.setFont(tiny);
        painter.setPen(colour_of(pair).lightness() < 150 ? t.sheet : t.ink);
        painter.drawText(box, Qt::AlignCenter, number_of(pair));
        painter.setFont(small_font());
        if (pair.unbalanced_pull) { // a stroke across, so that it reads without colour
            painter.setPen(QPen(t.caution, 1.6));
            painter.drawLine(box.topLeft() + QPointF(1, 7), box.topLeft() + QPointF(7, 1));
        }
    }
    painter.setPen(t.soft);
    for (int slots = slot_step(m_phases); slots <= most_slots; slots += slot_step(m_phases)) {
        const QRectF box = cell(slots, least_poles);
        if (box.height() > 11 || slots % (2 * slot_step(m_phases)) == 0)
            painter.drawText(QRectF(0, box.top(), left_edge - 5, box.height()),
                             Qt::AlignRight | Qt::AlignVCenter, QString::number(slots));
    }
    for (int poles = least_poles; poles <= most_poles; poles += step_of_poles)
        painter.drawText(QRectF(cell(slot_step(m_phases), poles).left(), height() - bottom_edge + 2,
                                cell(slot_step(m_phases), poles).width(), 14),
                         Qt::AlignCenter, QString::number(poles));
    painter.drawText(QRectF(left_edge, height() - 16, width() - left_edge, 14), Qt::AlignCenter, tr("poles"));
    painter.drawText(QRectF(2, 2, 60, 14), Qt::AlignLeft | Qt::AlignVCenter, tr("slots"));
    if (m_chosen) {
        painter.setPen(QPen(t.ink, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(cell(m_chosen->slots, m_chosen->poles).adjusted(0, 0, -1, -1));
    }
    if (hasFocus()) {
        painter.setPen(QPen(t.accent, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void PairMap::mouseMoveEvent(QMouseEvent* event) {
    const auto at = pair_at(event->position());
    if (!at) return Q_EMIT pair_pointed(std::nullopt, {});
    const SlotPolePair* pair = find(at->first, at->second);
    Q_EMIT pair_pointed(
        pair ? std::optional(*pair) : std::nullopt,
        pair ? QString()
             : tr("%1 slots, %2 poles: %3").arg(at->first).arg(at->second).arg(why_not(at->first, at->second)));
}

void PairMap::leaveEvent(QEvent*) {
    Q_EMIT pair_pointed(std::nullopt, {});
}

void PairMap::mousePressEvent(QMouseEvent* event) {
    if (const auto at = pair_at(event->position())) choose(at->first, at->second);
}

void PairMap::keyPressEvent(QKeyEvent* event) {
    const int dx = event->key() == Qt::Key_Right  ? 1
                   : event->key() == Qt::Key_Left ? -1
                                                  : 0,
              dy = event->key() == Qt::Key_Up     ? 1
                   : event->key() == Qt::Key_Down ? -1
                                                  : 0;
    if (!dx && !dy) return QWidget::keyPressEvent(event);
    int slots = m_chosen ? m_chosen->slots : 12, poles = m_chosen ? m_chosen->poles : 10;
    do { // to the next pair that can be wound
        slots += dy * slot_step(m_phases);
        poles += dx * step_of_poles;
    } while (!cell(slots, poles).isEmpty() && !find(slots, poles));
    choose(slots, poles);
}

} // namespace mavlo::app
