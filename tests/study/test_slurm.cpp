// A study on a cluster: the script, its submission, a job that is found again, and the answers collected. Two
// small programs stand for Slurm's, so that the whole way is walked on any machine.

#include "project/project.h"
#include "study/process.h"
#include "study/slurm.h"
#include "support.h"
#include "test_program.h"

#include <QElapsedTimer>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace mavlo;

namespace {

/// Runs every task of an array at once and counts how often it was called.
constexpr const char* sbatch = R"sh(#!/bin/bash
here=$(dirname "$0"); script="${@: -1}"
echo x >> "$here/submitted"
tasks=$(sed -n 's/#SBATCH --array=1-//p' "$script")
for k in $(seq "$tasks"); do
    touch "$here/busy-$k"
    (SLURM_ARRAY_TASK_ID=$k bash "$script" > "$here/out-$k" 2>&1; rm -f "$here/busy-$k") > /dev/null 2>&1 &
done
echo "41;cluster"
)sh";
constexpr const char* squeue = R"sh(#!/bin/bash
for f in "$(dirname "$0")"/busy-*; do [ -e "$f" ] && echo RUNNING; done; exit 0
)sh";

void put_program(const QString& file, const char* text) {
    QFile out(file);
    if (!out.open(QIODevice::WriteOnly)) qFatal("no program");
    out.write(text);
    out.setPermissions(QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
}

QByteArray contents(const QString& file) {
    QFile in(file);
    return in.open(QIODevice::ReadOnly) ? in.readAll() : QByteArray();
}

} // namespace

class TestSlurm : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void scripts_quote();
    void programs_run();
    void same_table_as_here();
    void without_slurm();
};

void TestSlurm::scripts_quote() {
    SlurmJob job;
    job.command = {"/bin/mavlo-cli", "study", "it's here.mavlo"};
    job.shards = 7;
    job.threads = 3;
    job.options = {"--partition=main"};
    job.folder = "/tmp/a.answers";
    const std::string script = slurm_script(job);
    for (const char* part :
         {"#SBATCH --array=1-7\n", "#SBATCH --cpus-per-task=3\n", "#SBATCH --partition=main\n",
          "#SBATCH --requeue\n", "'it'\\''s here.mavlo'", "--shard \"$SLURM_ARRAY_TASK_ID/7\""})
        QVERIFY2(script.find(part) != std::string::npos, part);
}

void TestSlurm::programs_run() {
    const auto echoed = run_program({"cat"}, std::string(200000, 'x'));
    QVERIFY(bool(echoed));
    QCOMPARE(echoed->output.size(), std::size_t(200000));
    QCOMPARE(run_program({"sh", "-c", "exit 3"})->exit, 3);
    QVERIFY(!run_program({"mavlo-no-such-program"}));
    // One that reads nothing of what it is given.
    QCOMPARE(run_program({"true"}, std::string(2000000, 'x'))->exit, 0);
}

void TestSlurm::same_table_as_here() {
    QTemporaryDir folder;
    put_program(folder.filePath("sbatch"), sbatch);
    put_program(folder.filePath("squeue"), squeue);
    const QString file = folder.filePath("a.mavlo"), other = folder.filePath("b.mavlo");
    for (const QString& project : {file, other})
        QVERIFY(!write_project(*new_project("surface"), project.toStdString()));
    const auto run = [&](const QString& project, const QString& table, const QStringList& more) {
        QProcess process;
        auto environment = QProcessEnvironment::systemEnvironment();
        environment.insert("PATH", folder.path() + ':' + environment.value("PATH"));
        process.setProcessEnvironment(environment);
        process.start(MAVLO_CLI, QStringList{"study", project, "--vary", "gap=0.8:1.2:3 mm", "--vary",
                                             "rotor.magnet.arc=0.7,0.8", "--ask", "cogging:points=6",
                                             "--quality", "draft", "-o", table} +
                                     more);
        process.waitForFinished(180000);
        return process.exitCode();
    };
    const QString here = folder.filePath("here.csv"), there = folder.filePath("there.csv"),
                  again = folder.filePath("again.csv");
    QCOMPARE(run(other, here, {}), 0);
    QCOMPARE(run(file, there, {"--slurm", "--shards", "3"}), 0);
    QVERIFY(!contents(here).isEmpty());
    QCOMPARE(contents(there), contents(here));
    QCOMPARE(contents(folder.filePath("submitted")), QByteArray("x\n"));
    // All is kept: nothing is submitted a second time.
    QCOMPARE(run(file, again, {"--slurm", "--shards", "3"}), 0);
    QCOMPARE(contents(again), contents(here));
    QCOMPARE(contents(folder.filePath("submitted")), QByteArray("x\n"));
    // Submitted and left; the same call finds the job and collects.
    QVERIFY(!write_project(*new_project("surface"), file.toStdString()));
    QDir(folder.filePath("a.answers")).removeRecursively();
    QCOMPARE(run(file, again, {"--slurm", "--shards", "2", "--detach"}), 0);
    QCOMPARE(run(file, again, {"--slurm", "--shards", "2"}), 0);
    QCOMPARE(contents(again), contents(here));
    QCOMPARE(contents(folder.filePath("submitted")), QByteArray("x\nx\n"));
}

void TestSlurm::without_slurm() {
    QTemporaryDir folder;
    SlurmJob job;
    job.command = {"true"};
    job.folder = folder.path().toStdString();
    const QByteArray before = qgetenv("PATH");
    qputenv("PATH", folder.path().toUtf8());
    const auto sent = submit(job);
    qputenv("PATH", before);
    QVERIFY(!sent);
    QVERIFY(sent.problems().front().sentence.find("sbatch is not found") != std::string::npos);
}

MAVLO_TEST(slurm, TestSlurm, EventLoop)
#include "test_slurm.moc"
