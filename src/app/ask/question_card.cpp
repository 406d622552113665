#include "ask/question_card.h"

#include "plot/plot_words.h"
#include "project/shelf.h"
#include "quantity/quantity.h"
#include "question/figure_names.h"
#include "question/straight.h"
#include "sheet/choice_box.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/typed_number.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
QString seconds_text(double seconds) {
    if (seconds < 0.95) return QStringLiteral("%1 s").arg(std::max(0.1, seconds), 0, 'f', 1);
    if (seconds < 90) return QStringLiteral("%1 s").arg(std::lround(seconds));
    return QStringLiteral("%1 min").arg(std::lround(seconds / 60));
}

QString state_word(AnswerState state) {
    switch (state) {
    case AnswerState::Fresh:
        return QObject::tr("fresh");
    case AnswerState::Stale:
        return QObject::tr("stale: the design changed since");
    case AnswerState::Queued:
        return QObject::tr("queued");
    case AnswerState::Running:
        return QObject::tr("running");
    case AnswerState::Failed:
        return QObject::tr("failed");
    case AnswerState::None:
        break;
    }
    return {};
}

QuestionCard::QuestionCard(Document& document, const QuestionKind& kind, QWidget* parent)
    : QFrame(parent)
    , m_document(document)
    , m_kind(kind)
    , m_shown(kind.inputs)
    , m_layout(new QVBoxLayout(this))
    , m_title(new QLabel(this))
    , m_tells(new QLabel(this))
    , m_end(new QLabel(this))
    , m_body(new QWidget(this))
    , m_price(new RefusalLabel(this))
    , m_status(new RefusalLabel(this))
    , m_button(new QPushButton(tr("Ask"), this)) {
    setObjectName(QString::fromStdString("card:" + kind.name));
    setAccessibleName(spoken(kind.title));
    setAccessibleDescription(spoken(kind.tells));
    setFocusPolicy(Qt::TabFocus);
    m_layout->setSpacing(4);
    auto* head = new QHBoxLayout;
    m_title->setText(spoken(kind.title));
    head->addWidget(m_title, 1);
    m_end->setObjectName(QString::fromStdString("row:" + kind.name));
    m_end->setProperty("soft", true);
    head->addWidget(m_end);
    head->addSpacing(14); // the state's dot
    m_layout->addLayout(head);
    auto* body = new QVBoxLayout(m_body);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(4);
    m_layout->addWidget(m_body);
    m_tells->setText(spoken(kind.tells));
    m_tells->setProperty("soft", true);
    m_tells->setWordWrap(true);
    m_tells->setMinimumWidth(120); // else a long sentence asks for its own width
    body->addWidget(m_tells);
    add_inputs(body);
    auto* foot = new QHBoxLayout;
    m_title->setWordWrap(true);
    m_price->setObjectName(QString::fromStdString("price:" + kind.name));
    m_price->setProperty("soft", true);
    foot->addWidget(m_price, 1);
    m_button->setObjectName(QString::fromStdString("ask:" + kind.name));
    foot->addWidget(m_button);
    body->addLayout(foot);
    m_status->setProperty("soft", true);
    m_status->setObjectName(QString::fromStdString("status:" + kind.name));
    m_status->hide();
    for (const RefusalLabel* label : {m_price, m_status})
        connect(label, &RefusalLabel::place_wanted, this, &QuestionCard::place_wanted);
    m_layout->addWidget(m_status);
    connect(m_button, &QPushButton::clicked, this, [this] {
        Q_EMIT chosen();
        if (m_state == AnswerState::Running || m_state == AnswerState::Queued)
            Q_EMIT stop_wanted();
        else
            Q_EMIT asked();
    });
    connect(&document, &Document::changed, this, &QuestionCard::refresh_price);
    m_body->hide();
    dress();
}

