#include "ask/loss_bar_view.h"

#include "shell/spoken.h"
#include "shell/theme.h"

#include <QPainter>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double bar_height = 18, gap_height = 10;

QString watts(double value) {
    return value >= 1e4 ? QStringLiteral("%1 kW").arg(value / 1e3, 0, 'g', 4)
                        : QStringLiteral("%1 W").arg(value, 0, 'g', 4);
}

} // namespace

LossBarView::LossBarView(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("loss_bar"));
    setFixedHeight(int(2 * bar_height + gap_height + 20));
}

void LossBarView::show_bar(const std::optional<LossBar>& bar) {
    m_bar = bar;
    setVisible(bar.has_value());
    update();
}

void LossBarView::paintEvent(QPaintEvent*) {
    if (!m_bar) return;
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(small_font());
    const double whole = width() - 2, lost = m_bar->input - m_bar->output,
                 split = whole * m_bar->output / m_bar->input;
    const QRectF output(1, 2, split, bar_height), all_lost(1 + split, 2, whole - split, bar_height);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.tint(0.55));
    painter.drawRect(output);
    painter.setBrush(t.phase[3]);
    painter.drawRect(all_lost);
    painter.setPen(t.ink);
    painter.drawText(output.adjusted(8, 0, -8, 0), Qt::AlignLeft | Qt::AlignVCenter,
                     tr("%1 in, %2 out, %3 lost").arg(watts(m_bar->input), watts(m_bar->output), watts(lost)));
    // The lost part, drawn out to the whole width.
    const double top = 2 + bar_height + gap_height;
    painter.setPen(QPen(t.line, 1));
    painter.drawLine(all_lost.bottomLeft(), QPointF(1, top));
    painter.drawLine(all_lost.bottomRight(), QPointF(1 + whole, top));
    double sum = 0;
    for (const auto& l : m_bar->losses) sum += l.watts;
    double x = 1;
    int k = 0;
    QString rest;
    for (const auto& l : m_bar->losses) {
        const QRectF part(x, top, whole * l.watts / sum, bar_height);
        QColor colour = t.phase[3];
        colour.setAlphaF(float(std::max(0.25, 0.8 - 0.16 * k)));
        painter.setPen(QPen(t.sheet, 1));
        painter.setBrush(colour);
        painter.drawRect(part);
        const QString words = QStringLiteral("%1 %2").arg(spoken(l.label), watts(l.watts));
        painter.setPen(t.ink);
        if (painter.fontMetrics().horizontalAdvance(words) < part.width() - 10)
            painter.drawText(part.adjusted(6, 0, -4, 0), Qt::AlignLeft | Qt::AlignVCenter, words);
        else
            rest += (rest.isEmpty() ? QString() : QStringLiteral(" · ")) + words;
        x += part.width();
        ++k;
    }
    painter.setPen(t.soft);
    painter.drawText(QRectF(1, top + bar_height + 1, whole, 16), Qt::AlignRight | Qt::AlignVCenter, rest);
}

} // namespace mavlo::app
