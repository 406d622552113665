#include "start/recent_row.h"

#include "section/small_section.h"
#include "shell/theme.h"

#include <QDateTime>
#include <QFileInfo>
#include <QPainter>
#include <QTimer>

namespace mavlo::app {
namespace {
constexpr int row_height = 44, picture = 38;
}

QString told_time(const QDateTime& at) {
    return at.toString(at.date() == QDate::currentDate() ? QStringLiteral("HH:mm")
                                                         : QStringLiteral("yyyy-MM-dd"));
}

RecentRow::RecentRow(const QString& file, QWidget* parent)
    : QAbstractButton(parent)
    , m_file(file) {
    const QFileInfo info(file);
    setObjectName(QStringLiteral("recent:") + info.completeBaseName());
    setText(info.completeBaseName());
    setToolTip(file);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    const QDateTime at = info.lastModified();
    m_day = at.date() == QDate::currentDate() ? tr("today, %1").arg(told_time(at)) : told_time(at);
    setAccessibleDescription(m_day);
    QTimer::singleShot(0, this, &RecentRow::read);
}

QSize RecentRow::sizeHint() const {
    return {180, row_height};
}

void RecentRow::read() {
    const auto project = read_project(m_file.toStdString());
    if (!project) {
        m_day = tr("cannot be read");
        setToolTip(QString::fromStdString(project.problems().front().sentence));
    } else {
        Problems problems; // Draw says them when it is opened
        m_built = build_design(*project, project->in_hand().design, problems);
        if (!project->name.empty()) setText(QString::fromStdString(project->name));
    }
    update();
}

void RecentRow::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (hasFocus() || underMouse()) {
        painter.setPen(hasFocus() ? QPen(t.accent) : QPen(Qt::NoPen));
        painter.setBrush(t.tint(0.08));
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    }
    if (m_built)
        paint_small_section(painter, QRectF(4, (height() - picture) / 2.0, picture, picture), *m_built);
    const QRectF words(picture + 12, 4, width() - picture - 16, height() - 8);
    painter.setFont(body_font());
    painter.setPen(t.ink);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignTop,
                     painter.fontMetrics().elidedText(text(), Qt::ElideRight, int(words.width())));
    painter.setFont(small_font());
    painter.setPen(t.soft);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignBottom, m_day);
}

} // namespace mavlo::app