/// The first inputs stand on the card, the others behind a button.
void QuestionCard::add_inputs(QVBoxLayout* body) {
    constexpr std::size_t first = 5;
    const auto grid_over = [&](QWidget* parent) {
        auto* grid = new QGridLayout(parent);
        grid->setContentsMargins(0, 0, 0, 0);
        grid->setVerticalSpacing(4);
        grid->setColumnStretch(0, 1);
        body->addWidget(parent);
        return grid;
    };
    const auto fill = [&](QGridLayout* grid, std::size_t from, std::size_t to) {
        for (std::size_t i = from; i < to; ++i) {
            const QuestionInput& input = m_kind.inputs[i];
            if (input.kind == InputKind::Choice && input.choices().size() == 1) continue; // nothing to choose
            auto* label = new QLabel(spoken(input.label), this);
            QWidget* field = add_field(input);
            field->setToolTip(spoken(input.help));
            label->setBuddy(field);
            label->setWordWrap(true); // a longer language needs two lines
            auto* unit = new QLabel(unit_words(input.unit), this);
            unit->setProperty("soft", true);
            unit->setMinimumWidth(std::max(30, unit->sizeHint().width()));
            grid->addWidget(label, int(i), 0);
            grid->addWidget(field, int(i), 1, Qt::AlignRight);
            grid->addWidget(unit, int(i), 2);
            m_rows.push_back({&input, label, unit, field});
        }
    };
    const std::size_t all = m_kind.inputs.size(), shown = all > first + 1 ? first : all;
    fill(grid_over(new QWidget(m_body)), 0, shown);
    if (shown == all) return;
    auto* more = m_more = new QPushButton(tr("More …"), m_body);
    more->setObjectName(QString::fromStdString("more:" + m_kind.name));
    more->setProperty("flat", true);
    more->setCheckable(true);
    body->addWidget(more, 0, Qt::AlignLeft);
    auto* rest = new QWidget(m_body);
    fill(grid_over(rest), shown, all);
    rest->hide();
    connect(more, &QPushButton::toggled, this, [more, rest](bool on) {
        rest->setVisible(on);
        more->setText(on ? tr("Less") : tr("More …"));
    });
}

QWidget* QuestionCard::add_field(const QuestionInput& input) {
    const QString name = QString::fromStdString("input:" + m_kind.name + ":" + input.key);
    const auto changed = [this] {
        refresh_price();
        Q_EMIT inputs_changed();
    };
    if (input.kind == InputKind::Choice) {
        auto* choice = new QComboBox(this);
        choice->setObjectName(name);
        fill_choices(*choice, input.choices());
        show_choice(*choice, QString::fromStdString(input.standard));
        choice->setFixedSize(118, 26);
        connect(choice, &QComboBox::currentIndexChanged, this, changed);
        return m_choices[input.key] = choice;
    }
    auto* edit = new QLineEdit(this);
    edit->setObjectName(name);
    edit->setAlignment(Qt::AlignRight);
    edit->setFixedSize(input.kind == InputKind::List ? 118 : 90, 26);
    connect(edit, &QLineEdit::textChanged, this, changed);
    connect(edit, &QLineEdit::returnPressed, this, &QuestionCard::asked);
    return m_inputs[input.key] = edit;
}

void QuestionCard::showEvent(QShowEvent* event) {
    QFrame::showEvent(event);
    refresh_price();
}

QString QuestionCard::standard_text(const QuestionInput& input) const {
    if (!input.standard.starts_with("=")) {
        const auto value = parse_quantity(input.standard);
        const bool has_unit = value && !value->dimension.plain() && !input.unit.empty();
        return QString::fromStdString(has_unit ? number_text(to_unit(value->si, *find_unit(input.unit)), 6)
                                               : input.standard);
    }
    const std::string path(trim(std::string_view(input.standard).substr(1)));
    const auto built = m_document.built();
    if (built && !built->machine.values.has(path)) return QStringLiteral("–"); // this design has none
    if (built && built->machine.values.is_auto(path)) return QStringLiteral("auto");
    const double si = m_document.value(path);
    return QString::fromStdString(
        number_text(input.unit.empty() ? si : to_unit(si, *find_unit(input.unit)), 6));
}

