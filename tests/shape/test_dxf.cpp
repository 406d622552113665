// DXF written and read again; curves as arcs; what is no drawing gets a sentence.

#include "quantity/constants.h"
#include "shape/dxf/curves.h"
#include "shape/dxf/groups.h"
#include "shape/dxf/reader.h"
#include "shape/dxf/writer.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fstream>

using namespace mavlo;

namespace {

class Files {
  public:
    std::string write(const std::string& text) {
        const std::string file = m_folder.filePath(QStringLiteral("a%1.dxf").arg(m_count++)).toStdString();
        std::ofstream(file, std::ios::binary) << text;
        return file;
    }

  private:
    QTemporaryDir m_folder;
    int m_count = 0;
};

std::string entities(const std::string& inner) {
    return "  0\nSECTION\n  2\nENTITIES\n" + inner + "  0\nENDSEC\n  0\nEOF\n";
}

double area(const std::vector<Piece>& closed) {
    double sum = 0;
    for (const Piece& p : closed) sum += swept_area(p);
    return std::abs(sum);
}

} // namespace

class TestDxf : public QObject {
    Q_OBJECT
    Files m_files;
  private Q_SLOTS:
    void what_is_written_reads_back() {
        std::vector<Piece> pieces{{{1e-3, 2e-3}, {3e-3, 4e-3}, 0, 0}};
        add_arc(pieces, {{5e-3, 0}, 2e-3}, 0.3, 2.5, 1);
        pieces.push_back({{0, 0}, {1e-3, 0}, -0.7, 1}); // clockwise
        const auto read = read_dxf(m_files.write(dxf_text(pieces, {"STATOR_IRON", "ROTOR_AIR"})));
        QVERIFY(bool(read));
        QVERIFY(read->pieces.size() >= pieces.size()); // an arc may come in parts
        double length = 0, wanted = 0;
        for (const Piece& p : read->pieces) length += length_of(p);
        for (const Piece& p : pieces) wanted += 1e3 * length_of(p); // millimetres
        CLOSE(length / wanted, 1, 1e-12);
        QVERIFY(std::find(read->layers.begin(), read->layers.end(), "ROTOR_AIR") != read->layers.end());
        const Circle circle = circle_of(read->pieces[1]);
        CLOSE(circle.centre.x, 5, 1e-9);
        CLOSE(circle.radius, 2, 1e-9);
    }
    void a_light_polyline_with_bulges() {
        // A square of 2 whose right side is half a circle outwards.
        const auto read = read_dxf(
            m_files.write(entities("  0\nLWPOLYLINE\n  8\n0\n 90\n4\n 70\n1\n 10\n0\n 20\n0\n 10\n2\n 20\n0\n "
                                   "42\n1\n 10\n2\n 20\n2\n 10\n0\n 20\n2\n")));
        QVERIFY(bool(read));
        CLOSE(area(read->pieces), 4 + pi / 2, 1e-12);
    }
    void ellipses_have_their_area() {
        for (double ratio : {0.999, 0.5, 0.1}) {
            const std::string text = entities(QStringLiteral("  0\nELLIPSE\n  8\n0\n 10\n1\n 20\n2\n 11\n3\n "
                                                             "21\n1\n 40\n%1\n 41\n0\n 42\n6.283185307179586\n")
                                                  .arg(ratio, 0, 'g', 12)
                                                  .toStdString());
            const auto read = read_dxf(m_files.write(text));
            QVERIFY(bool(read));
            CLOSE(area(read->pieces) / (pi * 10 * ratio), 1, 1e-5);
            QVERIFY(read->pieces.size() < 400);
        }
    }
    void splines_are_followed() {
        // Quadratic B-spline with weights: a quarter of a circle, exactly.
        Nurbs quarter{2, {0, 0, 0, 1, 1, 1}, {{1, 0}, {1, 1}, {0, 1}}, {1, std::sqrt(0.5), 1}, false};
        QVERIFY(quarter.is_sound());
        for (double t : {0.0, 0.3, 0.5, 0.8, 1.0}) CLOSE(norm(quarter.at(t)), 1, 1e-12);
        std::vector<Piece> pieces;
        add_nurbs(pieces, quarter, 3);
        double length = 0;
        for (const Piece& p : pieces) length += length_of(p);
        CLOSE(length, pi / 2, 1e-6);
        quarter.knots.pop_back();
        QVERIFY(!quarter.is_sound());
        // A closed curve through points of a circle.
        std::vector<Point> through;
        for (int i = 0; i < 24; ++i) through.push_back(polar(2, 2 * pi * i / 24));
        std::vector<Piece> closed;
        add_fitted(closed, through, true, 0);
        CLOSE(area(closed) / (4 * pi), 1, 1e-4);
    }
    void curves_are_halved_until_they_fit() {
        std::vector<Piece> pieces;
        add_curve(
            pieces,
            [](double t) {
                return Point{t, std::exp(t)};
            },
            0, 2, 0);
        for (const Piece& p : pieces)
            for (double share : {0.25, 0.5, 0.75}) {
                const Point at = point_at(p, share);
                CLOSE(std::exp(at.x), at.y, 3e-5);
            }
    }
    void what_is_no_drawing_gets_a_sentence_data() {
        QTest::addColumn<QString>("text");
        QTest::newRow("empty") << "";
        QTest::newRow("prose") << "This is a letter.\nIt has lines.\n";
        QTest::newRow("cut off") << QString::fromStdString(
            entities("  0\nLINE\n  8\n0\n 10\n0\n 20\n0\n 11\n1\n 21\n1\n").substr(0, 60));
        QTest::newRow("a number that is none")
            << QString::fromStdString(entities("  0\nLINE\n  8\n0\n 10\nabc\n 20\n0\n 11\n1\n 21\n1\n"));
        QTest::newRow("nothing drawn") << QString::fromStdString(entities(""));
    }
    void what_is_no_drawing_gets_a_sentence() {
        QFETCH(QString, text);
        const auto read = read_dxf(m_files.write(text.toStdString()));
        QVERIFY(!read);
        QVERIFY(read.problems().front().sentence.size() > 15);
    }
    void a_missing_file_gets_a_sentence() {
        const auto read = read_dxf("/nonexistent/drawing.dxf");
        QVERIFY(!read);
        QVERIFY(read.problems().front().sentence.find("opened") != std::string::npos);
    }
};
MAVLO_TEST(dxf, TestDxf, Nothing)
#include "test_dxf.moc"
