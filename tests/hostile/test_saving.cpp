// What a designer does all day, on the real window: asking, saving, saving elsewhere, losing power. Nothing
// that was answered or edited may be lost, and no file written over unasked.

#include "app/window_fixture.h"
#include "shell/file_to_write.h"
#include "shell/kept_folders.h"
#include "storage/file.h"
#include "test_program.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <atomic>
#include <fcntl.h>
#include <fstream>
#include <sys/stat.h>
#include <unistd.h>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// Presses a button of the message box, once it is there.
void will_press(QMessageBox::StandardButton button, QString* asked = nullptr, int tries = 3000) {
    QTimer::singleShot(10, qApp, [button, asked, tries] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        if (!box) {
            if (tries > 0) will_press(button, asked, tries - 1);
            return;
        }
        if (asked) *asked = box->text();
        QTest::mouseClick(box->button(button), Qt::LeftButton);
    });
}

/// Gives the dialog for files a name, once it is there, and saves.
void will_name(const QString& file, int tries = 3000) {
    QTimer::singleShot(10, qApp, [file, tries] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        if (!dialog) {
            if (tries > 0) will_name(file, tries - 1);
            return;
        }
        auto* edit = dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
        edit->setText(file); // typed, its completions would take the next key
        auto* save = dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Save);
        QTest::mouseClick(save, Qt::LeftButton);
    });
}

QByteArray read(const QString& file) {
    QFile f(file);
    return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
}

void write(const QString& file, const QByteArray& text) {
    QFile f(file);
    if (!f.open(QIODevice::WriteOnly) || f.write(text) < 0) qFatal("cannot write");
}

void press(WindowFixture& f, const QKeySequence& keys) {
    f.window->activateWindow(); // a dialog may have had the keys
    (void)QTest::qWaitForWindowActive(f.window.get());
    QTest::keySequence(f.window.get(), keys);
    QCoreApplication::processEvents();
}

void ask_winding(WindowFixture& f) {
    f.window->show_bench("ask");
    auto& bench = f.window->part<AskBench>();
    bench.ask("winding");
    if (!QTest::qWaitFor([&] { return bench.is_idle(); }, 60000)) qFatal("no answer");
}

} // namespace

