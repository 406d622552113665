#include "weigh/report_page.h"

#include "shell/file_to_write.h"
#include "shell/spoken.h"
#include "shell/told_problem.h"
#include "storage/file.h"
#include "weigh/heading.h"
#include "weigh/study_shelf.h"

#include <QDate>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace mavlo::app {
namespace {

/// The answer of a question with its own inputs, if it is kept.
std::optional<Answer> kept(const Document& document, const Variant& variant, const std::string& question) {
    return document.answers().find(question, ask_of(document.project(), variant));
}

} // namespace

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
    , m_writing(new Beside(this)) {
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
    if (report)
        for (const ReportPart& part : report->parts) {
            const Variant* variant = m_desk.document.project().find(part.variant);
            Problems problems; // a variant that cannot be built has no picture; writing says why
            PreviewPage first{spoken(report->title),
                              build_design(m_desk.document.project(), variant->design, problems),
                              {},
                              QString::fromStdString(report->date) + QLatin1Char('\n') +
                                  tr("Variant %1").arg(QString::fromStdString(part.variant)) +
                                  (report->notes.empty()
                                       ? QString()
                                       : QLatin1Char('\n') + QString::fromStdString(report->notes))};
            pages.push_back(std::move(first));
            for (const Answer& answer : part.answers) {
                AnswerSheet sheet = answer_sheet(answer);
                const QString title = spoken(sheet.title);
                pages.push_back({title, nullptr, std::move(sheet), {}});
            }
            pages.push_back(
                {tr("Field, winding, materials, dimensions, parameters"),
                 nullptr,
                 {},
                 tr("of variant %1: these pages are always in it").arg(QString::fromStdString(part.variant))});
        }
    m_preview->show_pages(std::move(pages));
}

void ReportPage::showEvent(QShowEvent*) {
    follow_document();
}

/// Variants that can be built, with the answers that are fresh and kept; those of the variant in hand ticked.
void ReportPage::follow_document() {
    if (!isVisible()) return;
    const Project& project = m_desk.document.project();
    m_title->setPlaceholderText(project.name.empty() ? tr("Design report")
                                                     : QString::fromStdString(project.name));
    const QSignalBlocker quiet(m_tree);
    m_tree->clear();
    int answers = 0;
    for (const Variant& variant : project.variants) {
        const bool in_hand = variant.name == project.active;
        auto* top = new QTreeWidgetItem(m_tree, {QString::fromStdString(variant.name), QString()});
        top->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
        top->setCheckState(0, in_hand ? Qt::Checked : Qt::Unchecked);
        for (const QuestionKind& kind : question_kinds()) {
            const auto answer = kept(m_desk.document, variant, kind.name);
            if (!answer) continue;
            ++answers;
            auto* item =
                new QTreeWidgetItem(top, {spoken(kind.title), QString::fromStdString(answer->sentence)});
            item->setData(0, Qt::UserRole, QString::fromStdString(kind.name));
            item->setToolTip(1, QString::fromStdString(answer->sentence));
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
            item->setCheckState(0, Qt::Checked);
        }
        top->setExpanded(in_hand);
    }
    m_state->setText(answers > 0
                         ? tr("Drawing, dimensions, field, winding, materials and parameters are always in it.")
                         : tr("No answers are kept yet: ask on Ask. Drawing, "
                              "winding, materials and parameters can be written already."));
    show_pages();
}

Result<Report> ReportPage::gathered() const {
    const Project& project = m_desk.document.project();
    Report report;
    report.title = (m_title->text().isEmpty() ? m_title->placeholderText() : m_title->text()).toStdString();
    report.notes = m_notes->toPlainText().toStdString();
    report.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    if (!m_logo->text().isEmpty())
        if (auto problem = take_logo(report, m_logo->text().toStdString())) return *problem;
    for (int v = 0; v < m_tree->topLevelItemCount(); ++v) {
        const QTreeWidgetItem* top = m_tree->topLevelItem(v);
        if (top->checkState(0) != Qt::Checked) continue;
        const Variant* variant = project.find(top->text(0).toStdString());
        if (!variant) continue;
        ReportPart part{variant->name, {}};
        for (int k = 0; k < top->childCount(); ++k)
            if (top->child(k)->checkState(0) == Qt::Checked)
                if (auto answer = kept(m_desk.document, *variant,
                                       top->child(k)->data(0, Qt::UserRole).toString().toStdString()))
                    part.answers.push_back(std::move(*answer));
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
