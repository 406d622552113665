#include "weigh/report_page.h"

#include "shell/file_to_write.h"
#include "shell/spoken.h"
#include "shell/told_problem.h"
#include "storage/file.h"
#include "weigh/heading.h"

#include <QDate>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace mavlo::app {

ReportPage::ReportPage(Desk& desk, QWidget* parent)
    : QWidget(parent)
    , m_desk(desk)
    , m_title(new QLineEdit(this))
    , m_logo(new QLineEdit(this))
    , m_notes(new QPlainTextEdit(this))
    , m_tree(new QTreeWidget(this))
    , m_state(new QLabel(this))
    , m_preview(new ReportPreview)
    , m_soon(new QTimer(this))
    , m_writing(new Beside(this))
    , m_reading(new Beside(this)) {
    setObjectName(QStringLiteral("report"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(28, 6, 28, 12);
    layout->setSpacing(24);
    layout->addLayout(make_words(), 2);
    auto* right = new QVBoxLayout;
    right->addWidget(heading(tr("Its pages"), this));
    auto* scroll = new QScrollArea(this);
    scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    scroll->setWidget(m_preview);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    right->addWidget(scroll, 1);
    layout->addLayout(right, 3);
    connect(&desk.document, &Document::changed, this, &ReportPage::follow_document);
    m_soon->setSingleShot(true);
    m_soon->setInterval(250);
    connect(m_soon, &QTimer::timeout, this, &ReportPage::show_pages);
    const auto soon = [this] { m_soon->start(); };
    connect(m_tree, &QTreeWidget::itemChanged, this, soon);
    connect(m_title, &QLineEdit::textChanged, this, soon);
    connect(m_notes, &QPlainTextEdit::textChanged, this, soon);
}

QLayout* ReportPage::make_words() {
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    left->addWidget(heading(tr("Title"), this));
    m_title->setObjectName(QStringLiteral("report_title"));
    m_title->setAccessibleName(tr("Title"));
    left->addWidget(m_title);
    left->addWidget(heading(tr("Notes"), this));
    m_notes->setObjectName(QStringLiteral("report_notes"));
    m_notes->setAccessibleName(tr("Notes"));
    m_notes->setPlaceholderText(tr("What the reader should know: the task, the choice, what is open."));
    m_notes->setMaximumHeight(110);
    m_notes->setTabChangesFocus(true);
    left->addWidget(m_notes);
    left->addWidget(heading(tr("Logo (PNG, SVG or JPEG)"), this));
    auto* logo = new QHBoxLayout;
    m_logo->setObjectName(QStringLiteral("report_logo"));
    m_logo->setAccessibleName(tr("Logo"));
    auto* browse = new QPushButton(tr("Choose …"), this);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Logo"), QString(),
                                                          QStringLiteral("*.png *.svg *.jpg *.jpeg"));
        if (!file.isEmpty()) m_logo->setText(file);
    });
    logo->addWidget(m_logo, 1);
    logo->addWidget(browse);
    left->addLayout(logo);
    left->addLayout(make_choice(), 1);
    return left;
}

QLayout* ReportPage::make_choice() {
    auto* column = new QVBoxLayout;
    column->addWidget(heading(tr("Variants and their answers"), this));
    m_tree->setObjectName(QStringLiteral("report_parts"));
    m_tree->setAccessibleName(tr("Variants and their answers"));
    m_tree->setHeaderHidden(true);
    m_tree->setColumnCount(2);
    m_tree->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    m_tree->setSelectionMode(QAbstractItemView::NoSelection);
    m_tree->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    m_tree->setMinimumHeight(110);
    column->addWidget(m_tree, 1);
    m_state->setObjectName(QStringLiteral("report_state"));
    m_state->setWordWrap(true);
    m_state->setProperty("soft", true);
    column->addWidget(m_state);
    auto* save = new QHBoxLayout;
    save->addStretch();
    for (const char* suffix : {"html", "pdf"}) {
        auto* button = new QPushButton(tr("Write %1 …").arg(QString::fromLatin1(suffix).toUpper()), this);
        button->setObjectName(QStringLiteral("report_save:") + QString::fromLatin1(suffix));
        connect(button, &QPushButton::clicked, this, [this, suffix] { save_as(QString::fromLatin1(suffix)); });
        save->addWidget(button);
    }
    column->addLayout(save);
    return column;
}

/// The first page of each variant, then a page an answer; field, winding, materials and parameters follow.
void ReportPage::show_pages() {
    const auto report = gathered();
    std::vector<PreviewPage> pages;
    for (int v = 0; report && v < m_tree->topLevelItemCount(); ++v) {
        const QTreeWidgetItem& top = *m_tree->topLevelItem(v);
        const KeptVariant& variant = m_kept[std::size_t(v)];
        if (top.checkState(0) != Qt::Checked) continue;
        pages.push_back(first_page(*report, variant));
        for (const KeptAnswer* kept : ticked(top, variant))
            pages.push_back({spoken(kept->sheet.title), nullptr, kept->sheet, {}});
        pages.push_back({tr("Field, winding, materials, dimensions, parameters"),
                         nullptr,
                         {},
                         tr("of variant %1: these pages are always in it").arg(top.text(0))});
    }
    m_preview->show_pages(std::move(pages));
}

