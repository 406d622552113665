#include "draw/data_sheet_dialog.h"

#include "shell/spoken.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QScrollArea>
#include <QVBoxLayout>

namespace mavlo::app {
namespace {

constexpr int empty_rows = 24, words_width = 300;

QString list(const QString& title, const std::vector<std::string>& lines) {
    if (lines.empty()) return {};
    QString text = QStringLiteral("<p><b>%1</b>").arg(title);
    for (const std::string& line : lines)
        text += QStringLiteral("<br>") + QString::fromStdString(line).toHtmlEscaped();
    return text + QStringLiteral("</p>");
}

} // namespace

DataSheetDialog::DataSheetDialog(Document& document, QWidget* parent)
    : QDialog(parent)
    , m_document(document)
    , m_table(new QTableWidget(empty_rows, 3, this))
    , m_words(new QLabel(this))
    , m_paste(new QPushButton(tr("Paste"), this))
    , m_take(new QPushButton(tr("Take into the design"), this)) {
    setObjectName(QStringLiteral("data_sheet"));
    setWindowTitle(tr("From a data sheet"));
    resize(980, 620);
    m_table->setObjectName(QStringLiteral("data_sheet_table"));
    m_words->setObjectName(QStringLiteral("data_sheet_words"));
    m_take->setObjectName(QStringLiteral("data_sheet_take"));
    m_take->setProperty("main", true);
    m_table->setHorizontalHeaderLabels({tr("As the sheet says"), tr("Value"), tr("Read as")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->verticalHeader()->setDefaultSectionSize(24);
    auto* layout = new QHBoxLayout(this);
    auto* left = new QVBoxLayout;
    auto* hint = new QLabel(
        tr("Type or paste the dimensions in the order in which the sheet gives them; a number without a "
           "unit has the usual one (mm, degrees, rpm, A)."),
        this);
    hint->setProperty("soft", true);
    hint->setWordWrap(true);
    left->addWidget(hint);
    left->addWidget(m_table, 1);
    layout->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->addWidget(m_paste, 0, Qt::AlignLeft);
    m_words->setWordWrap(true);
    m_words->setAlignment(Qt::AlignTop);
    m_words->setTextFormat(Qt::RichText);
    auto* scroll = new QScrollArea(this);
    scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    scroll->setWidget(m_words);
    scroll->setWidgetResizable(true);
    scroll->setFixedWidth(words_width);
    right->addWidget(scroll, 1);
    right->addWidget(m_take);
    layout->addLayout(right);
    for (QPushButton* button : {m_paste, m_take}) button->setAutoDefault(false);
    connect(m_table, &QTableWidget::cellChanged, this, &DataSheetDialog::read);
    connect(m_paste, &QPushButton::clicked, this, [this] { paste(QApplication::clipboard()->text()); });
    connect(m_take, &QPushButton::clicked, this, &DataSheetDialog::take);
    read();
}

void DataSheetDialog::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste))
        paste(QApplication::clipboard()->text());
    else
        QDialog::keyPressEvent(event);
}

void DataSheetDialog::paste(const QString& text) {
    const auto lines = sheet_lines(text.toStdString());
    const QSignalBlocker quiet(m_table);
    m_table->clearContents();
    m_table->setRowCount(std::max(empty_rows, int(lines.size()) + 4));
    for (std::size_t i = 0; i < lines.size(); ++i) {
        m_table->setItem(int(i), 0, new QTableWidgetItem(spoken(lines[i].label)));
        m_table->setItem(int(i), 1, new QTableWidgetItem(QString::fromStdString(lines[i].value)));
    }
    read();
}

void DataSheetDialog::read() {
    std::vector<SheetLine> lines;
    const auto text = [&](int row, int column) {
        const auto* cell = m_table->item(row, column);
        return cell ? cell->text().trimmed().toStdString() : std::string();
    };
    for (int row = 0; row < m_table->rowCount(); ++row) lines.push_back({text(row, 0), text(row, 1)});
    std::vector<SheetLine> given;
    for (const SheetLine& line : lines)
        if (!line.label.empty()) given.push_back(line);
    m_sheet = read_data_sheet(m_document.design(), given);
    show_readings();
}

void DataSheetDialog::show_readings() {
    const QSignalBlocker quiet(m_table);
    std::size_t next = 0, taken = 0;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        auto* cell = new QTableWidgetItem;
        cell->setFlags(Qt::ItemIsEnabled);
        m_table->setItem(row, 2, cell);
        const auto* label = m_table->item(row, 0);
        if (!label || label->text().trimmed().isEmpty()) continue;
        const SheetReading& reading = m_sheet.readings[next++];
        const bool good = reading.words.empty();
        taken += good;
        cell->setText(QString::fromStdString(good                    ? reading.label
                                             : reading.label.empty() ? reading.words
                                                                     : reading.label + ": " + reading.words));
        cell->setToolTip(cell->text());
        cell->setForeground(good ? theme().ink : theme().soft);
        QFont font = cell->font();
        font.setItalic(!good);
        cell->setFont(font);
    }
    m_take->setEnabled(taken > 0);
    QString words = list(tr("Contradictions"), m_sheet.contradictions);
    if (const auto trial = build_machine(m_sheet.design, m_document.project().materials); !trial && taken > 0)
        for (const Problem& p : trial.problems())
            words += list(tr("As it stands this cannot be built"), {p.sentence});
    if (next > 0) words += list(tr("Not given, kept from the design in hand"), m_sheet.missing);
    m_words->setText(words.isEmpty() ? tr("Nothing is missing, and nothing contradicts.") : words);
}

void DataSheetDialog::take() {
    m_document.set_design(tr("data sheet"), m_sheet.design);
    accept();
}

} // namespace mavlo::app
