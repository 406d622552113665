#include "weigh/question_checks.h"

namespace mavlo::app {

QuestionChecks::QuestionChecks(Document& document, const QString& name, QWidget* parent)
    : QListWidget(parent)
    , m_document(document) {
    setObjectName(name);
    setSelectionMode(QAbstractItemView::NoSelection);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored); // what the page leaves
    setMinimumHeight(84);
    for (const QuestionKind& kind : question_kinds()) {
        auto* item = new QListWidgetItem(QString::fromStdString(kind.title), this);
        item->setData(Qt::UserRole, QString::fromStdString(kind.name));
        item->setToolTip(QString::fromStdString(kind.tells));
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
        item->setCheckState(kind.name == "key-figures" ? Qt::Checked : Qt::Unchecked);
    }
    connect(&document, &Document::changed, this, &QuestionChecks::follow_document);
}

void QuestionChecks::showEvent(QShowEvent*) {
    follow_document();
}

/// Those that the machine cannot be asked are out of reach, and say why.
void QuestionChecks::follow_document() {
    const auto built = m_document.built();
    if (!built || !isVisible()) return;
    for (int k = 0; k < count(); ++k) {
        const QuestionKind* kind = find_question(item(k)->data(Qt::UserRole).toString().toStdString());
        const Problems unmet = unmet_needs(*kind, built->machine);
        item(k)->setHidden(!unmet.empty());
        if (!unmet.empty() && item(k)->checkState() == Qt::Checked) item(k)->setCheckState(Qt::Unchecked);
    }
}

std::vector<StudyQuestion> QuestionChecks::chosen() const {
    std::vector<StudyQuestion> list;
    for (int k = 0; k < count(); ++k)
        if (item(k)->checkState() == Qt::Checked) {
            const std::string name = item(k)->data(Qt::UserRole).toString().toStdString();
            list.push_back({name, {}, name});
        }
    return list;
}

void QuestionChecks::choose(const QString& question, bool on) {
    for (int k = 0; k < count(); ++k)
        if (item(k)->data(Qt::UserRole).toString() == question)
            item(k)->setCheckState(on ? Qt::Checked : Qt::Unchecked);
}

} // namespace mavlo::app
