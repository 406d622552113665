// Tables of data sheets become curves: understood, judged, mended.

#include "material/bh_check.h"
#include "material/bh_repair.h"
#include "material/bh_table.h"
#include "material/demagnetisation.h"
#include "material/loss_table.h"
#include "material/material.h"
#include "support.h"
#include "test_program.h"

#include <fmt/format.h>
#include <random>

using namespace mavlo;

namespace {

/// A steel by the law of approach with known saturation, from a soft start: J = 2 H/(H + 150) up to the knee.
double known_polarisation(double h) {
    return 2.0 * h / (h + 150) * 0.98 + 0.02 * 2.0 * std::tanh(h / 50);
}

std::vector<BhPoint> known_curve(double highest) {
    std::vector<BhPoint> points;
    for (double h = 20; h < highest; h *= 1.35) points.push_back({h, known_polarisation(h) + mu0 * h});
    return points;
}

bool says(const std::vector<Finding>& findings, Finding::Grade grade, const char* words, int row = -1) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) {
        return f.grade == grade && f.sentence.find(words) != std::string::npos && (row < 0 || f.row == row);
    });
}

std::string table_text(const std::vector<BhPoint>& points, double h_unit, double b_unit, bool comma = false) {
    std::string text;
    for (const BhPoint& p : points) text += fmt::format("{:.6g}\t{:.6g}\n", p.h / h_unit, p.b / b_unit);
    if (comma) std::replace(text.begin(), text.end(), '.', ',');
    return text;
}

} // namespace

