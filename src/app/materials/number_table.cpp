#include "materials/number_table.h"

#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>

namespace mavlo::app {
NumberTable::NumberTable(const QStringList& headers, QWidget* parent)
    : QTableWidget(0, int(headers.size()), parent) {
    setHorizontalHeaderLabels(headers);
    horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    verticalHeader()->setDefaultSectionSize(22);
    setFont(small_font());
    setToolTip(tr("Ctrl+V pastes a table; a cell may be typed over; Del takes rows out"));
    connect(this, &QTableWidget::cellChanged, this, &NumberTable::take_edit);
}

void NumberTable::show_rows(const std::vector<std::vector<double>>& rows) {
    const QSignalBlocker quiet(this);
    m_rows = rows;
    setRowCount(int(rows.size()));
    for (int r = 0; r < rowCount(); ++r)
        for (int c = 0; c < columnCount(); ++c) {
            const auto& row = rows[std::size_t(r)];
            auto* cell = new QTableWidgetItem(
                std::size_t(c) < row.size() ? QString::number(row[std::size_t(c)], 'g', 7) : QString());
            cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            setItem(r, c, cell);
        }
}

void NumberTable::set_editable(bool editable) {
    m_editable = editable;
    setEditTriggers(editable ? QAbstractItemView::DoubleClicked | QAbstractItemView::AnyKeyPressed |
                                   QAbstractItemView::EditKeyPressed
                             : QAbstractItemView::NoEditTriggers);
}

void NumberTable::go_to(int row) {
    if (row < 1 || row > rowCount()) return;
    selectRow(row - 1);
    scrollToItem(item(row - 1, 0));
}

void NumberTable::take_edit() {
    auto rows = m_rows;
    for (int r = 0; r < rowCount(); ++r)
        for (int c = 0; c < columnCount(); ++c) {
            const QString text = item(r, c)->text();
            std::string_view rest;
            std::string plain = text.toStdString();
            std::replace(plain.begin(), plain.end(), ',', '.');
            const auto number = read_number(plain, rest);
            if (!number || !rest.empty()) {
                show_rows(m_rows);
                Q_EMIT wrong_number(tr("“%1” is no number; the cell keeps its own.").arg(text));
                return;
            }
            if (text != QString::number(rows[std::size_t(r)][std::size_t(c)], 'g', 7))
                rows[std::size_t(r)][std::size_t(c)] = *number;
        }
    m_rows = rows;
    Q_EMIT edited(rows);
}

void NumberTable::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) {
        if (m_editable) Q_EMIT pasted(QApplication::clipboard()->text());
        return;
    }
    if (event->matches(QKeySequence::Copy)) {
        QString text;
        for (const auto& row : m_rows) {
            for (std::size_t c = 0; c < row.size(); ++c)
                text += (c ? "\t" : "") + QString::number(row[c], 'g', 9);
            text += QLatin1Char('\n');
        }
        QApplication::clipboard()->setText(text);
        return;
    }
    if (event->key() == Qt::Key_Delete && m_editable) {
        std::vector<std::vector<double>> kept;
        for (int r = 0; r < rowCount(); ++r)
            if (!selectionModel()->isRowSelected(r) && !item(r, 0)->isSelected() &&
                !item(r, columnCount() - 1)->isSelected())
                kept.push_back(m_rows[std::size_t(r)]);
        if (kept.size() == m_rows.size()) return;
        show_rows(kept);
        Q_EMIT edited(kept);
        return;
    }
    QTableWidget::keyPressEvent(event);
}

} // namespace mavlo::app
