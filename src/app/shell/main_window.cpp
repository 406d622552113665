#include "shell/main_window.h"

#include "shell/theme.h"

#include <QCloseEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMessageBox>
#include <QSettings>
#include <QShortcut>
#include <QTimer>
#include <cmath>

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
    , m_section(new SectionView(m_document, this))
    , m_sheet(new Sheet(m_document, this))
    , m_wind(new WindPanel(m_document, this))
    , m_belt(new Belt(m_document, this))
    , m_probe(new ProbePanel(m_document, this))
    , m_ask(new AskBench(m_document, m_jobs, this))
    , m_weigh(new WeighBench(m_document, m_engine, this))
    , m_tell_tales(new TellTaleStrip(m_document, m_engine, this))
    , m_notice(new QLabel(this))
    , m_reading(new QLabel(m_section)) {
    setWindowTitle(QStringLiteral("Mavlo"));
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
    m_pages->addWidget(m_ask);
    m_pages->addWidget(m_weigh);
    m_notice->setObjectName(QStringLiteral("notice"));
    m_notice->setWordWrap(true);
    m_notice->setContentsMargins(24, 6, 24, 6);
    m_notice->hide();
    make_actions();
    connect_parts();
    show_bench(Bench::Draw);
    m_section->setFocus();
}

MainWindow::~MainWindow() {
    // The views go first: a field that loses the focus still speaks to the document.
    hide();
    delete takeCentralWidget();
}

void MainWindow::make_section_page() {
    auto* page = new QWidget(this);
    auto* layout = new QHBoxLayout(page);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    auto* left = new QVBoxLayout;
    left->setSpacing(0);
    left->addWidget(m_section, 1);
    left->addWidget(m_belt);
    layout->addLayout(left, 1);
    auto* rule = new QWidget(page);
    rule->setFixedWidth(1);
    rule->setAutoFillBackground(true);
    rule->setObjectName(QStringLiteral("rule"));
    rule->setStyleSheet(QStringLiteral("background: %1").arg(theme().line.name()));
    layout->addWidget(rule);
    m_side->addWidget(m_sheet);
    m_side->addWidget(m_wind);
    m_side->addWidget(m_probe);
    m_side->setFixedWidth(side_width);
    layout->addWidget(m_side);
    m_pages->addWidget(page);
    make_overlay_chips();
}

