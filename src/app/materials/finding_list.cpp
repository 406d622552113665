#include "materials/finding_list.h"

#include "shell/theme.h"

#include <QPainter>

namespace mavlo::app {
namespace {

/// A filled mark, a ring or a dot: read without colour too.
QIcon mark(Finding::Grade grade) {
    QPixmap picture(14, 14);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    painter.setPen(QPen(grade == Finding::Grade::Good ? t.good : t.caution, 2));
    if (grade == Finding::Grade::Fault) painter.setBrush(t.caution);
    if (grade == Finding::Grade::Good)
        painter.drawPolyline(QPolygonF{{3, 7}, {6, 10}, {11, 4}});
    else
        painter.drawEllipse(QPointF(7, 7), 4, 4);
    return picture;
}

} // namespace

FindingList::FindingList(QWidget* parent)
    : QListWidget(parent) {
    setWordWrap(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFont(small_font());
    setSpacing(1);
    connect(this, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (const int row = item->data(Qt::UserRole).toInt(); row > 0) Q_EMIT row_wanted(row);
    });
}

void FindingList::show_findings(const std::vector<Finding>& findings, const std::vector<std::string>& notes) {
    clear();
    for (const Finding& f : findings) {
        auto* item = new QListWidgetItem(mark(f.grade), QString::fromStdString(f.sentence), this);
        item->setData(Qt::UserRole, f.row);
    }
    for (const std::string& note : notes) {
        auto* item = new QListWidgetItem(QString::fromStdString(note), this);
        item->setForeground(theme().soft);
    }
}

QString FindingList::all_words() const {
    QString text;
    for (int i = 0; i < count(); ++i) text += item(i)->text() + QLatin1Char('\n');
    return text;
}

} // namespace mavlo::app