class TestSaving : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void answers_outlive_every_save() {
        WindowFixture f;
        ask_winding(f);
        auto& bench = f.window->part<AskBench>();
        QVERIFY(bench.answer("winding"));
        f.type("edit:stator.slot.tooth_width", QStringLiteral("6.5")); // the answer is of another design now
        QVERIFY(bench.answer("winding"));
        press(f, QKeySequence::Save);
        QVERIFY(f.document().undo_stack().isClean());
        QVERIFY2(bench.answer("winding"), "a stale answer goes with a save");
    }
    void answers_of_a_project_without_a_file_move_with_the_first_save() {
        WindowFixture f;
        f.document().open_new(QStringLiteral("surface"));
        ask_winding(f);
        auto& bench = f.window->part<AskBench>();
        QVERIFY(bench.answer("winding"));
        const auto scratch = f.document().answers().folder();
        QVERIFY(std::filesystem::exists(scratch)); // on the disk already
        QVERIFY(!f.document().save(f.file("first.mavlo")));
        QVERIFY(bench.answer("winding"));
        QVERIFY(!std::filesystem::exists(scratch));
        QCOMPARE(QDir(f.file("first.answers")).entryList({"winding-*.json"}).size(), 1);
        // And they are found again by the next who opens it.
        WindowFixture other;
        QVERIFY(other.window->open_file(f.file("first.mavlo")));
        other.window->show_bench("ask");
        QVERIFY(other.window->part<AskBench>().answer("winding"));
        // Saved under another name they are there too.
        QVERIFY(!f.document().save(f.file("second.mavlo")));
        QCOMPARE(QDir(f.file("second.answers")).entryList({"winding-*.json"}).size(), 1);
        QCOMPARE(QDir(f.file("first.answers")).entryList({"winding-*.json"}).size(), 1);
    }
    void a_late_answer_belongs_to_the_project_that_asked() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        bench.card("cogging")->set_input("points", QStringLiteral("12"));
        bench.ask("cogging");
        QVERIFY(!write_project(*new_project("vee"), f.file("vee.mavlo").toStdString()));
        QVERIFY(f.window->open_file(f.file("vee.mavlo")));
        QVERIFY(f.settle());
        QTRY_COMPARE_WITH_TIMEOUT(QDir(f.file("a.answers")).entryList({"cogging-*.json"}).size(), 1, 60000);
        QVERIFY(!bench.answer("cogging"));
        QVERIFY(QDir(f.file("vee.answers")).entryList({"cogging-*.json"}).isEmpty());
    }
    void a_file_changed_elsewhere_is_not_written_over_unasked() {
        WindowFixture f;
        f.type("edit:stator.slot.tooth_width", QStringLiteral("6.5"));
        Project theirs = *new_project("surface");
        theirs.name = "theirs";
        QVERIFY(!write_project(theirs, f.file().toStdString()));
        const QByteArray before = read(f.file());
        QString asked;
        will_press(QMessageBox::Cancel, &asked);
        press(f, QKeySequence::Save);
        QVERIFY2(asked.contains(QStringLiteral("changed by another program")), qPrintable(asked));
        QCOMPARE(read(f.file()), before);
        QVERIFY(!f.document().undo_stack().isClean());
        will_press(QMessageBox::Yes);
        press(f, QKeySequence::Save);
        QVERIFY(read(f.file()) != before);
        // What was written over is kept.
        QCOMPARE(read(f.file("a.answers/saved-1.mavlo")), before);
    }
    void mode_links_pipes_and_devices() {
        QTemporaryDir folder;
        const QString real = folder.filePath("real.txt"), link = folder.filePath("link.txt");
        write(real, "before");
        QVERIFY(::chmod(real.toUtf8().constData(), 0640) == 0 && QFile::link(real, link));
        QVERIFY(!write_file_atomically(link.toStdString(), "after"));
        QVERIFY(QFileInfo(link).isSymLink());
        QCOMPARE(read(real), QByteArray("after"));
        struct ::stat about {};
        QVERIFY(::stat(real.toUtf8().constData(), &about) == 0);
        QCOMPARE(about.st_mode & 07777, 0640u);
        const QString pipe = folder.filePath("pipe");
        QVERIFY(::mkfifo(pipe.toUtf8().constData(), 0600) == 0);
        QVERIFY(write_file_atomically(pipe.toStdString(), "x").has_value());
        QVERIFY(::stat(pipe.toUtf8().constData(), &about) == 0 && S_ISFIFO(about.st_mode));
        QVERIFY(write_file_atomically("/dev/null", "x").has_value());
        QVERIFY(QDir(folder.path()).entryList({"*.part"}).isEmpty());
    }
    void three_saves_are_kept() {
        WindowFixture f;
        QList<QByteArray> saved{read(f.file())};
        for (const char* width : {"6.1", "6.2", "6.3", "6.4"}) {
            f.type("edit:stator.slot.tooth_width", QString::fromLatin1(width));
            press(f, QKeySequence::Save);
            saved << read(f.file());
        }
        for (int k = 1; k <= 3; ++k)
            QCOMPARE(read(f.file(qPrintable(QStringLiteral("a.answers/saved-%1.mavlo").arg(k)))),
                     saved[saved.size() - 1 - k]);
        QVERIFY(!QFileInfo::exists(f.file("a.answers/saved-4.mavlo")));
    }
    void a_suffix_that_is_added_is_asked_about() {
        QTemporaryDir folder;
        write(folder.filePath("there.csv"), "mine");
        QString asked;
        will_press(QMessageBox::Cancel, &asked);
        QVERIFY(with_suffix(nullptr, folder.filePath("there"), "csv").isEmpty());
        QVERIFY(asked.contains("there.csv"));
        will_press(QMessageBox::Yes);
        QCOMPARE(with_suffix(nullptr, folder.filePath("there"), "csv"), folder.filePath("there.csv"));
        QCOMPARE(with_suffix(nullptr, folder.filePath("new"), "csv"), folder.filePath("new.csv"));
        QCOMPARE(with_suffix(nullptr, folder.filePath("new.SVG"), "dxf svg"), folder.filePath("new.SVG"));
    }
    void every_way_to_a_file_asks_before_it_writes_over_data() {
        QTest::addColumn<QString>("suffix");
        for (const char* suffix : {"mavlo", "dxf", "csv", "svg", "png", "html", "cir"})
            QTest::newRow(suffix) << QString::fromLatin1(suffix);
    }
    /// The name is typed without its suffix; the dialog cannot have asked about it.
    void every_way_to_a_file_asks_before_it_writes_over() {
        QFETCH(QString, suffix);
        WindowFixture f;
        write(f.file(QByteArray("there." + suffix.toLatin1())), "mine");
        if (suffix == "csv" || suffix == "svg" || suffix == "png" || suffix == "html") ask_winding(f);
        if (suffix == "html") {
            f.window->show_bench("weigh");
            QTest::mouseClick(f.child("weigh:Report"), Qt::LeftButton);
        }
        const auto begin = [&] {
            if (suffix == "mavlo") return press(f, QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S));
            if (suffix == "dxf") return press(f, QKeySequence(Qt::CTRL | Qt::Key_E));
            if (suffix == "html")
                return QTest::mouseClick(f.child<QAbstractButton>("report_save:html"), Qt::LeftButton);
            if (suffix == "cir") {
                press(f, QKeySequence(Qt::CTRL | Qt::Key_K));
                QTest::mouseClick(f.child<QAbstractButton>("circuit_new"), Qt::LeftButton);
                return QTest::mouseClick(f.child<QAbstractButton>("circuit_save"), Qt::LeftButton);
            }
            QTest::mouseClick(f.child<QAbstractButton>(QByteArray("export:" + suffix.toLatin1())),
                              Qt::LeftButton);
        };
        const QString whole = f.file(QByteArray("there." + suffix.toLatin1()));
        for (const auto button : {QMessageBox::Cancel, QMessageBox::Yes}) {
            QString asked;
            will_name(f.file("there"));
            will_press(button, &asked);
            begin();
            QTRY_VERIFY2(asked.contains("there." + suffix), qPrintable(asked));
            if (button == QMessageBox::Cancel)
                QCOMPARE(read(whole), QByteArray("mine"));
            else
                QTRY_VERIFY_WITH_TIMEOUT(read(whole) != QByteArray("mine"), 60000);
        }
        QVERIFY(f.settle());
    }
    void writers_side_by_side_do_not_meet() {
        QTemporaryDir folder;
        const std::string file = folder.filePath("many.txt").toStdString();
        std::atomic<int> failed = 0;
        {
            std::vector<std::jthread> threads;
            for (int t = 0; t < 8; ++t)
                threads.emplace_back([&, t] {
                    for (int k = 0; k < 40; ++k)
                        failed += write_file_atomically(file, std::string(2000, char('a' + t))).has_value();
                });
        }
        QCOMPARE(failed.load(), 0);
        const QByteArray text = read(folder.filePath("many.txt"));
        QCOMPARE(text.size(), 2000);
        QCOMPARE(text.count(text[0]), 2000);
    }
    void what_was_edited_is_offered_after_a_crash() {
        const QString own = QString::fromStdString(journal_folder().string());
        std::filesystem::remove_all(journal_folder());
        QTemporaryDir folder;
        {
            WindowFixture f;
            f.type("edit:stator.slot.tooth_width", QStringLiteral("6.5"));
            QTRY_COMPARE_WITH_TIMEOUT(QDir(own).entryList({"*.journal"}).size(), 1, 20000);
            // In use it is not offered.
            QVERIFY(Journal::left_behind(journal_folder()).empty());
            for (const QFileInfo& file : QDir(own).entryInfoList({"*.journal"}))
                QVERIFY(QFile::copy(file.filePath(), folder.filePath("left.journal")));
        }
        // Closed in order it is gone; the copy is what a killed program leaves.
        QVERIFY(QDir(own).entryList({"*.journal"}).isEmpty());
        QVERIFY(QFile::copy(folder.filePath("left.journal"), own + "/1-left.journal"));
        WindowFixture f;
        f.window->show_start();
        auto* offer = f.child<QPushButton>("left_behind");
        QVERIFY(offer->isVisible());
        QTest::mouseClick(offer, Qt::LeftButton);
        QCOMPARE(f.text("stator.slot.tooth_width"), std::string("6.5 mm"));
        QVERIFY(!f.document().undo_stack().isClean()); // it still wants to be saved
        QVERIFY(!QFileInfo::exists(own + "/1-left.journal"));
        f.document().undo_stack().setClean();
    }
    void a_long_history_is_bounded() {
        QUndoStack history;
        int shown = 0;
        const auto show = [&](const SharedProject&) { ++shown; };
        auto project = std::make_shared<const Project>(*new_project("surface"));
        for (int k = 0; k < 400; ++k) {
            auto next = std::make_shared<Project>(*project);
            next->variants.front().design.texts["gap"] = std::to_string(k) + std::string(10000, ' ');
            history.push(new ProjectEdit(show, "edit", project, next, 0));
            bound_history(history, 1e6);
            project = next;
        }
        shown = 0;
        while (history.canUndo()) history.undo();
        QVERIFY2(shown > 20 && shown < 120, qPrintable(QString::number(shown)));
    }
    void what_is_thrown_ends_in_a_sentence() {
        WindowFixture f;
        Jobs jobs;
        QString told;
        QObject::connect(&jobs, &Jobs::failed, &jobs, [&](const QString& sentence) { told = sentence; });
        bool ended = false;
        jobs.submit(
            "trial", [](const Watch&) { throw std::bad_alloc(); }, [&] { ended = true; });
        QTRY_VERIFY(ended && told.contains(QStringLiteral("memory")));
        // The next goes on.
        std::atomic_bool ran = false;
        jobs.submit(
            "next", [&](const Watch&) { ran = true; }, [] {});
        QTRY_VERIFY(ran);
    }
    void strangers_files_end_in_a_notice() {
        WindowFixture f;
        const QByteArray deep = R"({"format":"mavlo","version":1,"variants":{"base":{"x":)" +
                                QByteArray("[").repeated(70000) + QByteArray("]").repeated(70000) + "}}}";
        write(f.file("deep.mavlo"), deep);
        QVERIFY(!f.window->open_file(f.file("deep.mavlo")));
        QVERIFY(f.window->notice().contains(QStringLiteral("deep")));
        QVERIFY(::mkfifo(f.file("pipe.mavlo").toUtf8().constData(), 0600) == 0);
        QVERIFY(!f.window->open_file(f.file("pipe.mavlo")));
        QVERIFY(f.window->notice().contains(QStringLiteral("pipe")));
        QCOMPARE(f.document().file(), f.file()); // what was open stays open
    }
    void names_are_shown_as_they_are() {
        WindowFixture f;
        QLabel label(QStringLiteral("<b>bold</b><img src='file:///etc/passwd'>"), f.window.get());
        label.show();
        QCoreApplication::processEvents();
        QCOMPARE(label.textFormat(), Qt::PlainText);
    }
};
MAVLO_TEST(saving, TestSaving, Windows)
#include "test_saving.moc"