Ask QuestionCard::ask() const {
    Ask ask = ask_of(m_document.project(), m_document.variant());
    for (const auto& [key, edit] : m_inputs) {
        const QString text = edit->text().trimmed();
        const auto input = std::find_if(m_kind.inputs.begin(), m_kind.inputs.end(),
                                        [&, &wanted = key](const QuestionInput& i) { return i.key == wanted; });
        const bool number = input != m_kind.inputs.end() && input->kind == InputKind::Number;
        if (!text.isEmpty()) ask.with[key] = number ? typed_number(text) : text.toStdString();
    }
    for (const auto& [key, choice] : m_choices) ask.with[key] = shown_choice(*choice).toStdString();
    return ask;
}

void QuestionCard::set_pace(double seconds_per_solve) {
    m_pace = seconds_per_solve;
    refresh_price();
}

/// Folded to a row, or a card.
void QuestionCard::dress() {
    if (m_chosen)
        m_layout->setContentsMargins(14, 10, 14, 12);
    else
        m_layout->setContentsMargins(14, 5, 14, 5);
    m_title->setFont(m_chosen ? figure_font(14) : body_font());
    m_end->setVisible(!m_chosen);
}

void QuestionCard::set_result(const QString& figure) {
    m_result = figure;
    refresh_price();
}

void QuestionCard::fit(const Machine& machine) {
    const Problems unmet = unmet_needs(m_kind, machine);
    m_unmet = unmet.empty() ? QString() : QString::fromStdString(unmet.front().sentence);
    const Facts facts = machine.facts();
    for (const InputRow& row : m_rows)
        for (QWidget* widget : {static_cast<QWidget*>(row.label), static_cast<QWidget*>(row.unit), row.field})
            widget->setVisible(!row.input->applies || row.input->applies(facts));
    dress_inputs(facts.linear);
    refresh_price();
}

QString QuestionCard::title() const {
    return m_title->text();
}
QString QuestionCard::tells() const {
    return m_tells->text();
}

/// In the words and units in which they are read.
void QuestionCard::dress_inputs(bool linear) {
    if (m_linear == linear) return;
    m_linear = linear;
    const auto words = [linear](const std::string& text) {
        return QString::fromStdString(linear ? straight_words(text, 1) : text);
    };
    m_title->setText(words(m_kind.title));
    m_tells->setText(words(m_kind.tells));
    m_shown = shown_inputs(m_kind, linear);
    for (const InputRow& row : m_rows) {
        const QuestionInput& input = m_shown[std::size_t(row.input - m_kind.inputs.data())];
        row.label->setText(spoken(input.label));
        row.unit->setText(unit_words(input.unit));
        row.field->setToolTip(spoken(input.help));
    }
}

std::optional<double> QuestionCard::seconds() const {
    if (!m_document.built()) return std::nullopt;
    const auto price = question_price(m_kind, ask(), m_document.built()->machine);
    return price ? std::optional(*price * m_pace / thread_count(0)) : std::nullopt;
}

bool QuestionCard::matches(const QString& words) const {
    QString all =
        QString::fromStdString(m_kind.title + " " + m_kind.tells + " " + m_kind.group + " " + m_kind.name);
    for (const std::string& figure : answering_figures(m_kind.name))
        all += QLatin1Char(' ') + spoken(figure_name(figure).label);
    const QStringList wanted = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    return std::all_of(wanted.begin(), wanted.end(),
                       [&](const QString& word) { return all.contains(word, Qt::CaseInsensitive); });
}

