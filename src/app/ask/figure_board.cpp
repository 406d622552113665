#include "ask/figure_board.h"

#include "question/figure_names.h"
#include "question/words.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

void clear(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

QLabel* value_label(const Figure& figure, QWidget* parent) {
    auto* value = new QLabel(QString::fromStdString(shown_figure(figure)), parent);
    value->setObjectName(QString::fromStdString("figure:" + figure.name));
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    if (!figure.value)
        value->setToolTip(QObject::tr("Does not apply, or is not computed by this question yet."));
    return value;
}

QString named(const FigureName& name) {
    return QString::fromStdString(name.symbol.empty() ? name.label : name.label + "  " + name.symbol);
}

} // namespace

FigureBoard::FigureBoard(QWidget* parent)
    : QWidget(parent)
    , m_large(new QHBoxLayout)
    , m_circuit(new CircuitView(this))
    , m_heat(new HeatView(this))
    , m_bar(new LossBarView(this))
    , m_rest(new QWidget(this))
    , m_columns(new QHBoxLayout(m_rest)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 4, 0, 4);
    layout->setSpacing(6);
    m_large->setSpacing(40);
    layout->addLayout(m_large);
    layout->addWidget(m_circuit);
    layout->addWidget(m_heat);
    layout->addWidget(m_bar);
    m_columns->setContentsMargins(0, 0, 0, 0);
    m_columns->setSpacing(26);
    layout->addWidget(m_rest);
}

void FigureBoard::show_answer(const Answer& answer) {
    clear(m_large);
    clear(m_columns);
    m_to_add.reset();
    m_circuit->show_answer(answer);
    m_heat->show_answer(answer);
    Answer others = answer;
    if (m_circuit->isVisibleTo(this))
        std::erase_if(others.figures, [](const Figure& f) { return CircuitView::draws(f.name); });
    if (m_heat->isVisibleTo(this))
        std::erase_if(others.figures, [](const Figure& f) { return is_in_axial_cut(f.name) || !f.value; });
    add_large(others);
    m_to_add = std::move(others); // the groups come when they are unfolded
    const auto bar = loss_bar(answer);
    m_has_bar = bar.has_value();
    m_bar->show_bar(bar);
}

void FigureBoard::add_large(const Answer& answer) {
    for (const std::string& name : headline_figures(answer))
        for (const Figure& figure : answer.figures) {
            if (figure.name != name) continue;
            auto* cell = new QWidget(this);
            auto* box = new QVBoxLayout(cell);
            box->setContentsMargins(0, 0, 0, 0);
            box->setSpacing(0);
            auto* label = new QLabel(named(figure_name(name)), cell);
            label->setProperty("soft", true);
            auto* value = value_label(figure, cell);
            value->setFont(figure_font(24));
            box->addWidget(label);
            box->addWidget(value);
            m_large->addWidget(cell);
        }
    m_large->addStretch();
}

/// In columns of about the same height, a group never torn.
void FigureBoard::add_groups(const Answer& answer) {
    const auto groups = figure_groups(answer);
    std::size_t rows = 0;
    for (const FigureGroup& group : groups) rows += group.figures.size() + 1;
    const std::size_t columns = rows > 36 ? 4 : rows > 6 ? 3 : 2, high = (rows + columns - 1) / columns;
    QGridLayout* grid = nullptr;
    std::size_t used = 0;
    int row = 0;
    for (const FigureGroup& group : groups) {
        if (!grid || (used > 0 && used + group.figures.size() + 1 > high + 1)) {
            auto* column = new QWidget(m_rest);
            grid = new QGridLayout(column);
            grid->setContentsMargins(0, 0, 0, 0);
            grid->setHorizontalSpacing(10);
            grid->setVerticalSpacing(1);
            grid->setColumnStretch(0, 1);
            m_columns->addWidget(column, 1, Qt::AlignTop);
            used = 0;
            row = 0;
        }
        auto* title = new QLabel(spoken(group.title), m_rest);
        title->setFont(figure_font(12));
        grid->addWidget(title, row++, 0, 1, 2);
        for (const Figure& figure : group.figures) {
            auto* label = new QLabel(named(figure_name(figure.name)), m_rest);
            label->setProperty("soft", true);
            auto* value = value_label(figure, m_rest);
            value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
            grid->addWidget(label, row, 0);
            grid->addWidget(value, row++, 1);
        }
        used += group.figures.size() + 1;
    }
}

void FigureBoard::set_folded(bool folded, bool with_bar) {
    if (!folded && m_to_add) {
        add_groups(*m_to_add);
        m_to_add.reset();
    }
    m_rest->setVisible(!folded);
    m_bar->setVisible(m_has_bar && (with_bar || !folded));
}

} // namespace mavlo::app