class TestTables : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void styles_of_writing_data() {
        QTest::addColumn<QString>("text");
        QTest::newRow("tabs") << "100\t0.5\n250.5\t1.25\n1000\t1.5\n";
        QTest::newRow("tabs, decimal commas") << "100\t0,5\n250,5\t1,25\n1000\t1,5\n";
        QTest::newRow("semicolons, decimal commas, headers") << "H;B\nA/m;T\n100;0,5\n250,5;1,25\n1000;1,5\n";
        QTest::newRow("commas") << "100,0.5\n250.5,1.25\n1000,1.5\n";
        QTest::newRow("comma and blank, decimal commas") << "100, 0,5\n250,5, 1,25\n1000, 1,5\n";
        QTest::newRow("blanks") << "  100   0.5\n  250.5 1.25\n1000 1.5";
        QTest::newRow("blanks, decimal commas") << "100 0,5\n250,5 1,25\n1000 1,5";
        QTest::newRow("thousands") << "100;0,5\n250,5;1,25\n1.000;1,5\n";
        QTest::newRow("exponents, quotes") << "\"1e2\",\"5e-1\"\n\"250.5\",\"1.25\"\n\"1E3\",\"1.5\"\n";
        QTest::newRow("carriage returns") << "100\t0.5\r250.5\t1.25\r1000\t1.5\r";
        QTest::newRow("byte order mark") << "\xef\xbb\xbf"
                                            "100;0.5\r\n250.5;1.25\r\n1000;1.5\r\n";
    }
    void styles_of_writing() {
        QFETCH(QString, text);
        const auto table = read_columns(text.toStdString());
        QVERIFY2(bool(table), table ? "" : table.problems().front().sentence.c_str());
        const std::vector<std::vector<double>> wanted{{100, 0.5}, {250.5, 1.25}, {1000, 1.5}};
        QVERIFY(table->rows == wanted);
    }
    void utf16_of_a_spreadsheet() {
        std::string text = "\xff\xfe";
        for (char c : std::string("H\tB\n10\t0,5\n20\t0,7\n")) text += {c, '\0'};
        const auto table = read_columns(text);
        QVERIFY(bool(table));
        QCOMPARE(table->rows.size(), std::size_t(2));
        QCOMPARE(table->headers.at(0), std::string("H"));
    }
    void what_is_left_out_is_said() {
        const auto table =
            read_columns("grade X\nH (A/m)\tB (T)\n10\t0.1\nnot measured\n20\t0.3\n30\t\n40\t0.5\n");
        QVERIFY(bool(table));
        QCOMPARE(table->rows.size(), std::size_t(3));
        QCOMPARE(table->lines.at(1), 5);
        QString notes;
        for (const auto& note : table->notes) notes += QString::fromStdString(note) + '\n';
        QVERIFY2(notes.contains("Line 4") && notes.contains("Line 6") && notes.contains("not measured"),
                 qPrintable(notes));
        QVERIFY(!read_columns("nothing here"));
        QVERIFY(!read_columns(std::string("10 20\0\n30 40", 12)));
        QVERIFY(!read_columns(""));
    }
    void units_and_order_data() {
        QTest::addColumn<QString>("header");
        QTest::addColumn<double>("h");
        QTest::addColumn<double>("b");
        QTest::addColumn<QString>("h_unit");
        QTest::addColumn<QString>("b_unit");
        const double oe = 250 / M_PI;
        QTest::newRow("plain") << "" << 1.0 << 1.0 << "A/m"
                               << "T";
        QTest::newRow("kilo") << "H [kA/m]\tB [mT]\n"
                              << 1e3 << 1e-3 << "kA/m"
                              << "mT";
        QTest::newRow("cgs") << "H (Oe)\tB (kG)\n"
                             << oe << 0.1 << "Oe"
                             << "kG";
        QTest::newRow("gauss by size") << "H (Oe)\tB\n"
                                       << oe << 1e-4 << "Oe"
                                       << "G";
    }
    void units_and_order() {
        QFETCH(QString, header);
        QFETCH(double, h);
        QFETCH(double, b);
        const auto points = known_curve(1e5);
        const auto table = read_columns(header.toStdString() + table_text(points, h, b));
        QVERIFY(bool(table));
        const BhColumns columns = guess_bh_columns(*table);
        QTEST(QString::fromStdString(columns.h_unit), "h_unit");
        QTEST(QString::fromStdString(columns.b_unit), "b_unit");
        QVERIFY(columns.h == 0 && !columns.polarisation);
        const auto read = bh_points(*table, columns);
        for (std::size_t i = 0; i < points.size(); ++i) {
            CLOSE((*read)[i].h, points[i].h, 1e-5 * points[i].h);
            CLOSE((*read)[i].b, points[i].b, 1e-5 * points[i].b);
        }
    }
    void swapped_columns_and_polarisation() {
        std::string text = "J in T;H in A/m\n";
        for (const BhPoint& p : known_curve(1e5)) text += fmt::format("{:.7f};{:.7f}\n", polarisation(p), p.h);
        const auto table = read_columns(text);
        const BhColumns columns = guess_bh_columns(*table);
        QVERIFY(columns.h == 1 && columns.b == 0 && columns.polarisation);
        const auto points = bh_points(*table, columns);
        CLOSE(points->back().b, known_curve(1e5).back().b, 1e-6);
        QVERIFY(!bh_points(*table, {0, 7, "A/m", "T"}));
        QVERIFY(!bh_points(*table, {0, 1, "mm", "T"}));
    }
    void a_good_curve_is_called_good() {
        const auto findings = judge_bh(known_curve(1e5));
        QVERIFY(!has_fault(findings));
        QVERIFY(!says(findings, Finding::Grade::Caution, ""));
        for (const auto& [name, material] : shipped_materials())
            if (!material.curve.is_linear())
                QVERIFY2(!says(judge_bh(material.curve.points()), Finding::Grade::Caution, "") &&
                             !has_fault(judge_bh(material.curve.points())),
                         name.c_str());
    }
    void faults_are_said_with_their_row() {
        using Grade = Finding::Grade;
        const auto good = known_curve(1e5);
        auto bad = good;
        bad[4].b = bad[3].b - 0.1;
        QVERIFY(says(judge_bh(bad), Grade::Fault, "B does not rise", 5));
        bad = good;
        std::swap(bad[6], bad[7]);
        QVERIFY(says(judge_bh(bad), Grade::Fault, "H does not rise", 8));
        bad = good;
        bad.back().b = bad[bad.size() - 2].b + 1e-3;
        QVERIFY(says(judge_bh(bad), Grade::Fault, "flatter than vacuum", int(bad.size())));
        bad = good;
        bad.insert(bad.begin(), BhPoint{0, 0.2});
        QVERIFY(says(judge_bh(bad), Grade::Fault, "starts at the origin", 1));
        bad = good;
        bad.insert(bad.begin(), BhPoint{-50, -0.4});
        QVERIFY(says(judge_bh(bad), Grade::Fault, "not a loop", 1));
        bad = good;
        bad[9].b += 0.12;
        QVERIFY(says(judge_bh(bad), Grade::Caution, "off its neighbours", 10) || has_fault(judge_bh(bad)));
        QVERIFY(says(judge_bh(known_curve(600)), Grade::Caution, "before saturation"));
        QVERIFY(says(judge_bh({good[2], good[8], good[15]}), Grade::Caution, "points"));
        // J read as B, and B read as J.
        auto j = good;
        for (BhPoint& p : j) p.b = polarisation(p);
        QVERIFY(says(judge_bh(j), Grade::Caution, "choose J"));
        auto doubled = good;
        for (BhPoint& p : doubled) p.b += mu0 * p.h;
        QVERIFY(says(judge_bh(doubled, true), Grade::Caution, "choose B"));
        auto kilo = good;
        for (BhPoint& p : kilo) p.h /= 1000;
        QVERIFY(says(judge_bh(kilo), Grade::Caution, "kA/m"));
    }
    void approach_law_is_found_again() {
        const ApproachLaw law{{5000, 1.7}, 700, 2e5};
        std::vector<BhPoint> points;
        for (double h : {5000., 7000., 10000., 15000., 22000.}) points.push_back({h, law.flux_density(h)});
        const ApproachLaw found = fit_approach(points);
        CLOSE(found.a, law.a, 1e-6 * law.a);
        CLOSE(found.b, law.b, 1e-6 * law.b);
        CLOSE(found.saturation(), law.saturation(), 1e-9);
    }
    void a_short_curve_is_prolonged_to_its_saturation() {
        const auto repair = repair_bh(known_curve(4000));
        QVERIFY(bool(repair));
        QVERIFY(!repair->done.empty());
        QVERIFY(!has_fault(judge_bh(repair->points)));
        QVERIFY(last_slope(repair->points) < 1.03);
        // The true curve's polarisation ends at 2 T.
        CLOSE(polarisation(repair->points.back()), 2.0, 0.03);
        for (const BhPoint& p : known_curve(4000)) { // what was given stays
            const auto same = std::find_if(repair->points.begin(), repair->points.end(),
                                           [&](const BhPoint& q) { return q.h == p.h; });
            QVERIFY(same != repair->points.end());
            CLOSE(same->b, p.b, 1e-12);
        }
    }
    void a_bad_tail_is_replaced() {
        auto points = known_curve(3e4);
        const double b = points.back().b;
        points.push_back({5e4, b + 1e-3});
        points.push_back({8e4, b + 2e-3});
        const auto repair = repair_bh(points);
        QVERIFY(bool(repair));
        QVERIFY(!has_fault(judge_bh(repair->points)));
        const auto curve = BhCurve::through(repair->points);
        QVERIFY(bool(curve));
        CLOSE(curve->flux_density(8e4), known_polarisation(8e4) + mu0 * 8e4, 0.02);
    }
    void a_good_curve_is_left_alone() {
        const auto repair = repair_bh(known_curve(2e5));
        QVERIFY(repair && repair->done.empty() && repair->points == known_curve(2e5));
    }
    void mutated_tables_end_in_a_sentence_or_a_curve() {
        std::mt19937 random(7);
        const std::string good = "H (A/m);B (T)\n" + table_text(known_curve(5e4), 1, 1);
        const std::string letters("0123456789.,;-+eE\t \n\0\xff\xfe\"JBnaninf", 32);
        for (int round = 0; round < 600; ++round) {
            std::string text = good;
            for (int changes = 1 + int(random() % 12); changes > 0; --changes) {
                const std::size_t at = random() % text.size();
                const std::size_t length = random() % 20;
                switch (random() % 4) {
                case 0:
                    text[at] = letters[random() % letters.size()];
                    break;
                case 1:
                    text.erase(at, length);
                    break;
                case 2:
                    text.insert(at, text.substr(random() % text.size(), length));
                    break;
                default:
                    text.resize(std::max<std::size_t>(at, 1));
                }
                if (text.empty()) text = "1";
            }
            const auto table = read_columns(text);
            if (!table) {
                QVERIFY(!table.problems().front().sentence.empty());
                continue;
            }
            const auto points = bh_points(*table, guess_bh_columns(*table));
            if (!points) continue;
            const auto findings = judge_bh(*points);
            QVERIFY(!findings.empty());
            // What has no fault makes a curve, and what a repair gives has no fault.
            if (!has_fault(findings)) QVERIFY(bool(BhCurve::through(*points)));
            if (const auto repair = repair_bh(*points)) {
                const auto curve = BhCurve::through(repair->points);
                QVERIFY2(bool(curve), curve ? "" : to_string(curve.problems().front()).c_str());
                QVERIFY(!has_fault(judge_bh(repair->points)));
            }
        }
    }

    void demagnetisation_curves_give_the_grade() {
        // A grade of known figures, its curves as they are drawn from them.
        MagnetData known;
        known.remanence = 1.25;
        known.recoil_mu_r = 1.06;
        known.remanence_per_kelvin = -0.0011;
        known.coercivity = 1500e3;
        known.coercivity_per_kelvin = -0.0055;
        std::vector<DemagnetisationCurve> curves;
        for (double kelvin : {293.15, 373.15, 423.15}) {
            auto curve = demagnetisation_curve(kelvin, intrinsic_curve(known, kelvin, 200));
            QVERIFY2(bool(curve), curve ? "" : curve.problems().front().sentence.c_str());
            curves.push_back(*curve);
        }
        const auto found = fit_magnet(curves);
        QVERIFY(bool(found));
        CLOSE(found->remanence, known.remanence, 1e-3);
        CLOSE(found->recoil_mu_r, known.recoil_mu_r, 5e-3);
        CLOSE(found->remanence_per_kelvin, known.remanence_per_kelvin, 2e-5);
        CLOSE(found->coercivity, known.coercivity, 2e-3 * known.coercivity);
        CLOSE(found->coercivity_per_kelvin, known.coercivity_per_kelvin, 2e-5);
        // The knee: 5 % off the line; between the temperatures in between.
        CLOSE(found->knee_field_at(373.15), known.knee_field_at(373.15), 0.04 * known.coercivity_at(373.15));
        QVERIFY(found->knee_field_at(340) > found->knee_field_at(373.15));
        QVERIFY(found->knee_field_at(340) < found->knee_field_at(293.15));
        CLOSE(found->knee_at(373.15),
              found->remanence_at(373.15) - mu0 * found->recoil_mu_r * found->knee_field_at(373.15), 1e-12);
        // A curve half way between two is drawn between them.
        const auto between = intrinsic_curve(*found, 333.15);
        QVERIFY(between.front().b < known.remanence && between.front().b > known.remanence_at(373.15));
    }
    void bad_demagnetisation_curves_are_refused() {
        QVERIFY(!demagnetisation_curve(300, {{0, 1}, {-1e5, 0.9}}));
        QVERIFY(!demagnetisation_curve(300, {{0, 1}, {-1e5, 1.2}, {-2e5, 0}}));
        QVERIFY(!demagnetisation_curve(300, {{0, -1}, {-1e5, -1.2}, {-2e5, -2}}));
        QVERIFY(!fit_magnet({}));
    }
    void loss_tables_long_and_wide() {
        std::vector<std::string> notes;
        const auto wide = loss_points(
            *read_columns("B [T]\t50 Hz\t0.4 kHz\n0.5\t0.6\t9\n1.0\t1.4\t28\n1.5\t3.1\t\n1.5\t3.1\t65\n"),
            notes);
        QVERIFY2(bool(wide), wide ? "" : wide.problems().front().sentence.c_str());
        QCOMPARE(wide->size(), std::size_t(6));
        CLOSE(wide->back().frequency, 400, 0);
        CLOSE(wide->back().loss, 65, 0);
        // Long: in any order, by headers or by sizes.
        for (const char* text : {"f (Hz);B (T);P (W/kg)\n50;0.5;0.6\n50;1;1.4\n400;0.5;9\n400;1;28\n",
                                 "W/kg,T,Hz\n0.6,0.5,50\n1.4,1,50\n9,0.5,400\n28,1,400\n",
                                 "50 0.5 0.6\n50 1 1.4\n400 0.5 9\n400 1 28\n",
                                 "50 500 0.6\n50 1000 1.4\n400 500 9\n400 1000 28\n"}) {
            const auto points = loss_points(*read_columns(text), notes);
            QVERIFY2(bool(points), text);
            QCOMPARE(points->size(), std::size_t(4));
            QVERIFY2(points->front() == (LossPoint{50, 0.5, 0.6}), text);
            QVERIFY2(points->back() == (LossPoint{400, 1, 28}), text);
        }
        QVERIFY(!loss_points(*read_columns("1 2\n3 4\n"), notes));
    }
    void mutated_loss_and_magnet_tables_end_in_a_sentence_or_a_law() {
        std::mt19937 random(23);
        std::string loss = "Hz\tT\tW/kg\n", magnet = "H (kA/m)\tJ (T)\n";
        for (double f : {50.0, 100.0, 400.0, 1000.0})
            for (double b : {0.3, 0.6, 0.9, 1.2, 1.5})
                loss +=
                    fmt::format("{}\t{}\t{:.5g}\n", f, b, 0.02 * f * std::pow(b, 1.9) + 4e-5 * f * f * b * b);
        for (int i = 0; i < 20; ++i)
            magnet += fmt::format("{}\t{:.4g}\n", -60 * i, i < 18 ? 1.2 - 0.004 * i : 0.3);
        for (int round = 0; round < 600; ++round) {
            std::string text = round % 2 ? loss : magnet;
            for (int changes = 1 + int(random() % 10); changes > 0; --changes) {
                const std::size_t at = random() % text.size();
                if (random() % 3 == 0)
                    text.erase(at, random() % 8);
                else
                    text[at] = "0123456789.,-e\t\n x"[random() % 18];
                if (text.empty()) text = "1";
            }
            const auto table = read_columns(text);
            if (!table) continue;
            std::vector<std::string> notes;
            if (round % 2) {
                const auto points = loss_points(*table, notes);
                if (!points) continue;
                for (LossLaw law : {LossLaw::Separated, LossLaw::Power}) {
                    const auto fitted = fit_iron_loss(*points, 0, law);
                    if (!fitted) QVERIFY(!fitted.problems().front().sentence.empty());
                    if (fitted) QVERIFY(std::isfinite(fitted->loss(200, 1)) && fitted->loss(200, 1) >= 0);
                }
                continue;
            }
            if (table->columns() < 2) continue;
            std::vector<BhPoint> points;
            for (const auto& row : table->rows) points.push_back({row[0] * 1e3, row[1]});
            const auto curve = demagnetisation_curve(293.15, points);
            if (!curve) continue;
            if (const auto fitted = fit_magnet({*curve})) {
                QVERIFY(std::isfinite(fitted->remanence) && fitted->remanence > 0);
                QVERIFY(std::isfinite(fitted->knee_at(350)));
                for (const BhPoint& p : intrinsic_curve(*fitted, 320)) QVERIFY(std::isfinite(p.h + p.b));
            }
        }
    }
};
MAVLO_TEST(tables, TestTables, Nothing)
#include "test_tables.moc"