void MainWindow::make_overlay_chips() {
    m_chips = new QWidget(m_section);
    auto* layout = new QHBoxLayout(m_chips);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    struct Chip {
        const char* name;
        bool SectionView::Overlays::*flag;
    };
    for (const Chip& chip : {Chip{"phases", &SectionView::Overlays::phases},
                             {"flux density", &SectionView::Overlays::field},
                             {"loss density", &SectionView::Overlays::losses},
                             {"flux lines", &SectionView::Overlays::lines},
                             {"mesh", &SectionView::Overlays::mesh}}) {
        auto* button = new QPushButton(tr(chip.name), m_chips);
        button->setObjectName(QStringLiteral("overlay:") + QString::fromLatin1(chip.name));
        button->setCheckable(true);
        button->setFixedHeight(25);
        layout->addWidget(button);
        m_chip_buttons.push_back(button);
        connect(button, &QPushButton::clicked, this, [this, flag = chip.flag](bool on) {
            auto& overlays = m_bench == Bench::Probe ? m_probe_overlays : m_draw_overlays;
            overlays.*flag = on;
            // One thing at a time is shown in colours.
            if (on && flag == &SectionView::Overlays::losses) overlays.field = false;
            if (on && flag == &SectionView::Overlays::field) overlays.losses = false;
            apply_bench_overlays();
        });
    }
    m_close_up = new QPushButton(tr("close-up"), m_chips);
    m_close_up->setObjectName(QStringLiteral("close_up"));
    m_close_up->setToolTip(tr("One slot over one pole, with its dimensions (C, or a double click on a part)"));
    m_close_up->setCheckable(true);
    m_close_up->setFixedHeight(25);
    layout->insertWidget(0, m_close_up);
    connect(m_close_up, &QPushButton::clicked, m_section, &SectionView::set_close_up);
    connect(m_section, &SectionView::close_up_changed, m_close_up, &QPushButton::setChecked);
    m_chips->setObjectName(QStringLiteral("chips"));
    m_chips->move(24, 44);
    m_chips->adjustSize();
    m_reading->setProperty("soft", true);
    m_reading->setProperty("ground", true);
    m_reading->setObjectName(QStringLiteral("reading"));
    m_reading->move(24, 76);
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
        auto* action = fresh->addAction(name);
        action->setToolTip(QString::fromStdString(shape.tells));
        connect(action, &QAction::triggered, this, [this, name] {
            if (may_discard()) m_document.open_new(name);
        });
    }
    add(tr("Open …"), QKeySequence::Open, [this] {
        if (!may_discard()) return;
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Open a project"), {}, tr("Mavlo projects (*.mavlo)"));
        if (!file.isEmpty()) open_file(file);
    });
    m_menu->addMenu(m_recent);
    connect(m_recent, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
    fill_recent();
    add(tr("Save"), QKeySequence::Save, [this] { save(); });
    add(tr("Save as …"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { save_as(); });
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
    add(tr("Keys and hints"), QKeySequence(Qt::Key_F1), [this] { show_help(); });
    m_menu->addSeparator();
    add(tr("Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); });
    for (std::size_t i = 0; i < bench_names.size(); ++i)
        connect(new QShortcut(QKeySequence(Qt::CTRL | Qt::Key(Qt::Key_1 + int(i))), this),
                &QShortcut::activated, this, [this, i] { show_bench(Bench(i)); });
}

void MainWindow::connect_parts() {
    connect(m_head, &HeadStrip::bench_chosen, this, &MainWindow::show_bench);
    connect(m_sheet, &Sheet::hovered, m_section, &SectionView::set_hot);
    connect(m_wind, &WindPanel::hovered, m_section, &SectionView::set_hot);
    connect(m_section, &SectionView::hot_changed, m_sheet, &Sheet::set_hot);
    connect(m_section, &SectionView::part_selected, m_sheet, &Sheet::show_part);
    connect(m_sheet, &Sheet::part_chosen, m_section, &SectionView::set_selected);
    connect(m_section, &SectionView::reading, this, [this](const QString& text) {
        m_reading->setText(text);
        m_reading->adjustSize();
    });
    connect(m_section, &SectionView::angle_changed, m_probe, &ProbePanel::show_angle);
    connect(m_section, &SectionView::angle_changed, this, &MainWindow::request_field);
    connect(m_probe, &ProbePanel::angle_wanted, m_section, &SectionView::set_angle);
    connect(m_probe, &ProbePanel::current_changed, this, &MainWindow::request_field);
    connect(m_probe, &ProbePanel::range_changed, this, [this](double high) { m_section->set_range(0, high); });
    connect(m_section, &SectionView::refused, this, &MainWindow::notify);
    connect(m_wind, &WindPanel::refused, this, &MainWindow::notify);
    connect(m_ask, &AskBench::refused, this, &MainWindow::notify);
    connect(m_ask, &AskBench::probe_wanted, this, [this](Dq current) {
        m_probe->set_current(current);
        show_bench(Bench::Probe);
    });
    connect(m_ask, &AskBench::full_figure, m_tell_tales, &TellTaleStrip::set_full);
    connect(&m_document, &Document::changed, this, [this] {
        m_notice->hide();
        request_field();
    });
    connect(&m_live, &LiveField::solved, this, [this](const std::shared_ptr<const LiveResult>& result) {
        m_section->set_result(result);
        m_probe->show_result(*result);
    });
    connect(&m_engine, &TellTaleEngine::changed, this,
            [this] { m_ask->set_pace(m_engine.seconds_per_solve()); });
}

void MainWindow::show_bench(Bench bench) {
    m_bench = bench;
    m_head->set_bench(bench);
    m_pages->setCurrentIndex(bench == Bench::Ask ? 1 : bench == Bench::Weigh ? 2 : 0);
    m_belt->setVisible(bench == Bench::Wind);
    m_close_up->setVisible(bench == Bench::Draw);
    m_chips->adjustSize();
    if (bench <= Bench::Probe) {
        m_side->setCurrentIndex(int(bench));
        m_section->set_mode(SectionView::Mode(int(bench)));
        apply_bench_overlays();
    }
}

void MainWindow::apply_bench_overlays() {
    auto overlays = m_bench == Bench::Probe ? m_probe_overlays : m_draw_overlays;
    const bool flags[] = {overlays.phases, overlays.field, overlays.losses, overlays.lines, overlays.mesh};
    for (std::size_t i = 0; i < m_chip_buttons.size(); ++i) m_chip_buttons[i]->setChecked(flags[i]);
    m_section->set_overlays(overlays);
    request_field();
}

void MainWindow::request_field() {
    const auto& overlays = m_section->overlays();
    const bool wanted = m_bench == Bench::Probe ||
                        (m_bench < Bench::Probe && (overlays.coloured() || overlays.lines || overlays.mesh));
    if (!wanted || !m_document.is_good()) return;
    LiveRequest request{m_document.built(), m_section->angle(),
                        m_bench == Bench::Probe ? m_probe->current() : Dq{}, Quality::Draft};
    request.losses = overlays.losses;
    if (overlays.coloured()) request.paint = m_section->field_painter();
    m_live.request(request);
}

bool MainWindow::is_idle() const {
    return m_live.is_idle() && m_engine.is_idle() && m_ask->is_idle();
}

QString MainWindow::notice() const {
    return m_notice->isVisibleTo(this) ? m_notice->text() : QString();
}

void MainWindow::notify(const QString& sentence) {
    m_notice->setText(sentence);
    m_notice->show();
}

bool MainWindow::open_file(const QString& file) {
    if (const auto problem = m_document.open(file)) {
        notify(QString::fromStdString(to_string(*problem)));
        return false;
    }
    remember_file(m_document.file());
    m_section->fit();
    m_section->set_angle(0);
    return true;
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

bool MainWindow::save() {
    if (m_document.file().isEmpty()) return save_as();
    if (const auto problem = m_document.save(m_document.file())) {
        notify(QString::fromStdString(to_string(*problem)));
        return false;
    }
    return true;
}

bool MainWindow::save_as() {
    QString file = QFileDialog::getSaveFileName(this, tr("Save the project"),
                                                QString::fromStdString(m_document.project().name) + ".mavlo",
                                                tr("Mavlo projects (*.mavlo)"));
    if (file.isEmpty()) return false;
    if (!file.endsWith(QStringLiteral(".mavlo"))) file += QStringLiteral(".mavlo");
    if (const auto problem = m_document.save(file)) {
        notify(QString::fromStdString(to_string(*problem)));
        return false;
    }
    remember_file(m_document.file());
    return true;
}

bool MainWindow::may_discard() {
    if (m_document.undo_stack().isClean()) return true;
    const auto choice = QMessageBox::question(
        this, tr("Unsaved changes"),
        tr("Save the changes to \"%1\" first?").arg(QString::fromStdString(m_document.project().name)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
    if (choice == QMessageBox::Save) return save();
    return choice == QMessageBox::Discard;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!may_discard()) {
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
