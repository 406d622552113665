#include "shell/main_window.h"

#include "circuits/circuit_dialog.h"
#include "draw/data_sheet_dialog.h"
#include "draw/import_dialog.h"
#include "materials/material_shelf.h"
#include "shell/file_to_write.h"
#include "shell/kept_folders.h"
#include "shell/one_question.h"
#include "shell/plain_texts.h"
#include "shell/section_export.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/told_problem.h"
#include "start/specification_dialog.h"
#include "start/start_page.h"

#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QSettings>
#include <QShortcut>
#include <algorithm>

namespace mavlo::app {
namespace {
constexpr int most_recent = 8;
constexpr int side_width = 376;
} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent)
    , m_live(m_cache)
    , m_engine(m_document)
    , m_menu(new QMenu(this))
    , m_recent(new QMenu(tr("Recent projects"), this))
    , m_head(new HeadStrip(m_document, m_jobs, m_engine.jobs(), m_menu, this))
    , m_pages(new QStackedWidget(this))
    , m_side(new QStackedWidget(this))
    , m_section_page(new QWidget(this))
    , m_under_section(new QVBoxLayout)
    , m_section(new SectionView(m_document, this))
    , m_chips(new OverlayChips(m_section))
    , m_tell_tales(new TellTaleStrip(m_document, m_engine, this))
    , m_what_moves(new WhatMoves(m_document, m_jobs, this))
    , m_notice(new RefusalLabel(this))
    , m_reading(new QLabel(m_section))
    , m_explain(new Explain(this))
    , m_desk(m_document, m_jobs, m_engine, *m_section, *m_chips) {
    setWindowTitle(QStringLiteral("Mavlo"));
    show_plain_texts();
    setMinimumSize(1024, 640);
    auto* centre = new QWidget(this);
    auto* layout = new QVBoxLayout(centre);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(m_head);
    layout->addWidget(m_pages, 1);
    layout->addWidget(m_notice);
    layout->addWidget(m_tell_tales);
    setCentralWidget(centre);
    make_section_page();
    connect(&m_desk, &Desk::place_wanted, this, &MainWindow::show_place); // before benches put the cursor there
    make_benches();
    place_chips();
    m_notice->setObjectName(QStringLiteral("notice"));
    m_notice->setContentsMargins(24, 6, 24, 6);
    m_notice->hide();
    make_actions();
    connect_parts();
    show_bench(registry<BenchKind>().all().front().name);
    m_section->setFocus();
}

MainWindow::~MainWindow() {
    // What works beside the window ends before anything that it uses goes.
    m_jobs.stop_all();
    m_engine.jobs().end();
    m_jobs.end();
    m_live.end();
    // The views go first: a field that loses the focus still speaks to the document.
    hide();
    delete takeCentralWidget();
}

void MainWindow::make_section_page() {
    auto* layout = new QHBoxLayout(m_section_page);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    m_under_section->setSpacing(0);
    m_under_section->addWidget(m_section, 1);
    layout->addLayout(m_under_section, 1);
    auto* rule = new QWidget(m_section_page);
    rule->setFixedWidth(1);
    rule->setAutoFillBackground(true);
    rule->setObjectName(QStringLiteral("rule"));
    rule->setStyleSheet(QStringLiteral("background: %1").arg(theme().line.name()));
    layout->addWidget(rule);
    m_side->setFixedWidth(side_width);
    layout->addWidget(m_side);
    m_pages->addWidget(m_section_page);
}

void MainWindow::choose_file() {
    if (!may_discard()) return;
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Open a project"), {}, tr("Mavlo projects (*.mavlo)"));
    if (!file.isEmpty() && open_file(file)) show_bench(m_bench);
}

void MainWindow::choose_drawing() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Drawing of a part"), {}, tr("DXF drawings (*.dxf *.DXF)"));
    if (!file.isEmpty()) import_part(file);
}

void MainWindow::make_benches() {
    for (const BenchKind& kind : registry<BenchKind>().all()) {
        const BenchView view = kind.make(m_desk);
        if (view.page) m_pages->addWidget(view.page);
        if (view.side) m_side->addWidget(view.side);
        if (view.foot) m_under_section->addWidget(view.foot);
        m_views[kind.name] = view;
    }
}

