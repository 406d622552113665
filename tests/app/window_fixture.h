#pragma once
// The real window with a project in a temporary folder, driven by mouse and keys.

#include "ask/ask_bench.h"
#include "probe/probe_panel.h"
#include "sheet/sheet.h"
#include "shell/main_window.h"
#include "shell/theme.h"
#include "support.h"
#include "weigh/weigh_bench.h"
#include "wind/belt.h"
#include "wind/wind_panel.h"

#include <QSettings>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <memory>

namespace mavlo::app {

class WindowFixture {
  public:
    explicit WindowFixture(const char* shape = "surface") {
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, m_folder.path());
        set_theme(false);
        const auto problem = write_project(*new_project(shape), file().toStdString());
        if (problem) qFatal("no project");
        window = std::make_unique<MainWindow>();
        window->resize(1280, 800);
        window->show();
        if (!window->open_file(file())) qFatal("the project does not open");
        QCoreApplication::processEvents();
    }
    ~WindowFixture() {
        if (window) window->document().undo_stack().setClean();
    }

    QString file(const char* name = "a.mavlo") const { return m_folder.filePath(QString::fromLatin1(name)); }
    Document& document() { return window->document(); }
    std::string text(const char* path) { return document().design().text(path); }
    template <class T = QWidget>
    T* child(const char* name) {
        auto* found = window->findChild<T*>(QString::fromUtf8(name));
        if (!found) qFatal("no widget %s", name);
        return found;
    }
    /// Types into a field as a user does: click, replace, Enter.
    void type(const char* name, const QString& text) {
        auto* edit = child<QLineEdit>(name);
        QTest::mouseClick(edit, Qt::LeftButton);
        QCoreApplication::processEvents();
        replace(edit, text);
    }
    /// Types over what a field says, with Enter.
    static void replace(QLineEdit* edit, const QString& text) {
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    void drag(QWidget* widget, QPointF from, QPointF to, int steps = 8) {
        QTest::mousePress(widget, Qt::LeftButton, {}, from.toPoint());
        for (int i = 1; i <= steps; ++i) {
            QTest::mouseMove(widget, (from + (to - from) * i / steps).toPoint());
            QCoreApplication::processEvents();
        }
        QTest::mouseRelease(widget, Qt::LeftButton, {}, to.toPoint());
    }
    bool settle(int milliseconds = 240000) {
        return QTest::qWaitFor([this] { return window->is_idle(); }, milliseconds);
    }

    std::unique_ptr<MainWindow> window;

  private:
    QTemporaryDir m_folder;
};

} // namespace mavlo::app
