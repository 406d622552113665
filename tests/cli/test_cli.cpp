#include "cli/run_cli.h"
#include "support.h"
#include "test_program.h"

#include <QElapsedTimer>
#include <QTemporaryDir>
#include <csignal>

using namespace mavlo;

class TestCli : public QObject {
    Q_OBJECT
    using Run = CliRun;
    QTemporaryDir m_folder;
    QString file(const char* name) const { return m_folder.filePath(QString::fromLatin1(name)); }
    static Run run(const QStringList& arguments) { return run_cli(arguments); }

  private Q_SLOTS:
    void initTestCase() { QCOMPARE(run({"new", "surface", "-o", file("a.mavlo")}).code, 0); }
    void lists() {
        QVERIFY(run({"new", "--list"}).out.contains("surface"));
        const QString questions = run({"questions"}).out;
        for (const char* name : {"winding", "cogging", "no-load", "load"}) QVERIFY(questions.contains(name));
        const QString materials = run({"materials"}).out;
        for (const char* name : {"M330-35A", "M400-50A", "NdFeB 310/130", "Ferrite 28/26", "copper", "linear("})
            QVERIFY(materials.contains(name));
        QVERIFY(run({"--version"}).out.contains("0.1"));
    }
    void check_is_silent_about_good_and_loud_about_bad() {
        const Run good = run({"check", file("a.mavlo")});
        QCOMPARE(good.code, 0);
        QVERIFY(good.out.isEmpty());
        QCOMPARE(run({"new", "surface", "-o", file("bad.mavlo"), "--set", "stator.slot.depth=30 mm"}).code, 0);
        const Run bad = run({"check", file("bad.mavlo")});
        QCOMPARE(bad.code, 1);
        QVERIFY(bad.out.contains("stator.slot.depth: ") && bad.out.contains("mm beyond"));
        QCOMPARE(run({"check", file("missing.mavlo")}).code, 1);
    }
    void ask_prints_the_answer_alone() {
        const Run r = run({"ask", file("a.mavlo"), "cogging", "--with", "points=6", "--quality", "draft"});
        QCOMPARE(r.code, 0);
        QVERIFY2(r.err.isEmpty(), qPrintable(r.err));
        const auto json = nlohmann::json::parse(r.out.toStdString());
        QCOMPARE(json["question"].get<std::string>(), std::string("cogging"));
        QVERIFY(json["figures"]["cogging_peak_to_peak"]["value"].get<double>() > 0);
        QCOMPARE(json["curves"][0]["x"].size(), 6U);
        QVERIFY(json["design"].get<std::string>().size() == 64 && json["effort"]["solves"] == 2);
    }
    void ask_states_the_error_of_the_mesh() {
        const Run r =
            run({"ask", file("a.mavlo"), "cogging", "--with", "points=6", "--quality", "draft", "--error"});
        QCOMPARE(r.code, 0);
        const auto json = nlohmann::json::parse(r.out.toStdString());
        const auto& cogging = json["figures"]["cogging_peak_to_peak"];
        QVERIFY(cogging["error"].get<double>() > 0 &&
                cogging["error"].get<double>() < cogging["value"].get<double>());
        QVERIFY(!json["figures"]["cogging_period"].contains("error"));
        QVERIFY(json["effort"]["elements"] > 500 && json["effort"]["smallest_angle"] > 15);
        // The library's factorisation gives the same figures.
        const Run library = run({"ask", file("a.mavlo"), "cogging", "--with", "points=6", "--quality", "draft",
                                 "--library-solver"});
        QCOMPARE(library.code, 0);
        CLOSE(nlohmann::json::parse(library.out.toStdString())["figures"]["cogging_peak_to_peak"]["value"]
                      .get<double>() /
                  cogging["value"].get<double>(),
              1, 1e-4);
    }
    void settings_are_applied_together() {
        // Each alone collides; together they fit.
        const QStringList base{"ask", file("a.mavlo"), "winding", "-o", file("w.json")};
        QCOMPARE(run(base + QStringList{"--set", "stator.slot.depth=30 mm"}).code, 1);
        QCOMPARE(
            run(base + QStringList{"--set", "stator.slot.depth=30 mm", "--set", "stator.outer_diameter=130 mm"})
                .code,
            0);
        const Run inline_material =
            run({"ask", file("a.mavlo"), "cogging", "--with", "points=4", "--quality", "draft", "--set",
                 "stator.steel=linear(inf)", "--set", "rotor.magnet.grade=magnet(1.2 T, 1.05)"});
        QCOMPARE(inline_material.code, 0);
    }
    void csv_and_wrong_output() {
        QCOMPARE(run({"ask", file("a.mavlo"), "winding", "-o", file("w.csv")}).code, 0);
        QFile csv(file("w.csv"));
        QVERIFY(csv.open(QIODevice::ReadOnly) &&
                csv.readAll().contains("electrical_order [1],winding_factor [1]"));
        QCOMPARE(run({"ask", file("a.mavlo"), "winding", "-o", file("w.xls")}).code, 2);
        QCOMPARE(run({"ask", file("a.mavlo"), "winding", "-o", "/nowhere/w.csv"}).code, 1);
    }
    void wrong_usage_and_wrong_input_differ() {
        QCOMPARE(run({}).code, 2);
        QCOMPARE(run({"fly"}).code, 2);
        QCOMPARE(run({"ask", file("a.mavlo"), "weather"}).code, 2);
        QCOMPARE(run({"ask", file("a.mavlo"), "cogging", "--quality", "superb"}).code, 2);
        const Run r = run({"ask", file("a.mavlo"), "cogging", "--set", "stator.slot.dept=3 mm"});
        QCOMPARE(r.code, 1);
        QVERIFY(r.err.contains("did you mean stator.slot.depth"));
        QCOMPARE(run({"ask", file("a.mavlo"), "cogging", "--set", "nonsense"}).code, 1);
        QCOMPARE(run({"ask", file("a.mavlo"), "cogging", "--with", "points=some"}).code, 1);
        QCOMPARE(run({"ask", file("a.mavlo"), "cogging", "--variant", "none"}).code, 1);
    }
    void show_writes_pictures() {
        for (const char* overlay : {"materials", "flux", "lines", "mesh"}) {
            const QString png = file(overlay) + ".png", svg = file(overlay) + ".svg";
            QCOMPARE(
                run({"show", file("a.mavlo"), "-o", png, "--overlay", overlay, "--angle", "3", "--iq", "5"})
                    .code,
                0);
            QCOMPARE(run({"show", file("a.mavlo"), "-o", svg, "--overlay", overlay}).code, 0);
            QVERIFY(QFileInfo(png).size() > 10000 && QFileInfo(svg).size() > 10000);
        }
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("x.bmp")}).code, 2);
    }
    void an_interrupt_ends_it_with_130() {
        QProcess process;
        process.start(QStringLiteral(MAVLO_CLI),
                      {"ask", file("a.mavlo"), "cogging", "--with", "points=2000", "--quality", "fine"});
        QVERIFY(process.waitForStarted());
        const auto catches_it = [&] { // its signals that are caught, as bits (proc(5))
            QFile status(QStringLiteral("/proc/%1/status").arg(process.processId()));
            if (!status.open(QIODevice::ReadOnly)) return false;
            const QByteArray all = status.readAll();
            const qsizetype from = all.indexOf("SigCgt:");
            return from >= 0 && (all.mid(from + 7, 17).trimmed().toULongLong(nullptr, 16) >> (SIGINT - 1) & 1);
        };
        QVERIFY(QTest::qWaitFor(catches_it, 30000));
        QTest::qWait(500);
        QVERIFY(process.processId() > 0); // still at work: 0 would be ourselves
        QElapsedTimer timer;
        timer.start();
        ::kill(pid_t(process.processId()), SIGINT);
        QVERIFY(process.waitForFinished(5000));
        QCOMPARE(process.exitCode(), 130);
        QVERIFY(process.readAllStandardOutput().isEmpty());
    }
    void the_reference_pages_are_complete() {
        QFile format(QStringLiteral(MAVLO_SOURCE "/docs/file-format.md")),
            page(QStringLiteral(MAVLO_SOURCE "/docs/cli.md"));
        QVERIFY(format.open(QIODevice::ReadOnly) && page.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(format.readAll()), cli = QString::fromUtf8(page.readAll());
        for (const QString& row : run({"parameters"}).out.split('\n', Qt::SkipEmptyParts))
            QVERIFY2(text.contains(row), qPrintable(row));
        for (const QString& line : run({"questions"}).out.split('\n', Qt::SkipEmptyParts))
            if (!line.startsWith(' '))
                QVERIFY2(cli.contains("`" + line.section(' ', 0, 0) + "`"), qPrintable(line));
    }
    void kept_answers_are_found_again() {
        const QStringList ask{"ask",      file("a.mavlo"), "cogging", "--with",
                              "points=4", "--quality",     "draft",   "--keep"};
        const Run first = run(ask), second = run(ask);
        QCOMPARE(first.code, 0);
        QCOMPARE(first.out, second.out); // its effort too: it was not solved again
        QVERIFY(QFileInfo(file("a.answers")).isDir());
    }
    void a_killed_map_goes_on_where_it_was() {
        QCOMPARE(run({"new", "vee", "-o", file("v.mavlo")}).code, 0);
        const QStringList ask{"ask",    file("v.mavlo"), "flux-map", "--with",        "id=-100:0:20 %",
                              "--with", "points=24",     "--with",   "iq=0:100:20 %", "--quality",
                              "draft",  "--keep"};
        QProcess process;
        process.start(QStringLiteral(MAVLO_CLI), ask);
        const auto rows = [&] {
            int count = 0;
            for (const QString& name : QDir(file("v.answers")).entryList({"flux-24-*.csv"})) {
                QFile points(QDir(file("v.answers")).filePath(name));
                if (!points.open(QIODevice::ReadOnly)) continue;
                const QList<QByteArray> lines = points.readAll().split('\n');
                count =
                    int(std::count_if(lines.begin(), lines.end(), [](const auto& l) { return !l.isEmpty(); }));
            }
            return count;
        };
        QVERIFY(QTest::qWaitFor([&] { return rows() >= 8; }, 60000));
        QVERIFY(process.processId() > 0);
        ::kill(pid_t(process.processId()), SIGKILL);
        QVERIFY(process.waitForFinished(5000));
        const int kept = rows();
        QVERIFY(kept >= 8 && kept < 36);
        const Run again = run(ask);
        QCOMPARE(again.code, 0);
        const auto answer = nlohmann::json::parse(again.out.toStdString());
        QCOMPARE(answer["effort"]["solves"].get<int>(), (36 - kept) * 4);
        QCOMPARE(answer["maps"][0]["z"].size(), std::size_t(6));
        // The map as a file, and a question that takes it from there.
        QCOMPARE(run(ask + QStringList{"--save-map", file("map.h5")}).code, 0);
        const Run range =
            run({"ask", file("v.mavlo"), "speed-range", "--map", file("map.h5"), "--quality", "draft"});
        QCOMPARE(range.code, 0);
        QCOMPARE(nlohmann::json::parse(range.out.toStdString())["effort"]["solves"].get<int>(), 0);
        QCOMPARE(run({"ask", file("v.mavlo"), "speed-range", "--map", file("v.mavlo")}).code, 1);
        QFile duty(file("duty.csv"));
        QVERIFY(duty.open(QIODevice::WriteOnly));
        duty.write("speed,torque,time\n600,100,10\n1200, 150, 20\n");
        duty.close();
        const QStringList efficiency{"ask",          file("v.mavlo"), "efficiency-map",    "--map",
                                     file("map.h5"), "--with",        "torques=50:200:50", "--duty"};
        const Run mean = run(efficiency + QStringList{file("duty.csv")});
        QCOMPARE(mean.code, 0);
        QVERIFY(
            nlohmann::json::parse(mean.out.toStdString())["figures"]["duty_efficiency"]["value"].get<double>() >
            0.9);
        QCOMPARE(run(efficiency + QStringList{file("nowhere.csv")}).code, 1);
    }
    void it_links_no_interface_library() {
        QProcess ldd;
        ldd.start(QStringLiteral("ldd"), {QStringLiteral(MAVLO_CLI)});
        ldd.waitForFinished();
        const QString libraries = QString::fromUtf8(ldd.readAllStandardOutput());
        QVERIFY(!libraries.isEmpty() && !libraries.contains("libQt"));
    }
};
MAVLO_TEST(cli, TestCli, EventLoop)
#include "test_cli.moc"
