#include "ask/pinned_answer.h"

#include "ask/answer_curves.h"
#include "ask/answer_figure.h"
#include "plot/plot_words.h"
#include "question/figure_names.h"
#include "question/input_words.h"
#include "question/reading_units.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QPushButton>
#include <QVBoxLayout>

namespace mavlo::app {

PinnedAnswer::PinnedAnswer(QWidget* parent)
    : QWidget(parent)
    , m_title(new QLabel(this))
    , m_note(new QLabel(this))
    , m_figures(new QHBoxLayout)
    , m_choice(new QComboBox(this))
    , m_plot(new Plot(this))
    , m_map(new MapPlot(this)) {
    setObjectName(QStringLiteral("pinned"));
    m_plot->setObjectName(QStringLiteral("pinned_plot"));
    m_map->setObjectName(QStringLiteral("pinned_map"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 18, 8, 14);
    layout->setSpacing(8);
    auto* head = new QHBoxLayout;
    m_title->setProperty("title", true);
    m_title->setMinimumWidth(60);
    head->addWidget(m_title, 1);
    auto* drop = new QPushButton(QStringLiteral("×"), this);
    drop->setObjectName(QStringLiteral("pinned_drop"));
    drop->setProperty("flat", true);
    drop->setToolTip(tr("No longer kept in view"));
    drop->setAccessibleName(drop->toolTip());
    connect(drop, &QPushButton::clicked, this, &PinnedAnswer::dropped);
    head->addWidget(drop);
    layout->addLayout(head);
    m_note->setProperty("soft", true);
    m_note->setWordWrap(true);
    layout->addWidget(m_note);
    m_figures->setSpacing(20);
    layout->addLayout(m_figures);
    m_choice->setObjectName(QStringLiteral("pinned_choice"));
    layout->addWidget(m_choice, 0, Qt::AlignLeft);
    layout->addWidget(m_plot, 1);
    layout->addWidget(m_map, 1);
    layout->addStretch(0);
    connect(m_choice, &QComboBox::currentIndexChanged, this, &PinnedAnswer::show_choice);
}

void PinnedAnswer::show_answer(const QString& title, const Answer& answer) {
    m_shown = in_reading_units(answer);
    m_groups = fold_lines(curve_groups(m_shown));
    std::erase_if(m_groups, [](const CurveGroup& group) { return group.ranked; });
    m_title->setText(title);
    QStringList words{QString::fromStdString(answer.variant)};
    for (const std::string& input : inputs_in_words(answer)) words << QString::fromStdString(input);
    m_note->setText(words.join(QStringLiteral(" · ")));
    show_figures();
    m_choice->blockSignals(true);
    m_choice->clear();
    for (const Map& map : m_shown.maps) m_choice->addItem(title_of(name_words(map.name)));
    for (const CurveGroup& group : m_groups) m_choice->addItem(title_of(spoken(group.title)));
    m_choice->blockSignals(false);
    m_choice->setVisible(m_choice->count() > 0);
    show_choice(m_choice->currentIndex());
    show();
}

void PinnedAnswer::show_figures() {
    while (QLayoutItem* item = m_figures->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (const std::string& name : headline_figures(m_shown)) {
        const Figure* figure = figure_of(m_shown, name);
        if (!figure) continue;
        auto* label = new QLabel(spoken(figure_name(name).label) + QLatin1Char('\n') +
                                     QString::fromStdString(shown_figure(*figure)),
                                 this);
        label->setMinimumWidth(40);
        m_figures->addWidget(label);
    }
    m_figures->addStretch(1);
}

void PinnedAnswer::show_choice(int index) {
    const int maps = int(m_shown.maps.size());
    m_map->setVisible(index >= 0 && index < maps);
    m_plot->setVisible(index >= maps);
    if (index < 0) return;
    if (index < maps) return m_map->show_map(m_shown.maps[std::size_t(index)], {});
    const CurveGroup& group = m_groups[std::size_t(index - maps)];
    m_plot->show_curves(group_curves(m_shown, group, group.names), QString::fromStdString(group.x_label),
                        QString::fromStdString(group.y_label));
}

} // namespace mavlo::app
