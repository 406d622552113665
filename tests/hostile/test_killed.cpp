// The desktop is killed in the middle of editing, saving and computing: no file may be torn, and nothing that
// was edited two seconds before may be missing. MAVLO_ROUNDS says how often.

#include "app/window_fixture.h"
#include "question/answer.h"
#include "storage/file.h"
#include "storage/journal.h"
#include "test_program.h"

#include <QDirIterator>
#include <QElapsedTimer>
#include <QProcess>
#include <QRandomGenerator>
#include <fstream>

using namespace mavlo;
using namespace mavlo::app;

namespace {

constexpr const char* where = "MAVLO_VICTIM";

double now() {
    return double(QDateTime::currentMSecsSinceEpoch()) / 1e3;
}

/// The edit that a project is at: each makes the stack a micrometre longer.
int edit_of(const std::string& text) {
    const auto project = parse_project(text);
    if (!project) return -1;
    std::string_view rest;
    const auto length = read_number(project->in_hand().design.text("machine.stack_length"), rest);
    return length ? int(std::lround((*length - 50) * 1000)) : -1;
}

} // namespace

/// What is killed: it edits as fast as it can, saves now and then, and asks all the while.
class KillVictim : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void edits_until_it_is_killed() {
        const QString folder = qEnvironmentVariable(where);
        if (folder.isEmpty()) QSKIP("begun by the test `killed` alone");
        MainWindow window;
        window.show();
        QVERIFY(window.open_file(folder + "/a.mavlo"));
        window.show_bench("ask");
        std::ofstream log((folder + "/log").toStdString(), std::ios::app);
        QElapsedTimer since;
        since.start();
        for (int n = 1; since.elapsed() < 60000; ++n) {
            window.document().set_text("machine.stack_length",
                                       QStringLiteral("%1 mm").arg(50 + 0.001 * n, 0, 'f', 3));
            log << n << ' ' << QString::number(now(), 'f', 3).toStdString() << std::endl;
            if (n % 23 == 0) window.document().save(window.document().file());
            if (n % 7 == 0) window.part<AskBench>().ask(n % 2 ? "winding" : "cogging");
            QTest::qWait(int(QRandomGenerator::global()->bounded(40)));
        }
    }
};
MAVLO_TEST(kill_victim, KillVictim, Windows)

class TestKilled : public QObject {
    Q_OBJECT

    /// The last edit before a moment, as the victim wrote them down.
    static int edit_before(const QString& log, double moment) {
        std::ifstream in(log.toStdString());
        int n = 0, last = 0;
        for (double at = 0; in >> n >> at;)
            if (at <= moment) last = n;
        return last;
    }

  private Q_SLOTS:
    void nothing_is_torn_or_lost() {
        int rounds = qEnvironmentVariableIntValue("MAVLO_ROUNDS");
        if (rounds == 0) rounds = 4;
        for (int round = 0; round < rounds; ++round) {
            QTemporaryDir folder;
            const std::string file = folder.filePath("a.mavlo").toStdString();
            QVERIFY(!write_project(*new_project("surface"), file));
            QProcess victim;
            QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
            environment.insert(where, folder.path());
            environment.insert("XDG_DATA_HOME", folder.filePath("home"));
            victim.setProcessEnvironment(environment);
            victim.start(QCoreApplication::applicationFilePath(), {"kill_victim"});
            QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(folder.filePath("log")).size() > 0, 60000);
            QTest::qWait(200 + int(QRandomGenerator::global()->bounded(6000)));
            victim.kill();
            const double killed = now();
            victim.waitForFinished();
            const auto saved = read_file(file);
            QVERIFY(bool(saved));
            int kept = edit_of(*saved);
            QVERIFY2(kept >= 0, "the project's file is torn");
            for (const LeftBehind& left :
                 Journal::left_behind(folder.filePath("home/mavlo/journal").toStdString()))
                kept = std::max(kept, edit_of(left.project));
            const int wanted = edit_before(folder.filePath("log"), killed - 2);
            QVERIFY2(kept >= wanted, qPrintable(QStringLiteral("edit %1 of %2").arg(kept).arg(wanted)));
            QDirIterator answers(folder.filePath("a.answers"), {"*.json"}, QDir::Files);
            while (answers.hasNext()) {
                const auto answer = read_kept(answers.next().toStdString());
                QVERIFY(answer && answer_from_json(*answer));
            }
        }
    }
};
MAVLO_TEST(killed, TestKilled, Windows)
#include "test_killed.moc"