void MainWindow::place_chips() {
    m_chips->move(24, 44);
    m_reading->setProperty("soft", true);
    m_reading->setProperty("ground", true);
    m_reading->setObjectName(QStringLiteral("reading"));
    const auto under = [this] { m_reading->move(24, std::max(76, m_chips->geometry().bottom() + 8)); };
    connect(m_chips, &OverlayChips::placed, this, under);
    under();
}

void MainWindow::make_actions() {
    auto add = [this](const QString& text, const QKeySequence& keys, auto slot) {
        auto* action = new QAction(text, this);
        action->setShortcut(keys);
        connect(action, &QAction::triggered, this, slot);
        addAction(action);
        m_menu->addAction(action);
        return action;
    };
    auto* fresh = m_menu->addMenu(tr("New project"));
    fresh->setToolTipsVisible(true);
    for (const StartingShape& shape : starting_shapes()) {
        const QString name = QString::fromStdString(shape.name);
        auto* action = fresh->addAction(spoken(shape.title));
        action->setToolTip(spoken(shape.tells));
        connect(action, &QAction::triggered, this, [this, name] {
            if (may_discard()) m_document.open_new(name);
        });
    }
    add(tr("Start page"), QKeySequence::New, [this] { show_start(); });
    add(tr("Open …"), QKeySequence::Open, [this] { choose_file(); });
    m_menu->addMenu(m_recent);
    connect(m_recent, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
    fill_recent();
    add(tr("Part from a DXF drawing …"), QKeySequence(Qt::CTRL | Qt::Key_I), [this] { choose_drawing(); });
    add(tr("From a data sheet …"), QKeySequence(Qt::CTRL | Qt::Key_T), [this] {
        auto* dialog = new DataSheetDialog(m_document, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    add(tr("Materials …"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] { show_materials(); });
    add(tr("Own circuits …"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { show_circuits(); });
    add(tr("Save"), QKeySequence::Save, [this] { save(); });
    add(tr("Save as …"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { save_as(); });
    add(tr("Section to a file …"), QKeySequence(Qt::CTRL | Qt::Key_E), [this] {
        const QString file =
            file_to_write(this, tr("Section to a file"), QString::fromStdString(m_document.project().name),
                          QStringLiteral("dxf svg pdf png vtu"));
        if (!file.isEmpty()) export_to(file);
    });
    m_menu->addSeparator();
    for (QAction* action : {m_document.undo_stack().createUndoAction(this, tr("Undo")),
                            m_document.undo_stack().createRedoAction(this, tr("Redo"))}) {
        const bool undo = action->text().startsWith(tr("Undo"));
        action->setShortcut(undo ? QKeySequence(Qt::CTRL | Qt::Key_Z)
                                 : QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z));
        addAction(action);
        m_menu->addAction(action);
    }
    m_menu->addSeparator();
    add(tr("Light or dark"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] { toggle_theme(); });
    add(tr("Whole section"), QKeySequence(Qt::CTRL | Qt::Key_0), [this] { m_section->fit(); });
    add(tr("What is under the cursor"), QKeySequence(Qt::Key_F1), [this] {
        const QPoint at = QCursor::pos();
        const QWidget* under = QApplication::widgetAt(at);
        if (!m_explain->explain(under && under->window() == this ? under : nullptr, at)) show_help();
    });
    add(tr("Keys and hints"), QKeySequence(Qt::SHIFT | Qt::Key_F1), [this] { show_help(); });
    add(tr("First steps"), {}, [this] { show_first_steps(); });
    m_menu->addSeparator();
    add(tr("Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); });
    int number = 0;
    for (const BenchKind& bench : registry<BenchKind>().all())
        connect(new QShortcut(QKeySequence(Qt::CTRL | Qt::Key(Qt::Key_1 + number++)), this),
                &QShortcut::activated, this, [this, name = bench.name] { show_bench(name); });
}

void MainWindow::connect_parts() {
    connect(m_head, &HeadStrip::bench_chosen, this, &MainWindow::show_bench);
    connect(m_section, &SectionView::reading, this, [this](const QString& text) {
        m_reading->setText(text);
        m_reading->adjustSize();
    });
    connect(m_section, &SectionView::angle_changed, this, &MainWindow::request_field);
    connect(m_section, &SectionView::refused, this, &MainWindow::notify);
    connect(m_chips, &OverlayChips::changed, this, &MainWindow::show_overlays);
    connect(&m_desk, &Desk::refused, m_notice, [this](const Problem& problem) {
        m_notice->show_problem(problem);
        m_notice->show();
    });
    connect(m_notice, &RefusalLabel::place_wanted, &m_desk, &Desk::place_wanted);
    connect(&m_desk, &Desk::field_wanted, this, &MainWindow::request_field);
    connect(&m_desk, &Desk::probe_wanted, this, [this] { show_bench("probe"); });
    connect(&m_desk, &Desk::vary_wanted, this, [this] { show_bench("weigh"); });
    connect(&m_desk, &Desk::figure_answered, m_tell_tales, &TellTaleStrip::set_full);
    connect(m_tell_tales, &TellTaleStrip::figure_clicked, m_what_moves, &WhatMoves::choose);
    connect(m_what_moves, &WhatMoves::refused, this, &MainWindow::notify);
    connect(m_what_moves, &WhatMoves::changed, this, [this] {
        m_tell_tales->set_chosen(m_what_moves->figure());
        m_section->set_effects(m_what_moves->effects());
    });
    connect(&m_jobs, &Jobs::failed, this, &MainWindow::notify);
    connect(&m_engine.jobs(), &Jobs::failed, this, &MainWindow::notify);
    connect(&m_document, &Document::changed, this, [this] {
        m_notice->hide();
        request_field();
    });
    connect(&m_live, &LiveField::solved, this, [this](const std::shared_ptr<const LiveResult>& result) {
        m_section->set_result(result);
        Q_EMIT m_desk.field_shown(*result);
    });
}

void MainWindow::show_bench(const std::string& name) {
    m_bench = name;
    m_tell_tales->show();
    const BenchView& view = m_views.at(name);
    m_head->set_bench(name);
    m_pages->setCurrentWidget(view.page ? view.page : m_section_page);
    for (const auto& [other, of_other] : m_views)
        if (of_other.foot) of_other.foot->setVisible(other == name);
    if (view.page) return;
    m_side->setCurrentWidget(view.side);
    m_section->set_tool(view.tool);
    m_section->set_editable(view.editable);
    m_chips->set_bench(name);
    show_overlays();
}

void MainWindow::show_overlays() {
    m_section->set_overlays(m_chips->chosen());
    request_field();
}

void MainWindow::start_from_specification() {
    open_specification(this, [this](const QString& name, const Design& design) {
        if (!may_discard()) return;
        m_document.open_design(name, design);
        show_bench("draw");
        m_section->fit();
    });
}

void MainWindow::request_field() {
    const BenchView& view = m_views.at(m_bench);
    const OverlaySet& overlays = m_section->overlays();
    if (view.page || !(view.live || overlays.needs_field()) || !m_document.is_good()) return;
    LiveRequest request{m_document.built(), m_section->angle(), view.current ? view.current() : CurrentWave{}};
    if (view.line) request.line = view.line();
    request.hand_moves = QGuiApplication::mouseButtons() & Qt::LeftButton;
    if (const Overlay* colours = overlays.colours()) {
        request.colour = colours->colour;
        request.paint = m_section->field_painter();
    }
    m_live.request(request);
}

bool MainWindow::is_idle() const {
    const auto sizing = findChildren<SpecificationDialog*>();
    return m_live.is_idle() && m_engine.is_idle() && m_what_moves->is_idle() &&
           std::all_of(sizing.begin(), sizing.end(), [](const auto* dialog) { return dialog->is_idle(); }) &&
           std::all_of(m_views.begin(), m_views.end(),
                       [](const auto& view) { return !view.second.is_idle || view.second.is_idle(); });
}

QString MainWindow::notice() const {
    return m_notice->isVisibleTo(this) ? m_notice->words() : QString();
}

void MainWindow::notify(const QString& sentence) {
    m_notice->say(sentence);
    m_notice->show();
}

/// The bench with the row that a refusal means; that takes it in hand.
void MainWindow::show_place(const std::string& path) {
    show_bench(input_key(path).empty() ? "draw" : "ask");
}

bool MainWindow::open_file(const QString& file) {
    if (const auto problem = m_document.open(file)) {
        notify(told(*problem));
        return false;
    }
    remember_file(m_document.file());
    m_section->fit();
    m_section->set_angle(0);
    tell_left_behind(m_document.file());
    return true;
}

void MainWindow::import_part(const QString& file) {
    auto* dialog = new ImportDialog(m_document, file, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this] {
        show_bench("draw");
        m_section->fit();
    });
    dialog->open();
}

void MainWindow::export_to(const QString& file) {
    const BenchView& view = m_views.at(m_bench);
    export_section(file, *m_section, m_document, view.current ? view.current() : CurrentWave{}, m_jobs,
                   [this](const QString& sentence) { notify(sentence); });
}

void MainWindow::show_materials(const std::string& name) {
    auto* shelf = new MaterialShelf(m_document, name, this);
    shelf->setAttribute(Qt::WA_DeleteOnClose);
    shelf->show();
}

void MainWindow::show_circuits() {
    auto* dialog = new CircuitDialog(m_document, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
}

void MainWindow::remember_file(const QString& file) {
    QSettings settings;
    QStringList recent = settings.value(QStringLiteral("recent")).toStringList();
    recent.removeAll(file);
    recent.prepend(file);
    settings.setValue(QStringLiteral("recent"), QStringList(recent.mid(0, most_recent)));
}

void MainWindow::fill_recent() {
    m_recent->clear();
    for (const QString& file : QSettings().value(QStringLiteral("recent")).toStringList())
        connect(m_recent->addAction(file), &QAction::triggered, this, [this, file] {
            if (may_discard()) open_file(file);
        });
    if (m_recent->isEmpty()) m_recent->addAction(tr("none yet"))->setEnabled(false);
}

/// Whether a file that says something else than when it was opened may be written over.
bool MainWindow::may_write_over() {
    if (!m_document.is_changed_elsewhere()) return true;
    const auto choice = one_question(
        this, tr("Changed elsewhere"),
        tr("%1 was changed by another program since it was opened.")
            .arg(QFileInfo(m_document.file()).fileName()),
        {{QMessageBox::Yes, tr("Write over it"), tr("what is here takes its place")},
         {QMessageBox::Save, tr("Save under another name …"), tr("both stay, each with its own changes")},
         {QMessageBox::Cancel, tr("Do not save yet"),
          tr("the file stays as the other program left it, and what is here unsaved")}});
    if (choice == QMessageBox::Save) save_as();
    return choice == QMessageBox::Yes;
}

bool MainWindow::save() {
    if (m_document.file().isEmpty()) return save_as();
    if (!may_write_over()) return m_document.undo_stack().isClean();
    if (const auto problem = m_document.save(m_document.file())) {
        notify(told(*problem));
        return false;
    }
    return true;
}

bool MainWindow::save_as() {
    const QString file =
        file_to_write(this, tr("Save the project"), QString::fromStdString(m_document.project().name),
                      QStringLiteral("mavlo"));
    if (file.isEmpty()) return false;
    if (const auto problem = m_document.save(file)) {
        notify(told(*problem));
        return false;
    }
    remember_file(m_document.file());
    return true;
}

bool MainWindow::may_discard() {
    if (m_document.undo_stack().isClean()) return true;
    const auto choice = one_question(
        this, tr("Unsaved changes"),
        tr("Save the changes to \"%1\" first?").arg(QString::fromStdString(m_document.project().name)),
        {{QMessageBox::Save, tr("Save"), tr("the file is as it stands here")},
         {QMessageBox::Discard, tr("Do not save"),
          tr("the file stays as it was saved last; answers that were computed are kept")},
         {QMessageBox::Cancel, tr("Stay"), tr("nothing changes")}});
    if (choice == QMessageBox::Save) return save();
    return choice == QMessageBox::Discard;
}

/// While a question is being computed; small things of the window itself end at once.
bool MainWindow::may_stop_computing() {
    const auto states = m_jobs.states();
    if (states.empty()) return true;
    const QString what = states.size() == 1
                             ? states.front().name
                             : tr("%1 and %2 more").arg(states.front().name).arg(states.size() - 1);
    return one_question(this, tr("Still computing"), tr("This is still being computed: %1.").arg(what),
                        {{QMessageBox::Close, tr("Close"),
                          tr("it stops; maps, sweeps and trade-offs go on from their finished points when they "
                             "are asked again")},
                         {QMessageBox::Cancel, tr("Stay"), tr("it goes on")}}) == QMessageBox::Close;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!may_discard() || !may_stop_computing()) {
        event->ignore();
        return;
    }
    m_jobs.stop_all();
    m_engine.jobs().stop_all();
    event->accept();
}

void MainWindow::toggle_theme() {
    set_theme(!theme().dark);
    if (auto* rule = findChild<QWidget*>(QStringLiteral("rule")))
        rule->setStyleSheet(QStringLiteral("background: %1").arg(theme().line.name()));
    QSettings().setValue(QStringLiteral("dark"), theme().dark);
}

} // namespace mavlo::app
