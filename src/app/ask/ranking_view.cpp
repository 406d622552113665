#include "ask/ranking_view.h"

#include "question/drawing_step.h"
#include "shell/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int most = 16;
constexpr double bar_row = 25, name_width = 230, word_width = 215;

/// By how much a figure changes for a step that a drawing is made in.
QString change_words(const std::string& path, double slope, const QString& unit) {
    const Parameter* p = find_parameter(path);
    if (!p) return {};
    // A ratio's step depends on its value, which a ranking does not know.
    if (p->dimension() != dimension::length && p->dimension() != dimension::angle) return {};
    const DrawingStep step = drawing_step(*p, 0);
    const double change = slope * step.si;
    return QStringLiteral("%1%2%3 for %4")
        .arg(change >= 0 ? "+" : "−")
        .arg(std::abs(change), 0, 'g', 3)
        .arg(unit.isEmpty() ? QString() : QStringLiteral(" ") + unit, QString::fromUtf8(step.words));
}

} // namespace

RankingView::RankingView(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("ranking"));
    setMinimumHeight(140);
}

void RankingView::show_ranking(const Curve& curve, const Curve* doubt, const Curve* slope,
                               const QString& unit) {
    m_bars.clear();
    for (std::size_t k = 0; k < curve.y.size() && int(m_bars.size()) < most && curve.y[k] != 0; ++k) {
        const Parameter* p = find_parameter(curve.labels[k]);
        QString label = QString::fromStdString(p ? p->label : curve.labels[k]);
        // Rotor and stator share words.
        if (p && p->path.starts_with("rotor.") && !label.startsWith(QStringLiteral("Magnet")) &&
            !label.startsWith(QStringLiteral("Rotor")))
            label += tr(" (rotor)");
        QString words =
            slope && k < slope->y.size() ? change_words(curve.labels[k], slope->y[k], unit) : QString();
        m_bars.push_back({label, words, curve.y[k], doubt && k < doubt->y.size() ? doubt->y[k] : 0});
    }
    setMinimumHeight(int(bar_row * double(m_bars.size())) + 12);
    update();
}

QStringList RankingView::labels() const {
    QStringList list;
    for (const Bar& bar : m_bars) list << bar.label;
    return list;
}

void RankingView::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    double longest = 1e-300;
    for (const Bar& bar : m_bars) longest = std::max(longest, std::abs(bar.value) + bar.doubt);
    const double room = std::max(60.0, width() - name_width - word_width - 110);
    painter.setFont(small_font());
    double y = 6;
    for (const Bar& bar : m_bars) {
        const double length = room * std::abs(bar.value) / longest, middle = y + bar_row / 2;
        painter.setPen(t.ink);
        painter.drawText(QRectF(0, y, name_width - 12, bar_row), Qt::AlignRight | Qt::AlignVCenter, bar.label);
        painter.setPen(Qt::NoPen);
        painter.setBrush(bar.value < 0 ? t.phase[3] : t.accent);
        painter.drawRoundedRect(QRectF(name_width, y + 5, length, bar_row - 10), 2, 2);
        if (bar.doubt > 0) {
            const double half = std::max(1.0, room * bar.doubt / longest);
            painter.setPen(QPen(t.ink, 1.2));
            painter.drawLine(QPointF(name_width + length - half, middle),
                             QPointF(name_width + length + half, middle));
        }
        painter.setPen(t.soft);
        const double x = name_width + length + std::max(8.0, room * bar.doubt / longest + 8);
        painter.drawText(
            QRectF(x, y, 100, bar_row), Qt::AlignVCenter,
            QStringLiteral("%1%2").arg(bar.value >= 0 ? "+" : "−").arg(std::abs(bar.value), 0, 'g', 3));
        painter.drawText(QRectF(width() - word_width, y, word_width, bar_row),
                         Qt::AlignRight | Qt::AlignVCenter, bar.words);
        y += bar_row;
    }
}

} // namespace mavlo::app