PreviewPage ReportPage::first_page(const Report& report, const KeptVariant& variant) const {
    QString words = QString::fromStdString(report.date) + QLatin1Char('\n') +
                    tr("Variant %1").arg(QString::fromStdString(variant.name));
    if (!report.notes.empty()) words += QLatin1Char('\n') + QString::fromStdString(report.notes);
    return {QString::fromStdString(report.title), variant.built, {}, words};
}

void ReportPage::showEvent(QShowEvent*) {
    follow_document();
}

/// Kept answers are read from the disk beside the window.
void ReportPage::follow_document() {
    if (!isVisible()) return;
    m_reading->start(
        [this, project = m_desk.document.project(),
         store = m_desk.document.answers()](const std::stop_token& stop) -> Beside::Taken {
            auto list = std::make_shared<std::vector<KeptVariant>>(kept_answers(project, store, stop));
            return [this, list] {
                m_kept = std::move(*list);
                fill_tree();
                show_pages();
            };
        },
        [this](const QString& sentence) { m_state->setText(sentence); });
}

/// Variants with the answers that are fresh and kept; those of the variant in hand ticked.
void ReportPage::fill_tree() {
    const Project& project = m_desk.document.project();
    m_title->setPlaceholderText(project.name.empty() ? tr("Design report")
                                                     : QString::fromStdString(project.name));
    const QSignalBlocker quiet(m_tree);
    m_tree->clear();
    bool answered = false;
    for (const KeptVariant& variant : m_kept) {
        const bool in_hand = variant.name == project.active;
        auto* top = new QTreeWidgetItem(m_tree, {QString::fromStdString(variant.name), QString()});
        top->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
        top->setCheckState(0, in_hand ? Qt::Checked : Qt::Unchecked);
        for (const KeptAnswer& kept : variant.answers) {
            answered = true;
            const QString sentence = QString::fromStdString(kept.answer.sentence);
            auto* item = new QTreeWidgetItem(top, {spoken(kept.sheet.title), sentence});
            item->setToolTip(1, sentence);
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
            item->setCheckState(0, Qt::Checked);
        }
        top->setExpanded(in_hand);
    }
    m_state->setText(answered
                         ? tr("Drawing, dimensions, field, winding, materials and parameters are always in it.")
                         : tr("No answers are kept yet: ask on Ask. Drawing, "
                              "winding, materials and parameters can be written already."));
}

std::vector<const KeptAnswer*> ReportPage::ticked(const QTreeWidgetItem& top, const KeptVariant& variant) {
    std::vector<const KeptAnswer*> list;
    for (int k = 0; k < top.childCount(); ++k)
        if (top.child(k)->checkState(0) == Qt::Checked) list.push_back(&variant.answers[std::size_t(k)]);
    return list;
}

Result<Report> ReportPage::gathered() const {
    Report report;
    report.title = (m_title->text().isEmpty() ? m_title->placeholderText() : m_title->text()).toStdString();
    report.notes = m_notes->toPlainText().toStdString();
    report.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    if (!m_logo->text().isEmpty())
        if (auto problem = take_logo(report, m_logo->text().toStdString())) return *problem;
    for (int v = 0; v < m_tree->topLevelItemCount(); ++v) {
        const QTreeWidgetItem* top = m_tree->topLevelItem(v);
        if (top->checkState(0) != Qt::Checked) continue;
        const KeptVariant& variant = m_kept[std::size_t(v)];
        ReportPart part{variant.name, {}};
        for (const KeptAnswer* kept : ticked(*top, variant)) part.answers.push_back(kept->answer);
        report.parts.push_back(std::move(part));
    }
    if (report.parts.empty()) return Problem{"", "Tick the variants that go into the report."};
    return report;
}

void ReportPage::write(const QString& file) {
    auto report = gathered();
    if (!report) return m_state->setText(told(report.problems().front()));
    m_state->setText(tr("Writing …"));
    const auto work = [report = std::move(*report), project = m_desk.document.project(),
                       name = file.toStdString()](const std::stop_token& stop) -> std::optional<Problem> {
        const auto html = report_html(report, project);
        if (!html) return html.problems().front();
        return name.ends_with(".pdf") ? write_pdf(*html, name, stop) : write_file_atomically(name, *html);
    };
    m_writing->start(
        [this, work, file](const std::stop_token& stop) -> Beside::Taken {
            return [this, problem = work(stop), file] {
                m_state->setText(problem ? told(*problem) : tr("Written: %1").arg(file));
            };
        },
        [this](const QString& sentence) { m_state->setText(sentence); });
}

void ReportPage::save_as(const QString& suffix) {
    const QString file = file_to_write(this, tr("Write the report"), {}, suffix);
    if (!file.isEmpty()) write(file);
}

} // namespace mavlo::app
