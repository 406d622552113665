// Drawings from strangers: damaged, endless or full of traps, through `import`.

#include "drawing/section.h"
#include "hostile/hostile.h"
#include "shape/dxf/writer.h"
#include "test_program.h"

#include <random>

using namespace mavlo;

class TestStrangerDrawings : public QObject {
    Q_OBJECT
    Leash m_leash;
    QString m_project;

    CliRun import(const QByteArray& drawing) const {
        return m_leash.run({"import", m_project, m_leash.put("h.dxf", drawing), "-o", m_leash.path("out.mavlo"),
                            "--report", m_leash.path("r.json")});
    }
    static QByteArray entities(const QByteArray& body, const QByteArray& before = {}) {
        return before + "  0\nSECTION\n  2\nENTITIES\n" + body + "  0\nENDSEC\n  0\nEOF\n";
    }
    static QByteArray line(double x1, double y1, double x2, double y2, const char* layer = "0") {
        return QStringLiteral("  0\nLINE\n  8\n%1\n 10\n%2\n 20\n%3\n 11\n%4\n 21\n%5\n")
            .arg(QString::fromLatin1(layer))
            .arg(x1, 0, 'g', 17)
            .arg(y1, 0, 'g', 17)
            .arg(x2, 0, 'g', 17)
            .arg(y2, 0, 'g', 17)
            .toLatin1();
    }
    static QByteArray blocks(const QByteArray& body) {
        return "  0\nSECTION\n  2\nBLOCKS\n" + body + "  0\nENDSEC\n";
    }
    static QByteArray block(const QByteArray& name, const QByteArray& body) {
        return "  0\nBLOCK\n  8\n0\n  2\n" + name + "\n 10\n0\n 20\n0\n" + body + "  0\nENDBLK\n";
    }
    static QByteArray insert(const QByteArray& name, int columns = 1, int rows = 1) {
        return "  0\nINSERT\n  8\n0\n  2\n" + name + "\n 10\n0\n 20\n0\n 70\n" + QByteArray::number(columns) +
               "\n 71\n" + QByteArray::number(rows) + "\n 44\n1\n 45\n1\n";
    }
    /// The rotor of a starting shape, as this program draws it.
    static QByteArray sound() {
        const Machine m = machine_of(new_project("bar")->variants.front().design);
        const SectionPieces section = section_pieces(m, Shown::Whole);
        return QByteArray::fromStdString(dxf_text(section.pieces, section.layers));
    }

  private Q_SLOTS:
    void initTestCase() { m_project = m_leash.project(); }

