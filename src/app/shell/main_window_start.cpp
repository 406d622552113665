// Where a session with the window begins: the start page, the first steps, what another session left behind.

#include "shell/kept_folders.h"
#include "shell/main_window.h"
#include "shell/told_problem.h"
#include "start/start_page.h"

#include <QSettings>

namespace mavlo::app {

void MainWindow::make_start_page() {
    m_start = new StartPage(this);
    m_pages->addWidget(m_start);
    connect(m_start, &StartPage::shape_wanted, this, [this](const QString& shape, int slots, int poles) {
        if (!may_discard()) return;
        m_document.open_new(shape, slots, poles);
        show_bench("draw");
        m_section->fit();
    });
    connect(m_start, &StartPage::file_wanted, this, [this](const QString& file) {
        if (may_discard() && open_file(file)) show_bench("draw");
    });
    connect(m_start, &StartPage::left_behind_wanted, this, &MainWindow::recover);
    connect(m_start, &StartPage::open_wanted, this, &MainWindow::choose_file);
    connect(m_start, &StartPage::drawing_wanted, this, &MainWindow::choose_drawing);
    connect(m_start, &StartPage::specification_wanted, this, &MainWindow::start_from_specification);
    connect(m_start, &StartPage::first_steps_wanted, this, [this](const QString& file) {
        if (!may_discard() || !open_file(file)) return;
        show_bench("draw");
        show_first_steps();
    });
}

void MainWindow::show_start() {
    if (!m_start) make_start_page();
    m_start->show_left_behind(Journal::left_behind(journal_folder()));
    m_start->show_recent(QSettings().value(QStringLiteral("recent")).toStringList());
    m_pages->setCurrentWidget(m_start);
    m_start->setFocus();
    m_tell_tales->hide();
    m_head->set_bench({});
}

/// On the machine as it stands; over the benches, and moved by hand.
void MainWindow::show_first_steps() {
    if (!m_first_steps) {
        m_first_steps = new FirstSteps(
            m_desk, {[this] { return m_bench; }, [this](const std::string& bench) { show_bench(bench); }},
            centralWidget());
        m_first_steps->move(24, m_head->height() + 200);
    }
    if (m_pages->currentWidget() == m_start) show_bench("draw");
    m_first_steps->begin();
}

void MainWindow::recover(const LeftBehind& left) {
    if (!may_discard()) return;
    if (const auto problem = m_document.recover(left)) {
        notify(told(*problem));
        return;
    }
    show_bench("draw");
    m_section->fit();
    notify(tr("Taken up where the program ended; the file on the disk is as it was saved last."));
}

/// A word where edits of this file were left behind by a program that ended in the middle.
void MainWindow::tell_left_behind(const QString& file) {
    for (const LeftBehind& left : Journal::left_behind(journal_folder()))
        if (QString::fromStdString(left.file.string()) == file)
            return notify(tr("There are later changes to this project that were never saved; the start page "
                             "(Ctrl+N) offers them."));
}

} // namespace mavlo::app
