#include "ask/question_card.h"

#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QPainter>
#include <cmath>

namespace mavlo::app {
namespace {

QString seconds_text(double seconds) {
    if (seconds < 0.95) return QStringLiteral("%1 s").arg(std::max(0.1, seconds), 0, 'f', 1);
    if (seconds < 90) return QStringLiteral("%1 s").arg(std::lround(seconds));
    return QStringLiteral("%1 min").arg(std::lround(seconds / 60));
}

} // namespace

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
    , m_price(new QLabel(this))
    , m_status(new QLabel(this))
    , m_button(new QPushButton(tr("Ask"), this)) {
    setObjectName(QString::fromStdString("card:" + kind.name));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 10, 16, 12);
    layout->setSpacing(4);
    auto* title = new QLabel(QString::fromStdString(kind.title), this);
    title->setFont(figure_font(14));
    layout->addWidget(title);
    auto* tells = new QLabel(QString::fromStdString(kind.tells), this);
    tells->setProperty("soft", true);
    tells->setWordWrap(true);
    layout->addWidget(tells);
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(0, 1);
    int row = 0;
    for (const QuestionInput& input : kind.inputs) {
        auto* label = new QLabel(QString::fromStdString(input.label), this);
        auto* edit = new QLineEdit(this);
        edit->setObjectName(QString::fromStdString("input:" + kind.name + ":" + input.key));
        edit->setAlignment(Qt::AlignRight);
        edit->setFixedSize(90, 26);
        edit->setToolTip(QString::fromStdString(input.help));
        label->setBuddy(edit);
        auto* unit = new QLabel(QString::fromStdString(input.unit == "deg" ? "°" : input.unit), this);
        unit->setProperty("soft", true);
        unit->setFixedWidth(32);
        grid->addWidget(label, row, 0);
        grid->addWidget(edit, row, 1);
        grid->addWidget(unit, row++, 2);
        m_inputs[input.key] = edit;
        connect(edit, &QLineEdit::textChanged, this, [this] {
            refresh_price();
            Q_EMIT inputs_changed();
        });
        connect(edit, &QLineEdit::returnPressed, this, &QuestionCard::asked);
    }
    layout->addLayout(grid);
    auto* foot = new QHBoxLayout;
    m_price->setProperty("soft", true);
    foot->addWidget(m_price, 1);
    m_button->setObjectName(QString::fromStdString("ask:" + kind.name));
    foot->addWidget(m_button);
    layout->addLayout(foot);
    m_status->setProperty("soft", true);
    m_status->setWordWrap(true);
    m_status->hide();
    layout->addWidget(m_status);
    connect(m_button, &QPushButton::clicked, this, [this] {
        Q_EMIT chosen();
        if (m_state == AnswerState::Running || m_state == AnswerState::Queued)
            Q_EMIT stop_wanted();
        else
            Q_EMIT asked();
    });
    connect(&document, &Document::changed, this, &QuestionCard::refresh_price);
    refresh_price();
}

QString QuestionCard::standard_text(const QuestionInput& input) const {
    if (!input.standard.starts_with("=")) return QString::fromStdString(input.standard);
    const double si = m_document.value(std::string(trim(std::string_view(input.standard).substr(1))));
    return QString::fromStdString(
        number_text(input.unit.empty() ? si : to_unit(si, *find_unit(input.unit)), 6));
}

Ask QuestionCard::ask() const {
    Ask ask;
    ask.design = m_document.design();
    ask.materials = m_document.project().materials;
    ask.variant = m_document.variant().name;
    for (const auto& [key, edit] : m_inputs)
        if (!edit->text().trimmed().isEmpty()) ask.with[key] = edit->text().trimmed().toStdString();
    return ask;
}

void QuestionCard::set_pace(double seconds_per_solve) {
    m_pace = seconds_per_solve;
    refresh_price();
}

void QuestionCard::refresh_price() {
    // An empty field means: as the design says. The value stands there in grey.
    for (const QuestionInput& input : m_kind.inputs)
        m_inputs[input.key]->setPlaceholderText(standard_text(input));
    const auto price = question_price(m_kind, ask());
    if (!price) {
        m_price->setText(QString::fromStdString(price.problems().front().sentence));
        m_button->setEnabled(m_state == AnswerState::Running || m_state == AnswerState::Queued);
        return;
    }
    const int threads = thread_count(0);
    m_price->setText(*price == 0
                         ? tr("no fields · at once")
                         : tr("%1 fields · about %2").arg(*price).arg(seconds_text(*price * m_pace / threads)));
    m_button->setEnabled(true);
}

void QuestionCard::set_state(AnswerState state, const QString& detail) {
    m_state = state;
    const bool busy = state == AnswerState::Running || state == AnswerState::Queued;
    m_button->setText(busy                                                         ? tr("Stop")
                      : state == AnswerState::None || state == AnswerState::Failed ? tr("Ask")
                                                                                   : tr("Ask again"));
    const QString word = state_word(state);
    m_status->setText(detail.isEmpty() ? word : word + QStringLiteral(": ") + detail);
    m_status->setVisible(!word.isEmpty() && state != AnswerState::Fresh);
    setToolTip(word);
    refresh_price();
    update();
}

void QuestionCard::set_chosen(bool chosen) {
    m_chosen = chosen;
    update();
}

void QuestionCard::mousePressEvent(QMouseEvent*) {
    Q_EMIT chosen();
}

void QuestionCard::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(m_chosen ? t.accent : t.line, 1));
    painter.setBrush(t.sheet);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    if (m_state == AnswerState::None) return;
    const QColor dot = m_state == AnswerState::Fresh                                       ? t.good
                       : m_state == AnswerState::Running || m_state == AnswerState::Queued ? t.accent
                                                                                           : t.caution;
    painter.setPen(Qt::NoPen);
    painter.setBrush(dot);
    painter.drawEllipse(QPointF(width() - 18, 20), 4, 4);
}

} // namespace mavlo::app
