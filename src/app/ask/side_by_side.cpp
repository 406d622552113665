#include "ask/side_by_side.h"

#include "ask/answer_figure.h"
#include "question/figure_names.h"
#include "question/words.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int row_height = 25, change_width = 90, least_value_width = 96, most_value_width = 190;

/// "+3.1 %" of the first, of shares "+3.1 points"; nothing where that says nothing.
QString change(const Figure& first, const Figure& other) {
    if (!first.value || !other.value || *first.value == 0) return {};
    const bool is_share = shown_figure(first).ends_with("%");
    const double percent = 100 * (is_share ? *other.value - *first.value : *other.value / *first.value - 1);
    if (std::abs(percent) < 0.005) return QObject::tr("the same");
    if (std::abs(percent) >= 1000) return {};
    return QStringLiteral("%1%2 %3")
        .arg(percent < 0 ? QStringLiteral("−") : QStringLiteral("+"))
        .arg(std::abs(percent), 0, 'f', std::abs(percent) < 1 ? 2 : 1)
        .arg(is_share ? QObject::tr("points") : QStringLiteral("%"));
}

} // namespace

SideBySide::SideBySide(QWidget* parent)
    : QTableWidget(parent) {
    setObjectName(QStringLiteral("side_by_side"));
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionMode(QAbstractItemView::NoSelection);
    setShowGrid(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(row_height);
    horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    horizontalHeader()->setTextElideMode(Qt::ElideMiddle);
}

void SideBySide::add_title(const QString& title) {
    const int row = rowCount();
    insertRow(row);
    auto* item = new QTableWidgetItem(title);
    item->setForeground(theme().soft);
    QFont font = item->font();
    font.setBold(true);
    item->setFont(font);
    setItem(row, 0, item);
}

void SideBySide::add_figure(const Figure& figure,
                            const std::vector<std::pair<QString, const Answer*>>& answers) {
    const int row = rowCount();
    insertRow(row);
    const FigureName name = figure_name(figure.name);
    setItem(row, 0, new QTableWidgetItem(spoken(name.label)));
    int column = 1;
    for (const auto& [title, answer] : answers) {
        const Figure* here = figure_of(*answer, figure.name);
        const auto put = [&](const QString& text, bool soft) {
            auto* item = new QTableWidgetItem(text);
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (soft) item->setForeground(theme().soft);
            setItem(row, column++, item);
        };
        put(here ? QString::fromStdString(shown_figure(*here)) : QStringLiteral("–"), false);
        if (column > 2) put(here ? change(figure, *here) : QString(), true);
    }
}

void SideBySide::show_answers(const std::vector<std::pair<QString, const Answer*>>& answers) {
    setRowCount(0);
    if (answers.empty()) return;
    setColumnCount(int(2 * answers.size()));
    QStringList heads{tr("Figure")};
    for (std::size_t k = 0; k < answers.size(); ++k) {
        heads << answers[k].first;
        if (k > 0) heads << tr("change");
    }
    setHorizontalHeaderLabels(heads);
    horizontalHeaderItem(0)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int k = 0; k < columnCount(); ++k) horizontalHeaderItem(k)->setToolTip(heads[k]);
    const Answer& first = *answers.front().second;
    for (const std::string& name : headline_figures(first))
        if (const Figure* figure = figure_of(first, name)) add_figure(*figure, answers);
    for (const FigureGroup& group : figure_groups(first)) {
        add_title(spoken(group.title));
        for (const Figure& figure : group.figures) add_figure(figure, answers);
    }
    fit_columns();
}

/// Values share what the names and the changes leave, within what reads well.
void SideBySide::fit_columns() {
    if (columnCount() == 0) return;
    const int answers = columnCount() / 2, names = sizeHintForColumn(0) + 16,
              room = viewport()->width() - names - change_width * (answers - 1),
              width = std::clamp(room / answers, least_value_width, most_value_width);
    setColumnWidth(0, names);
    for (int k = 1; k < columnCount(); ++k) setColumnWidth(k, k > 1 && k % 2 == 1 ? change_width : width);
}

void SideBySide::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    fit_columns();
}

QString SideBySide::as_text() const {
    QStringList lines;
    const auto line = [&](const auto& cell) {
        QStringList cells;
        for (int k = 0; k < columnCount(); ++k) cells << cell(k);
        lines << cells.join('\t');
    };
    line([&](int k) { return horizontalHeaderItem(k)->text(); });
    for (int row = 0; row < rowCount(); ++row)
        line([&](int k) { return item(row, k) ? item(row, k)->text() : QString(); });
    return lines.join('\n') + '\n';
}

void SideBySide::copy_table() {
    QApplication::clipboard()->setText(as_text());
}

} // namespace mavlo::app
