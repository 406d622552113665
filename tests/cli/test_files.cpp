// The terminal program's files: what it writes, and what it says of names, endings, folders and disks that do
// not do.

#include "cli/run_cli.h"
#include "support.h"
#include "test_program.h"

#include <QDir>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QXmlStreamReader>
#include <set>

using namespace mavlo;

class TestFiles : public QObject {
    Q_OBJECT
    using Run = CliRun;
    QTemporaryDir m_folder;
    QString file(const char* name) const { return m_folder.filePath(QString::fromLatin1(name)); }
    QByteArray content(const char* name) const {
        QFile f(file(name));
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
    static Run run(const QStringList& arguments) { return run_cli(arguments); }
    /// Where no file may grow beyond so many blocks of a kilobyte.
    static Run run_with_little_room(int blocks, const QStringList& arguments) {
        QStringList quoted;
        for (const QString& argument : arguments) quoted << QStringLiteral("'%1'").arg(argument);
        return run_cli(
            {QStringLiteral("-c"), QStringLiteral("trap '' XFSZ; ulimit -f %1; exec '%2' %3")
                                       .arg(blocks)
                                       .arg(QStringLiteral(MAVLO_CLI), quoted.join(QLatin1Char(' ')))},
            QStringLiteral("/bin/bash"));
    }
    /// Of the pairs of a DXF drawing: every value of one group.
    std::multiset<QByteArray> of_group(const char* name, const QByteArray& group) const {
        std::multiset<QByteArray> values;
        const QList<QByteArray> lines = content(name).split('\n');
        for (qsizetype k = 0; k + 1 < lines.size(); k += 2)
            if (lines[k].trimmed() == group) values.insert(lines[k + 1].trimmed());
        return values;
    }

  private Q_SLOTS:
    void initTestCase() {
        QCOMPARE(run({"new", "surface", "-o", file("a.mavlo")}).code, 0);
        QCOMPARE(run({"new", "vee", "-o", file("v.mavlo")}).code, 0);
    }
    void every_starting_shape_is_written_and_sound() {
        int count = 0;
        for (const QString& line : run({"new", "--list"}).out.split('\n', Qt::SkipEmptyParts)) {
            const QString name = line.section(' ', 0, 0);
            QCOMPARE(run({"new", name, "-o", file("shape.mavlo")}).code, 0);
            const Run checked = run({"check", file("shape.mavlo")});
            QVERIFY2(checked.code == 0 && checked.out.isEmpty(), qPrintable(name + checked.out));
            ++count;
        }
        QVERIFY(count >= 10);
        QCOMPARE(run({"new", "nothing", "-o", file("b.mavlo")}).code, 2);
        QVERIFY(!QFile::exists(file("b.mavlo")));
    }
    void a_number_without_unit_is_taken_and_said() {
        const Run r = run({"new", "surface", "-o", file("u.mavlo"), "--set", "gap=1"});
        QCOMPARE(r.code, 0);
        QVERIFY2(r.err.contains("gap") && r.err.contains("1 mm"), qPrintable(r.err));
        QVERIFY(content("u.mavlo").contains("\"gap\": \"1\"")); // as it was typed
        QCOMPARE(run({"new", "surface", "-o", file("w.mavlo"), "--set", "gap="}).code, 1);
        QVERIFY(!QFile::exists(file("w.mavlo")));
    }
    void check_names_every_mistake_on_a_line_of_its_own() {
        QByteArray text = content("a.mavlo");
        text.replace("\"rotor\"", "\"rotator\"");
        QFile broken(file("c.mavlo"));
        QVERIFY(broken.open(QIODevice::WriteOnly) && broken.write(text) > 0);
        broken.close();
        const Run r = run({"check", file("c.mavlo")});
        QVERIFY2((r.out + r.err).contains("rotator"), qPrintable(r.out + r.err));
        QFile two(file("d.mavlo"));
        text = content("a.mavlo");
        text.replace("\"gap\": \"1 mm\"", "\"gap\": \"1 V\"");
        text.replace("\"depth\": \"", "\"depth\": \"0x");
        QVERIFY(two.open(QIODevice::WriteOnly) && two.write(text) > 0);
        two.close();
        const Run checked = run({"check", file("d.mavlo")});
        QCOMPARE(checked.code, 1);
        const QStringList lines = checked.out.split('\n', Qt::SkipEmptyParts);
        QVERIFY2(lines.size() >= 2, qPrintable(checked.out));
        for (const QString& line : lines) QVERIFY2(line.contains(": ") && line.endsWith('.'), qPrintable(line));
    }
    void drawings_have_a_layer_a_role() {
        for (const char* shown : {"whole", "pitch", "half", "computed"}) {
            QCOMPARE(run({"export", file("v.mavlo"), "-o", file("v.dxf"), "--shown", shown}).code, 0);
            const auto layers = of_group("v.dxf", "8");
            QVERIFY2(std::set<QByteArray>(layers.begin(), layers.end()).size() >= 4, shown);
            const auto kinds = of_group("v.dxf", "0");
            QCOMPARE(kinds.count("EOF"), 1U);
            QVERIFY(kinds.count("LINE") + kinds.count("ARC") + kinds.count("LWPOLYLINE") > 10);
        }
        // A whole section has the slots' number of times a pitch's conductors.
        QCOMPARE(run({"export", file("v.mavlo"), "-o", file("w.dxf")}).code, 0);
        QCOMPARE(run({"export", file("v.mavlo"), "-o", file("p.dxf"), "--shown", "pitch"}).code, 0);
        QVERIFY(content("w.dxf").size() > 4 * content("p.dxf").size());
    }
    void meshes_are_well_formed() {
        QCOMPARE(run({"export", file("v.mavlo"), "-o", file("v.vtu"), "--quality", "draft", "--iq", "20",
                      "--angle", "3"})
                     .code,
                 0);
        QXmlStreamReader xml(content("v.vtu"));
        std::set<QString> arrays;
        int points = 0, cells = 0;
        while (!xml.atEnd()) {
            xml.readNext();
            if (!xml.isStartElement()) continue;
            if (xml.name() == QLatin1String("Piece")) {
                points = xml.attributes().value(QLatin1String("NumberOfPoints")).toInt();
                cells = xml.attributes().value(QLatin1String("NumberOfCells")).toInt();
            }
            if (xml.name() == QLatin1String("DataArray"))
                arrays.insert(xml.attributes().value(QLatin1String("Name")).toString());
        }
        QVERIFY2(!xml.hasError(), qPrintable(xml.errorString()));
        QVERIFY(points > 1000 && cells > 500);
        QVERIFY(arrays.size() >= 4 && arrays.count(QStringLiteral("connectivity")));
    }
    void coils_come_back_as_they_went() {
        QCOMPARE(run({"export", file("a.mavlo"), "-o", file("coils.csv")}).code, 0);
        const QByteArray table = content("coils.csv");
        QVERIFY(table.startsWith("coil,go slot,layer,return slot,layer,turns,phase"));
        QVERIFY(table.count('\n') >= 12);
    }
    void pictures_show_what_is_asked() {
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("a.svg")}).code, 0);
        QXmlStreamReader xml(content("a.svg"));
        while (!xml.atEnd()) xml.readNext();
        QVERIFY(!xml.hasError());
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("a.pdf")}).code, 0);
        QVERIFY(content("a.pdf").startsWith("%PDF"));
        const QByteArray before = content("a.svg");
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("a.svg"), "--angle", "10"}).code, 0);
        QVERIFY(content("a.svg") != before);
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("a.svg"), "--overlay", "rainbow"}).code, 2);
        QCOMPARE(run({"show", file("a.mavlo"), "-o", file("a.svg"), "--variant", "none"}).code, 1);
    }
    void mistakes_are_sentences_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QString a = file("a.mavlo"), junk = file("junk.dxf");
        QFile f(junk);
        QVERIFY(f.open(QIODevice::WriteOnly) && f.write("junk\n") > 0);
        const auto row = [](const char* name, QStringList arguments, int code, const char* says) {
            QTest::newRow(name) << arguments << code << QString::fromLatin1(says);
        };
        row("export to another ending", {"export", a, "-o", "x.xyz"}, 2, ".dxf");
        row("export without a project", {"export", "none.mavlo", "-o", "x.dxf"}, 1, "none.mavlo");
        row("export a third", {"export", a, "-o", "x.dxf", "--shown", "third"}, 2, "third");
        row("export into no folder", {"export", a, "-o", "/nowhere/x.dxf"}, 1, "/nowhere/x.dxf");
        row("import no drawing", {"import", a, "none.dxf", "-o", "y.mavlo"}, 1, "none.dxf");
        row("import junk", {"import", a, junk, "-o", "y.mavlo"}, 1, "no DXF");
        row("report to another ending", {"report", a, "-o", "r.txt"}, 2, ".html");
        row("notes that are not there", {"report", a, "-o", "r.html", "--notes", "@none.txt"}, 1, "none.txt");
        row("a logo that is not there", {"report", a, "-o", "r.html", "--logo", "none.png"}, 1, "none.png");
        row("a report of no question", {"report", a, "-o", "r.html", "--ask", "weather"}, 1, "weather");
        row("a study of nothing", {"study", a, "--vary", "gap=1mm,2mm"}, 1, "--ask");
        row("a study of no question", {"study", a, "--ask", "weather", "--vary", "gap=1mm,2mm"}, 1, "weather");
        row("a study of no parameter", {"study", a, "--ask", "winding", "--vary", "gapp=1"}, 1, "perhaps gap");
        row("a part of no study", {"study", a, "--ask", "winding", "--vary", "gap=1mm,2mm", "--shard", "3/2"},
            1, "--shard");
        row("no goal", {"trade-off", a, "--free", "gap=1 mm:2 mm"}, 1, "--more");
        row("no freedom", {"trade-off", a, "--more", "torque_mean"}, 1, "--free");
        row("an input that it has not", {"ask", a, "cogging", "--with", "speed=3"}, 1, "points");
        row("another unit", {"ask", a, "cogging", "--with", "points=6 mm"}, 1, "a length");
        row("too many", {"ask", a, "cogging", "--with", "points=1e9"}, 1, "4 to 2000");
        row("a negative current", {"ask", a, "load", "--with", "current=-5"}, 1, "current");
        row("no threads", {"ask", a, "winding", "--threads", "0"}, 2, "--threads");
    }
    void mistakes_are_sentences() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        const Run r = run(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.err));
        QVERIFY2(r.err.contains(says), qPrintable(r.err));
        QVERIFY(r.out.isEmpty());
        // No unit or name that is missing before the full stop.
        QVERIFY2(!r.err.contains(QRegularExpression(QStringLiteral("( \\.|\\.\\.)(\\s|$)"))),
                 qPrintable(r.err));
    }
    void a_full_disk_is_said_and_nothing_is_lost() {
        const QByteArray before = content("a.mavlo");
        for (const QStringList& arguments :
             {QStringList{"ask", file("a.mavlo"), "winding", "-o", file("full.json")},
              QStringList{"show", file("a.mavlo"), "-o", file("full.svg")},
              QStringList{"export", file("a.mavlo"), "-o", file("full.dxf")},
              QStringList{"export", file("a.mavlo"), "-o", file("full.vtu"), "--quality", "draft"},
              QStringList{"new", "vee", "-o", file("a.mavlo")}}) {
            const Run r = run_with_little_room(1, arguments);
            QVERIFY2(r.code == 1, qPrintable(arguments.join(' ') + QString::number(r.code) + r.err));
            QVERIFY2(r.err.contains("error: "), qPrintable(r.err));
        }
        QVERIFY(content("a.mavlo") == before);
        // No half files are left behind under the names asked for.
        for (const char* name : {"full.json", "full.svg", "full.dxf", "full.vtu"})
            QVERIFY2(!QFile::exists(file(name)), name);
        // What cannot be kept is answered all the same.
        const Run kept = run_with_little_room(
            1, {"ask", file("a.mavlo"), "cogging", "--with", "points=4", "--quality", "draft", "--keep"});
        QVERIFY2(nlohmann::json::accept(kept.out.toStdString()) || kept.code == 1, qPrintable(kept.err));
    }
    void threads_do_not_change_an_answer() {
        const QStringList ask{"ask", file("a.mavlo"), "load", "--with", "points=24", "--quality", "draft"};
        const auto figures = [&](const char* threads) {
            const Run r = run(ask + QStringList{"--threads", threads});
            return nlohmann::json::parse(r.out.toStdString())["figures"];
        };
        QVERIFY(figures("1") == figures("2"));
        QVERIFY(figures("2") == figures("3"));
    }
    void an_answer_s_table_has_every_curve() {
        const QStringList ask{"ask", file("a.mavlo"), "cogging", "--with", "points=8", "--quality", "draft"};
        QCOMPARE(run(ask + QStringList{"-o", file("c.csv")}).code, 0);
        QCOMPARE(run(ask + QStringList{"-o", file("c.json")}).code, 0);
        const auto json = nlohmann::json::parse(content("c.json").toStdString());
        const QByteArray csv = content("c.csv");
        for (const auto& curve : json["curves"])
            QVERIFY(csv.contains(QByteArray::fromStdString(curve["name"].get<std::string>())));
        // Eight rows of eight positions, and a head.
        QVERIFY(csv.count('\n') >= 9);
    }
};

MAVLO_TEST(files, TestFiles, EventLoop)
#include "test_files.moc"
