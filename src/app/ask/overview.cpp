#include "ask/overview.h"

#include "question/reading_units.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr int columns = 3;
constexpr std::size_t most_next = 6; ///< questions that are offered to be asked

} // namespace

Overview::Overview(QWidget* parent)
    : QWidget(parent)
    , m_title(new QLabel(this))
    , m_told(new QLabel(this))
    , m_again(new QPushButton(this))
    , m_scroll(new QScrollArea(this)) {
    m_scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    setObjectName(QStringLiteral("overview_page"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 18, 24, 12);
    m_title->setFont(figure_font(18));
    layout->addWidget(m_title);
    auto* line = new QHBoxLayout;
    m_told->setObjectName(QStringLiteral("overview_told"));
    m_told->setProperty("soft", true);
    m_told->setWordWrap(true);
    line->addWidget(m_told, 1);
    m_again->setObjectName(QStringLiteral("ask_stale"));
    line->addWidget(m_again);
    layout->addLayout(line);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(m_scroll, 1);
    connect(m_again, &QPushButton::clicked, this, [this] { Q_EMIT all_stale_wanted(m_stale); });
}

void Overview::add_tiles(const QString& heading, const std::vector<Entry>& entries, int& row) {
    if (entries.empty()) return;
    auto* words = new QLabel(heading, m_tiles);
    words->setProperty("group", true);
    m_grid->addWidget(words, row++, 0, 1, columns);
    int column = 0;
    for (const Entry& entry : entries) {
        auto* tile = new AnswerTile(*entry.kind, entry.title, entry.tells, m_tiles);
        if (entry.answer)
            tile->show_answer(in_reading_units(*entry.answer), entry.state, entry.why);
        else
            tile->show_price(entry.price);
        connect(tile, &AnswerTile::clicked, this, [this, name = entry.kind->name] { Q_EMIT chosen(name); });
        m_grid->addWidget(tile, row, column);
        if (++column == columns) column = 0, ++row;
    }
    if (column > 0) ++row;
}

void Overview::show_entries(const QString& variant, const std::vector<Entry>& entries) {
    std::vector<Entry> answered, next;
    m_stale.clear();
    double seconds = 0;
    for (const Entry& entry : entries) {
        if (entry.answer)
            answered.push_back(entry);
        else if (next.size() < most_next && !entry.price.isEmpty())
            next.push_back(entry);
        if (!entry.answer || entry.state != AnswerState::Stale) continue;
        m_stale.push_back(entry.kind->name);
        seconds += entry.seconds;
    }
    m_title->setText(tr("What is known of %1").arg(variant));
    m_told->setText(
        answered.empty()
            ? tr("Nothing has been asked of this variant yet. The questions below come first in the work.")
            : (answered.size() == 1 ? tr("One answer") : tr("%1 answers").arg(answered.size())) +
                  (m_stale.empty() ? tr(", all fresh.") : tr(", %1 stale.").arg(m_stale.size())));
    m_again->setVisible(!m_stale.empty());
    m_again->setText(tr("Ask what is stale again · about %1").arg(seconds_text(seconds)));
    m_tiles = new QWidget;
    m_grid = new QGridLayout(m_tiles);
    m_grid->setContentsMargins(0, 0, 8, 8);
    m_grid->setSpacing(10);
    for (int k = 0; k < columns; ++k) m_grid->setColumnStretch(k, 1);
    int row = 0;
    add_tiles(tr("Answers"), answered, row);
    add_tiles(answered.empty() ? tr("To begin with") : tr("Not asked yet"), next, row);
    m_grid->setRowStretch(row, 1);
    m_scroll->setWidget(m_tiles); // the ones before go with it
}

} // namespace mavlo::app