    void counts_are_looked_at_before_room_is_made_data() {
        QTest::addColumn<QByteArray>("body");
        QTest::newRow("polyline") << QByteArray("  0\nLWPOLYLINE\n  8\n0\n 90\n1073741825\n 10\n0\n 20\n0\n");
        QTest::newRow("negative") << QByteArray("  0\nLWPOLYLINE\n  8\n0\n 90\n-5\n 10\n0\n 20\n0\n");
        QTest::newRow("as a real") << QByteArray("  0\nLWPOLYLINE\n  8\n0\n 90\n1e9\n 10\n0\n 20\n0\n");
        QTest::newRow("spline") << QByteArray(
            "  0\nSPLINE\n  8\n0\n 71\n3\n 72\n30000\n 73\n30000\n 74\n30000\n");
        QTest::newRow("hatch") << QByteArray("  0\nHATCH\n  8\n0\n 91\n2000000000\n");
        QTest::newRow("leader") << QByteArray("  0\nLEADER\n  8\n0\n 76\n30000\n");
    }
    void counts_are_looked_at_before_room_is_made() {
        QFETCH(QByteArray, body);
        const CliRun run = import(entities(body));
        QVERIFY(refused(run) && says(run, "counts more points"));
    }
    void blocks_in_blocks_end() {
        // Nested without a line, 10^12 places.
        QByteArray nested = block("b0", "");
        for (int k = 1; k <= 12; ++k)
            nested += block("b" + QByteArray::number(k), insert("b" + QByteArray::number(k - 1)).repeated(10));
        QVERIFY(refused(import(blocks(nested) + entities(insert("b12")))));
        QVERIFY(refused(
            import(blocks(block("a", line(0, 0, 1, 1))) + entities(insert("a", 1000, 1000).repeated(60)))));
        QVERIFY(refused(import(blocks(block("a", insert("a"))) + entities(insert("a")))));
    }
    void fit_points_do_not_take_all_memory() {
        QByteArray fit = "  0\nSPLINE\n  8\n0\n 70\n8\n 71\n3\n 74\n30000\n";
        for (int k = 0; k < 30000; ++k)
            fit += " 11\n" + QByteArray::number(k % 173) + "\n 21\n" + QByteArray::number(k % 191) + "\n";
        const CliRun run = import(entities(fit));
        QVERIFY(run.code == 1 || run.code == 0);
    }
    void crossings_have_a_budget() {
        QByteArray body;
        std::mt19937 random(1);
        std::uniform_real_distribution<double> anywhere(-100, 100);
        for (int k = 0; k < 6000; ++k)
            body += line(anywhere(random), anywhere(random), anywhere(random), anywhere(random));
        body += "  0\nCIRCLE\n  8\n0\n 10\n0\n 20\n0\n 40\n100\n";
        const CliRun run = import(entities(body));
        QVERIFY(refused(run) && says(run, "too many lines"));
    }
    void texts_in_any_encoding() {
        QByteArray drawing = sound();
        drawing.replace("rotor", "r\xf6tor\xff");
        QVERIFY(import(drawing).code >= 0);
        const QByteArray text = "  0\nTEXT\n  8\nl\xe4yer\n 10\n0\n 20\n0\n 40\n1\n  1\n\xe9\xff\x80\n";
        const CliRun run = import(entities(text + line(0, 0, 1, 1, "\xb5\xfe")));
        QVERIFY(refused(run));
        QVERIFY(nlohmann::json::accept(m_leash.content("r.json").toStdString()));
    }
    void layers_switched_off_are_not_read() {
        const auto with_layer = [](const char* colour) {
            return QByteArray("  0\nSECTION\n  2\nTABLES\n  0\nTABLE\n  2\nLAYER\n 70\n1\n  0\nLAYER\n  "
                              "2\nghost\n 70\n0\n "
                              "62\n") +
                   colour + "\n  6\nCONTINUOUS\n  0\nENDTAB\n  0\nENDSEC\n";
        };
        const QByteArray body =
            line(0, 0, 10, 0, "ghost") + "  0\nCIRCLE\n  8\nshown\n 10\n0\n 20\n0\n 40\n30\n";
        import(entities(body, with_layer("-7")));
        QVERIFY2(m_leash.content("r.json").contains("ghost") || !m_leash.content("r.json").contains("open"),
                 m_leash.content("r.json").constData());
        const CliRun off = import(entities(body, with_layer("-7"))),
                     on = import(entities(body, with_layer("7")));
        QVERIFY(!(off.err + off.out).contains("ends open"));
        QVERIFY((on.err + on.out).contains("ends open"));
    }
    void what_reaches_beyond_all_is_named() {
        QByteArray drawing = sound();
        const qsizetype at = drawing.indexOf("  0\nENDSEC", drawing.indexOf("ENTITIES"));
        drawing.insert(at, line(0, 0, 1e300, 5, "strange"));
        const CliRun run = import(drawing);
        QVERIFY(says(run, "strange") && says(run, "1e+300"));
        QCOMPARE(run.code, 0);
    }
    void damaged_ones_never_end_the_program() {
        const QByteArray good = sound();
        std::mt19937 random(7);
        int tries = qEnvironmentVariableIntValue("MAVLO_ROUNDS");
        if (tries == 0) tries = 60;
        for (int k = 0; k < tries; ++k) {
            QByteArray bad = good;
            for (int hit = 0; hit < 1 + k % 5; ++hit) {
                const auto at = qsizetype(random() % std::size_t(bad.size()));
                switch (random() % 4) {
                case 0:
                    bad[at] = char(random() % 256);
                    break;
                case 1:
                    bad.remove(at, 1 + int(random() % 40));
                    break;
                case 2:
                    bad.insert(at, bad.mid(qsizetype(random() % std::size_t(bad.size())), 60));
                    break;
                default:
                    bad.replace(at, 6, QByteArray::number(double(random()) * 1e10));
                }
            }
            const CliRun run = import(bad);
            QVERIFY2(run.code == 0 || run.code == 1, qPrintable(QString::number(k) + " " + run.err.left(300)));
        }
    }
};
MAVLO_TEST(stranger_drawings, TestStrangerDrawings, EventLoop)
#include "test_stranger_drawings.moc"
