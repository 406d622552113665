#include "wind/coil_editor.h"

#include "project/project.h"
#include "quantity/quantity.h"
#include "sheet/table_source.h"
#include "shell/file_to_write.h"
#include "storage/file.h"
#include "winding/balance.h"
#include "winding/coil_table.h"

#include <QClipboard>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHeaderView>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace mavlo::app {
namespace {

/// A row of the table as coils_from_table() reads it.
QString row_text(const QTableWidget& table, int row) {
    QStringList cells;
    for (int c = 0; c < table.columnCount(); ++c) cells << table.item(row, c)->text().trimmed();
    return cells.join(',');
}

} // namespace

CoilEditor::CoilEditor(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_table(new QTableWidget(0, 6, this))
    , m_head(new QLabel(this))
    , m_balance(new QLabel(this))
    , m_words(new QLabel(this))
    , m_back(new QPushButton(tr("back to the proposal"), this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 8, 16, 8);
    m_head->setProperty("soft", true);
    m_head->setWordWrap(true);
    layout->addWidget(m_head);
    m_table->setObjectName(QStringLiteral("coil_table"));
    m_table->setAccessibleName(tr("Coils"));
    m_table->setHorizontalHeaderLabels(
        {tr("slot"), tr("layer"), tr("return"), tr("layer"), tr("turns"), tr("phase")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->setMinimumHeight(200);
    m_table->setToolTip(
        tr("Slots and layers count from 0. An empty return is a coil round the yoke; a minus before the "
           "phase turns the coil's sense. Ctrl+V pastes a table, Ctrl+C copies this one."));
    layout->addWidget(m_table, 1);
    auto* buttons = new QGridLayout;
    int place = 0;
    const auto add = [&](QPushButton* button, const char* name, auto slot) {
        button->setObjectName(QLatin1String(name));
        connect(button, &QPushButton::clicked, this, slot);
        buttons->addWidget(button, place / 2, place % 2);
        ++place;
    };
    add(new QPushButton(tr("add coil"), this), "coil_add", &CoilEditor::add_coil);
    add(new QPushButton(tr("remove coil"), this), "coil_remove", &CoilEditor::remove_coil);
    add(new QPushButton(tr("open table …"), this), "coil_open", &CoilEditor::open_file);
    add(new QPushButton(tr("save table …"), this), "coil_save", &CoilEditor::save_file);
    add(m_back, "coil_back", [this] { set_coils(tr("proposed winding"), {}); });
    layout->addLayout(buttons);
    for (QLabel* label : {m_balance, m_words}) {
        label->setWordWrap(true);
        layout->addWidget(label);
    }
    m_balance->setObjectName(QStringLiteral("coil_balance"));
    m_words->setObjectName(QStringLiteral("coil_words"));
    m_words->setProperty("caution", true);
    connect(m_table, &QTableWidget::cellChanged, this, &CoilEditor::take_cell);
    connect(&document, &Document::changed, this, &CoilEditor::refresh);
}

const std::vector<Coil>& CoilEditor::coils() const {
    static const std::vector<Coil> none;
    if (!m_document.design().coils.empty()) return m_document.design().coils;
    const auto& built = m_document.built();
    return built && built->machine.wound() ? built->machine.winding.layout.coils : none;
}

int CoilEditor::phases() const {
    const auto& built = m_document.built();
    return built && built->machine.wound() ? built->machine.winding.phases : 3;
}

void CoilEditor::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
}

void CoilEditor::refresh() {
    if (!isVisible()) return;
    const QSignalBlocker quiet(m_table);
    const auto& built = m_document.built();
    const bool by_hand = !m_document.design().coils.empty();
    const int m = phases();
    m_back->setEnabled(by_hand);
    m_head->setText(
        by_hand ? tr("Wound by hand: these coils are the design's own.")
                : tr("As proposed. Change a cell, paste a table, or drag a coil side on the belt below, and "
                     "the coils become the design's own."));
    m_table->setRowCount(int(coils().size()));
    for (std::size_t i = 0; i < coils().size(); ++i) {
        const Coil& c = coils()[i];
        const bool ring = c.back.slot == outside_core;
        const QString cells[] = {QString::number(c.go.slot),
                                 QString::number(c.go.layer),
                                 ring ? QString() : QString::number(c.back.slot),
                                 ring ? QString() : QString::number(c.back.layer),
                                 QString::fromStdString(number_text(c.turns, 6)),
                                 (c.sign < 0 ? QStringLiteral("-") : QString()) +
                                     QString::fromStdString(phase_name(c.phase, m))};
        for (int k = 0; k < 6; ++k) m_table->setItem(int(i), k, new QTableWidgetItem(cells[k]));
        m_table->setVerticalHeaderItem(int(i), new QTableWidgetItem(QString::number(i)));
    }
    QString words;
    for (const Problem& p : m_document.problems())
        if (p.path.starts_with("coils")) words += QString::fromStdString(p.sentence) + '\n';
    m_words->setText(words.trimmed());
    if (!built || !built->machine.wound()) return;
    const WindingBalance balance = judge_balance(built->machine.winding.layout);
    QStringList lines;
    for (const std::string& sentence : balance.sentences) lines << QString::fromStdString(sentence);
    if (lines.isEmpty()) lines << tr("All phases have the same turns and flux linkage, evenly apart.");
    const int paths = built->machine.winding.paths;
    if (paths > 1) {
        double difference = 0;
        for (int k = 0; k < m; ++k)
            difference =
                std::max(difference, parallel_paths(built->machine.winding.layout, k, paths).difference);
        lines << (difference < 1e-9
                      ? tr("Its %1 parallel paths see the same voltage.").arg(paths)
                      : tr("Its %1 parallel paths differ by %2 % of their voltage, which drives a current "
                           "round them.")
                            .arg(paths)
                            .arg(100 * difference, 0, 'f', 1));
    }
    m_balance->setProperty("caution", !balance.balanced());
    m_balance->setProperty("soft", balance.balanced());
    m_balance->setText(lines.join('\n'));
}

void CoilEditor::set_coils(const QString& label, std::vector<Coil> coils) {
    Design design = m_document.design();
    design.coils = std::move(coils);
    if (design != m_document.design()) m_document.set_design(label, design);
}

void CoilEditor::take_cell(int row, int) {
    const auto changed = coils_from_table(row_text(*m_table, row).toStdString(), phases());
    if (!changed) {
        refresh();
        return m_words->setText(QString::fromStdString(changed.problems().front().sentence));
    }
    std::vector<Coil> all = coils();
    all[std::size_t(row)] = changed->front();
    set_coils(tr("change a coil"), all);
    refresh();
}

void CoilEditor::add_coil() {
    std::vector<Coil> all = coils();
    const int row = m_table->currentRow();
    Coil coil =
        all.empty() ? Coil{0, 1, {0, 0}, {1, 0}, 1} : all[std::size_t(row < 0 ? int(all.size()) - 1 : row)];
    // Into the first places that are free.
    const auto& built = m_document.built();
    const int slots = built ? built->machine.slots : 0,
              layers = built ? built->machine.winding.layout.input.layers : 1;
    std::vector<CoilSide> free;
    for (int slot = 0; slot < slots; ++slot)
        for (int layer = 0; layer < layers; ++layer)
            if (side_at(all, {slot, layer}).coil < 0) free.push_back({slot, layer});
    if (free.size() < 2) return m_words->setText(tr("Every place in the slots is taken; remove a coil first."));
    coil.go = free[0];
    coil.back = free[1];
    all.push_back(coil);
    set_coils(tr("add a coil"), all);
}

void CoilEditor::remove_coil() {
    std::vector<Coil> all = coils();
    const int row = m_table->currentRow();
    if (row < 0 || row >= int(all.size())) return;
    all.erase(all.begin() + row);
    set_coils(tr("remove a coil"), all);
}

bool CoilEditor::take_table(const QString& text) {
    const auto table = coils_from_table(text.toStdString(), phases());
    if (!table) {
        const Problem& p = table.problems().front();
        m_words->setText(QString::fromStdString(p.path + ": " + p.sentence));
        return false;
    }
    set_coils(tr("paste coils"), *table);
    return true;
}

void CoilEditor::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) {
        take_table(QGuiApplication::clipboard()->text());
    } else if (event->matches(QKeySequence::Copy)) {
        QGuiApplication::clipboard()->setText(QString::fromStdString(table_of_coils(coils(), phases())));
    } else {
        QWidget::keyPressEvent(event);
    }
}

void CoilEditor::open_file() {
    QString wrong;
    const QString text = open_table(this, tr("Coils"), wrong, tr("Tables (*.csv *.tsv *.txt);;All (*)"));
    if (!wrong.isEmpty()) m_words->setText(wrong);
    if (!text.isEmpty()) take_table(text);
}

void CoilEditor::save_file() {
    const QString name = file_to_write(this, tr("Coils"), QStringLiteral("coils"), QStringLiteral("csv"));
    if (name.isEmpty()) return;
    if (const auto problem = write_file_atomically(name.toStdString(), table_of_coils(coils(), phases())))
        m_words->setText(QString::fromStdString(problem->path + ": " + problem->sentence));
}

} // namespace mavlo::app
