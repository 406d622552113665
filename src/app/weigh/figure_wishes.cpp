#include "weigh/figure_wishes.h"

#include "question/figure_names.h"
#include "question/key_figure.h"
#include "question/question.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QAbstractItemView>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr int question_role = Qt::UserRole, figure_role = Qt::UserRole + 1;

QString words_of(const QuestionKind& kind, const std::string& figure) {
    const QString title = spoken(kind.title);
    return figure.empty() ? FigureWishes::tr("all of “%1”").arg(title)
                          : spoken(figure_name(figure).label) + QStringLiteral(" · ") + title;
}

} // namespace

FigureWishes::FigureWishes(Document& document, const QString& name, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_name(name)
    , m_offered(new QStandardItemModel(this))
    , m_edit(new QLineEdit(this))
    , m_list(new QVBoxLayout) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(m_edit);
    m_list->setSpacing(2);
    layout->addLayout(m_list);
    m_edit->setObjectName(name);
    m_edit->setAccessibleName(tr("Figures to be known of each design"));
    m_edit->setPlaceholderText(tr("cogging, torque, efficiency …"));
    m_edit->setToolTip(tr("Figures come up as they are typed; each is answered by the question behind it"));
    auto* completer = new QCompleter(m_offered, m_edit);
    completer->setCaseSensitivity(Qt::CaseInsensitive);
    completer->setFilterMode(Qt::MatchContains);
    completer->setMaxVisibleItems(14);
    m_edit->setCompleter(completer);
    connect(completer, qOverload<const QString&>(&QCompleter::activated), this, &FigureWishes::take,
            Qt::QueuedConnection);
    connect(m_edit, &QLineEdit::returnPressed, this, [this, completer] {
        completer->setCompletionPrefix(m_edit->text());
        if (completer->completionCount() > 0) take(completer->currentCompletion());
    });
    connect(&document, &Document::changed, this, &FigureWishes::follow_document);
    show_wishes();
}

void FigureWishes::showEvent(QShowEvent*) {
    follow_document();
}

/// What the machine cannot be asked is not offered, and no longer wished.
void FigureWishes::follow_document() {
    if (!isVisible() || !m_document.built()) return;
    offer();
    const auto gone = std::erase_if(m_wishes, [&](const Wish& wish) {
        const QuestionKind* kind = find_question(wish.question);
        return !kind || !unmet_needs(*kind, m_document.built()->machine).empty();
    });
    if (gone == 0) return;
    show_wishes();
    Q_EMIT changed();
}

void FigureWishes::offer() {
    m_offered->clear();
    const auto add = [&](const QuestionKind& kind, const std::string& figure) {
        auto* item = new QStandardItem(words_of(kind, figure));
        item->setData(QString::fromStdString(kind.name), question_role);
        item->setData(QString::fromStdString(figure), figure_role);
        m_offered->appendRow(item);
    };
    for (const QuestionKind& kind : question_kinds()) {
        if (!unmet_needs(kind, m_document.built()->machine).empty()) continue;
        if (kind.name == "key-figures")
            for (const KeyFigure& figure : registry<KeyFigure>().all())
                if (!figure.applies || figure.applies(m_document.built()->machine.facts()))
                    add(kind, figure.name);
        for (const std::string& figure : answering_figures(kind.name)) add(kind, figure);
        add(kind, {});
    }
}

bool FigureWishes::wish(const std::string& question, const std::string& figure) {
    const QuestionKind* kind = find_question(question);
    if (!kind || !m_document.built() || !unmet_needs(*kind, m_document.built()->machine).empty()) return false;
    const Wish wanted{question, figure};
    if (std::find(m_wishes.begin(), m_wishes.end(), wanted) == m_wishes.end()) m_wishes.push_back(wanted);
    show_wishes();
    Q_EMIT changed();
    return true;
}

void FigureWishes::take(const QString& words) {
    const auto found = m_offered->findItems(words);
    if (found.isEmpty()) return;
    m_edit->clear();
    wish(found.front()->data(question_role).toString().toStdString(),
         found.front()->data(figure_role).toString().toStdString());
}

void FigureWishes::show_wishes() {
    for (QWidget* row : m_rows) {
        row->hide();
        row->deleteLater(); // one of its buttons may be speaking
    }
    m_rows.clear();
    for (const Wish& wish : m_wishes) {
        const QuestionKind* kind = find_question(wish.question);
        auto* row = new QWidget(this);
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(4, 0, 0, 0);
        auto* words = new QLabel(words_of(*kind, wish.figure), row);
        words->setToolTip(spoken(kind->tells));
        words->setMinimumWidth(40);
        line->addWidget(words, 1);
        auto* drop = new QPushButton(QStringLiteral("×"), row);
        drop->setObjectName(m_name + QStringLiteral(":drop:") + QString::fromStdString(wish.question));
        drop->setProperty("flat", true);
        drop->setFixedWidth(26);
        drop->setToolTip(tr("No longer asked"));
        drop->setAccessibleName(tr("Drop %1").arg(words->text()));
        line->addWidget(drop);
        connect(drop, &QPushButton::clicked, this, [this, wish] {
            std::erase(m_wishes, wish);
            show_wishes();
            Q_EMIT changed();
        });
        m_list->addWidget(row);
        m_rows.push_back(row);
    }
}

std::vector<StudyQuestion> FigureWishes::chosen() const {
    std::vector<StudyQuestion> list;
    for (const Wish& wish : m_wishes) {
        const auto is_same = [&](const StudyQuestion& asked) { return asked.name == wish.question; };
        if (std::none_of(list.begin(), list.end(), is_same)) list.push_back({wish.question, {}, wish.question});
    }
    return list;
}

std::vector<std::string> FigureWishes::figures() const {
    std::vector<std::string> list;
    for (const Wish& wish : m_wishes)
        if (!wish.figure.empty() && std::find(list.begin(), list.end(), wish.figure) == list.end())
            list.push_back(wish.figure);
    return list;
}

} // namespace mavlo::app
