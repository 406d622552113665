#include "ask/question_list.h"

#include "shell/spoken.h"
#include "shell/theme.h"

#include <QCoreApplication>
#include <algorithm>

namespace mavlo::app {

QuestionList::QuestionList(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_scroll(new QScrollArea(this))
    , m_find(new QLineEdit(this))
    , m_overview(new QPushButton(tr("Overview"), this))
    , m_unfit(new QPushButton(this)) {
    m_scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 12, 0, 0);
    layout->setSpacing(6);
    auto* top = new QHBoxLayout;
    top->setContentsMargins(20, 0, 16, 0);
    m_overview->setObjectName(QStringLiteral("overview"));
    m_overview->setProperty("flat", true);
    m_overview->setCheckable(true);
    top->addWidget(m_overview);
    m_find->setObjectName(QStringLiteral("find_question"));
    m_find->setAccessibleName(tr("Find a question or figure"));
    m_find->setPlaceholderText(tr("find a question or figure"));
    m_find->setClearButtonEnabled(true);
    m_find->setFixedHeight(28);
    top->addWidget(m_find, 1);
    layout->addLayout(top);
    auto* list = new QWidget;
    list->setObjectName(QStringLiteral("cards"));
    m_column = new QVBoxLayout(list);
    m_column->setContentsMargins(14, 0, 12, 16);
    m_column->setSpacing(1);
    for (const QuestionKind& kind : question_kinds()) add_card(kind);
    m_unfit->setObjectName(QStringLiteral("unfit"));
    m_unfit->setProperty("flat", true);
    m_unfit->setCheckable(true);
    m_column->addSpacing(8);
    m_column->addWidget(m_unfit, 0, Qt::AlignLeft);
    for (QuestionCard* card : m_cards) m_column->addWidget(unfit_row(*card));
    m_column->addStretch();
    m_scroll->setWidget(list);
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(m_scroll, 1);
    connect(m_find, &QLineEdit::textChanged, this, &QuestionList::arrange);
    connect(m_find, &QLineEdit::returnPressed, this, [this] {
        const auto first = std::find_if(m_cards.begin(), m_cards.end(),
                                        [this](QuestionCard* c) { return c->applies() && is_found(*c); });
        if (first != m_cards.end()) Q_EMIT chosen((*first)->kind().name);
    });
    connect(m_overview, &QPushButton::clicked, this, [this] { Q_EMIT chosen({}); });
    connect(m_unfit, &QPushButton::toggled, this, &QuestionList::arrange);
    follow_document();
}

void QuestionList::add_card(const QuestionKind& kind) {
    QWidget* list = m_column->parentWidget();
    if (!m_headings.contains(kind.group)) {
        auto* heading = new QLabel(spoken(kind.group), list);
        heading->setProperty("group", true);
        heading->setContentsMargins(14, 10, 0, 2);
        m_column->addWidget(heading);
        m_headings[kind.group] = heading;
    }
    auto* card = new QuestionCard(m_document, kind, list);
    const std::string name = kind.name;
    connect(card, &QuestionCard::chosen, this, [this, name] { Q_EMIT chosen(name); });
    connect(card, &QuestionCard::asked, this, [this, name] { Q_EMIT asked(name); });
    connect(card, &QuestionCard::inputs_changed, this, [this, name] { Q_EMIT inputs_changed(name); });
    connect(card, &QuestionCard::stop_wanted, this, [this, name] { Q_EMIT stop_wanted(name); });
    m_cards.push_back(card);
    m_column->addWidget(card);
}

/// One line with its reason.
QWidget* QuestionList::unfit_row(const QuestionCard& card) {
    auto* reason = new QLabel(m_column->parentWidget());
    reason->setObjectName(QString::fromStdString("unfit:" + card.kind().name));
    reason->setProperty("soft", true);
    reason->setWordWrap(true);
    reason->setTextFormat(Qt::RichText); // the program's own words, escaped
    reason->setContentsMargins(14, 3, 0, 3);
    m_reasons[card.kind().name] = reason;
    return reason;
}

QuestionCard* QuestionList::card(const std::string& question) const {
    const auto found = std::find_if(m_cards.begin(), m_cards.end(),
                                    [&](QuestionCard* c) { return c->kind().name == question; });
    return found == m_cards.end() ? nullptr : *found;
}

bool QuestionList::is_found(const QuestionCard& card) const {
    const QString words = m_find->text().trimmed();
    return words.isEmpty() || card.matches(words);
}

void QuestionList::set_chosen(const std::string& question) {
    m_chosen = question;
    m_overview->setChecked(question.empty());
    for (QuestionCard* c : m_cards) c->set_chosen(c->kind().name == question);
    arrange();
    // The rows have their new heights at once: what is clicked next is where it is seen.
    QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
    if (QuestionCard* c = card(m_chosen)) m_scroll->ensureWidgetVisible(c, 0, 40);
}

void QuestionList::follow_document() {
    if (const auto built = m_document.built())
        for (QuestionCard* c : m_cards) c->fit(built->machine);
    arrange();
}

/// The one in hand stays whatever is typed, and where it cannot be asked.
void QuestionList::arrange() {
    std::map<std::string, int> shown;
    int unfit = 0;
    for (QuestionCard* c : m_cards) {
        const std::string& name = c->kind().name;
        const bool found = is_found(*c), visible = name == m_chosen || (found && c->applies());
        c->setVisible(visible);
        shown[c->kind().group] += visible;
        unfit += found && !c->applies();
        QLabel* reason = m_reasons.at(name);
        reason->setText(
            QStringLiteral("<b>%1</b>&nbsp; %2").arg(c->title().toHtmlEscaped(), c->unmet().toHtmlEscaped()));
        reason->setVisible(found && !c->applies() && m_unfit->isChecked());
    }
    for (const auto& [group, heading] : m_headings) heading->setVisible(shown[group] > 0);
    m_unfit->setVisible(unfit > 0);
    m_unfit->setText(tr("%1 not for this machine").arg(unfit) +
                     (m_unfit->isChecked() ? QStringLiteral("  ▾") : QStringLiteral("  ▸")));
}

} // namespace mavlo::app