void QuestionCard::refresh_price() {
    if (!isVisible() || !m_document.built()) return;
    if (!m_chosen) {
        const auto wanted = m_result.isEmpty() && applies() ? seconds() : std::nullopt;
        m_end->setText(!m_result.isEmpty() ? m_result : wanted ? seconds_text(*wanted) : QString());
        return;
    }
    dress_inputs(m_document.built()->machine.facts().linear);
    // An empty field means: as the design says. The value stands there in grey.
    for (const QuestionInput& input : m_shown)
        if (const auto edit = m_inputs.find(input.key); edit != m_inputs.end())
            edit->second->setPlaceholderText(standard_text(input));
    const auto price = question_price(m_kind, ask(), m_document.built()->machine);
    if (!price) {
        m_price->show_problem(price.problems().front());
        m_button->setEnabled(m_state == AnswerState::Running || m_state == AnswerState::Queued);
        return;
    }
    const int threads = thread_count(0);
    m_price->say(*price == 0
                     ? tr("no fields · at once")
                     : tr("%1 fields · about %2").arg(*price).arg(seconds_text(*price * m_pace / threads)));
    m_button->setEnabled(true);
}

bool QuestionCard::set_input(const std::string& key, const QString& text) {
    if (const auto choice = m_choices.find(key); choice != m_choices.end()) {
        return show_choice(*choice->second, text);
    }
    const auto field = m_inputs.find(key);
    if (field == m_inputs.end()) return false;
    field->second->setText(text);
    return true;
}

void QuestionCard::set_state(AnswerState state, const QString& detail) {
    m_state = state;
    const bool busy = state == AnswerState::Running || state == AnswerState::Queued;
    m_button->setText(busy                                                         ? tr("Stop")
                      : state == AnswerState::None || state == AnswerState::Failed ? tr("Ask")
                                                                                   : tr("Ask again"));
    const QString word = state_word(state);
    m_status->say(detail.isEmpty() ? word : word + QStringLiteral(": ") + detail);
    m_status->setVisible(!word.isEmpty() && state != AnswerState::Fresh);
    setToolTip(word);
    refresh_price();
    update();
}

void QuestionCard::show_failure(const Problem& problem) {
    set_state(AnswerState::Failed);
    m_status->show_problem(problem, state_word(AnswerState::Failed) + QStringLiteral(": "));
}

bool QuestionCard::show_input(const std::string& key) {
    const auto row =
        std::find_if(m_rows.begin(), m_rows.end(), [&](const InputRow& r) { return r.input->key == key; });
    if (row == m_rows.end()) return false;
    if (m_more && !row->field->isVisibleTo(this)) m_more->setChecked(true);
    row->field->setFocus(Qt::ShortcutFocusReason);
    return true;
}

void QuestionCard::set_chosen(bool chosen) {
    m_chosen = chosen;
    m_body->setVisible(chosen);
    dress();
    refresh_price();
    update();
}

void QuestionCard::enterEvent(QEnterEvent* event) {
    QFrame::enterEvent(event);
    update();
}

void QuestionCard::leaveEvent(QEvent* event) {
    QFrame::leaveEvent(event);
    update();
}

void QuestionCard::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Return && event->key() != Qt::Key_Space) return QFrame::keyPressEvent(event);
    Q_EMIT chosen();
}

void QuestionCard::mousePressEvent(QMouseEvent*) {
    Q_EMIT chosen();
}

void QuestionCard::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (m_chosen || underMouse() || hasFocus()) {
        painter.setPen(QPen(m_chosen || hasFocus() ? t.accent : t.line, 1));
        painter.setBrush(t.sheet);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    }
    if (m_state == AnswerState::None) return;
    const QColor dot = m_state == AnswerState::Fresh                                       ? t.good
                       : m_state == AnswerState::Running || m_state == AnswerState::Queued ? t.accent
                                                                                           : t.caution;
    painter.setPen(Qt::NoPen);
    painter.setBrush(dot);
    painter.drawEllipse(QPointF(width() - 16, m_title->geometry().center().y()), 4, 4);
}

} // namespace mavlo::app
