// A prepared folder of answers: it can neither write elsewhere nor be taken for what it is not.

#include "hostile/hostile.h"
#include "question/question.h"
#include "test_program.h"

#include <sys/stat.h>
#include <unistd.h>

using namespace mavlo;

class TestStrangerAnswers : public QObject {
    Q_OBJECT
    Leash m_leash;
    QString m_project, m_answers;

    CliRun ask(const QString& question, const QStringList& more = {}) const {
        return m_leash.run(QStringList{"ask", m_project, question, "--quality", "draft", "--keep"} + more);
    }
    QString only(const QString& pattern) const {
        const QStringList found = QDir(m_answers).entryList({pattern});
        return found.size() == 1 ? m_answers + "/" + found.front() : QString();
    }
    void empty() const { QDir(m_answers).removeRecursively(); }

  private Q_SLOTS:
    void initTestCase() {
        m_project = m_leash.project();
        m_answers = m_leash.path("p.answers");
    }
    void links_are_not_followed() {
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        const QString answer = only("cogging-*.json"), mesh = only("mesh-*.csv");
        QVERIFY(!answer.isEmpty() && !mesh.isEmpty());
        const QString precious = m_leash.put("precious", "mine\n");
        for (const QString& name : {answer, mesh}) {
            QVERIFY(QFile::remove(name));
            QVERIFY(QFile::link(precious, name));
        }
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        QCOMPARE(m_leash.content("precious"), QByteArray("mine\n"));
        QVERIFY(!QFileInfo(answer).isSymLink()); // replaced, not followed
        // A second name of a file of ours is not added to either.
        QVERIFY(QFile::remove(mesh));
        QCOMPARE(::link(precious.toUtf8().constData(), mesh.toUtf8().constData()), 0);
        QVERIFY(QFile::remove(answer));
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        QCOMPARE(m_leash.content("precious"), QByteArray("mine\n"));
        // Nor is a pipe waited for.
        QVERIFY(QFile::remove(mesh));
        QCOMPARE(::mkfifo(mesh.toUtf8().constData(), 0600), 0);
        QVERIFY(QFile::remove(answer));
        QCOMPARE(::mkfifo(answer.toUtf8().constData(), 0600), 0);
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        empty();
    }
    void temporary_names_cannot_be_foreseen() {
        const QStringList run{
            "--with", "supply=sine-voltage", "--with", "voltage=10 V", "--with", "method=field",
            "--with", "points=60",           "--with", "periods=1"};
        QCOMPARE(ask("winding").code, 0);
        const QString precious = m_leash.put("precious", "mine\n");
        // The record's name follows from the question: all that it was written through before are links here.
        QVERIFY(QDir().mkpath(m_answers));
        QCOMPARE(ask("in-time", run).code, 0);
        QVERIFY(QDir(m_answers).entryList({"*.part"}).isEmpty());
        QVERIFY(QDir(m_answers).entryList({"run-*"}).isEmpty()); // gone once the answer is kept
        QCOMPARE(m_leash.content("precious"), QByteArray("mine\n"));
        empty();
    }
    void contents_that_do_not_fit_are_asked_again_data() {
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::newRow("one y for many x") << QByteArray("\"y\": [") << QByteArray("\"y\": [0.5], \"was\": [");
        QTest::newRow("another question")
            << QByteArray("\"question\": \"cogging\"") << QByteArray("\"question\": \"no-load\"");
        QTest::newRow("another design") << QByteArray("\"design\": \"") << QByteArray("\"design\": \"0");
        QTest::newRow("another quality")
            << QByteArray("\"quality\": \"draft\"") << QByteArray("\"quality\": \"fine\"");
        QTest::newRow("other inputs") << QByteArray("\"points\": \"8\"") << QByteArray("\"points\": \"9\"");
        QTest::newRow("a text for a number")
            << QByteArray("\"value\": ") << QByteArray("\"value\": \"x\", \"w\": ");
        QTest::newRow("labels") << QByteArray("\"x_unit\": \"deg\"")
                                << QByteArray("\"labels\": [\"a\"], \"x_unit\": \"deg\"");
    }
    void contents_that_do_not_fit_are_asked_again() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        const QString name = only("cogging-*.json");
        QFile file(name);
        QVERIFY(file.open(QIODevice::ReadWrite));
        const QByteArray good = file.readAll();
        QByteArray bad = good;
        QVERIFY(bad.contains(from));
        bad.replace(bad.indexOf(from), from.size(), to);
        file.resize(0);
        file.seek(0);
        file.write(bad);
        file.close();
        const CliRun csv = ask("cogging", {"--with", "points=8", "-o", m_leash.path("o.csv")});
        QCOMPARE(csv.code, 0);
        QVERIFY(m_leash.content("o.csv").contains("# question,cogging"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const auto json = nlohmann::json::parse(file.readAll().toStdString());
        const auto was = nlohmann::json::parse(good.toStdString());
        QVERIFY(json["curves"] == was["curves"] && json["inputs"] == was["inputs"]); // answered anew
        empty();
    }
    void element_sizes_have_bounds() {
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        const QString mesh = only("mesh-*.csv");
        QFile file(mesh);
        QVERIFY(file.open(QIODevice::ReadWrite));
        QByteArray rows;
        for (QByteArray line : file.readAll().split('\n')) {
            QList<QByteArray> cells = line.split(',');
            if (cells.size() == 5 && cells[0].toDouble() >= 0) cells[4] = "1e-9";
            rows += cells.join(',') + "\n";
        }
        file.resize(0);
        file.seek(0);
        file.write(rows);
        file.close();
        QVERIFY(QFile::remove(only("cogging-*.json")));
        QCOMPARE(ask("cogging", {"--with", "points=8"}).code, 0);
        empty();
    }
    void deep_or_huge_answers_are_none() {
        QCOMPARE(ask("winding").code, 0);
        const QString name = only("winding-*.json");
        QFile file(name);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(QByteArray("[").repeated(3000000));
        file.close();
        QCOMPARE(ask("winding").code, 0);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.readAll().startsWith("{"));
        empty();
    }
};
MAVLO_TEST(stranger_answers, TestStrangerAnswers, EventLoop)
#include "test_stranger_answers.moc"
