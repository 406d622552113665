#include "ask/where_view.h"

#include "ask/where_pictures.h"
#include "shell/theme.h"

#include <QPainter>

namespace mavlo::app {

WhereView::WhereView(const Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("where"));
    setFixedWidth(sizeHint().width());
    setMinimumHeight(160);
    setAccessibleName(tr("Where in the machine"));
    hide();
}

void WhereView::show_answer(const Answer& answer) {
    m_answer = answer;
    m_paint = nullptr;
    const auto built = m_document.built();
    if (built && built->hash == answer.design) {
        if (has_magnet_margins(answer))
            m_paint = paint_magnet_margins;
        else if (has_force_wave(answer))
            m_paint = paint_force_wave;
        else if (has_losses_by_part(answer))
            m_paint = paint_losses_by_part;
    }
    update();
}

bool WhereView::has_place() const {
    const auto built = m_document.built();
    return m_paint && built && built->hash == m_answer.design;
}

void WhereView::paintEvent(QPaintEvent*) {
    const auto built = m_document.built();
    if (!has_place()) return;
    constexpr double line = 16;
    constexpr int lines = 6;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double side = std::min<double>(width() - 8, height() - lines * line - 8);
    if (side < 60) return;
    const QRectF room((width() - side) / 2, 4, side, side);
    const QStringList words = m_paint(painter, room, m_answer, *built);
    painter.setFont(small_font());
    painter.setPen(theme().soft);
    double y = room.bottom() + 6;
    for (const QString& text : words) {
        painter.drawText(QRectF(0, y, width(), line), Qt::AlignCenter,
                         painter.fontMetrics().elidedText(text, Qt::ElideRight, width()));
        y += line;
    }
    setAccessibleDescription(words.join(QStringLiteral(", ")));
}

} // namespace mavlo::app
