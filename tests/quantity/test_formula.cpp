#include "machine/design.h"
#include "quantity/formula.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

Result<Quantity> lookup(const std::string& path) {
    if (path == "a.length") return Quantity{0.1, dimension::length};
    if (path == "gap") return Quantity{0.001, dimension::length};
    if (path == "angle") return Quantity{0.5, dimension::angle};
    if (path == "count") return Quantity{12, dimension::none};
    return Problem{{}, "no such path"};
}

} // namespace

class TestFormula : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void evaluates_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("metres");
        QTest::newRow("difference") << "= a.length - 2*gap" << 0.098;
        QTest::newRow("with unit") << "= gap + 0.5 mm" << 0.0015;
        QTest::newRow("inch without blank") << "=0.5in" << 0.0127;
        QTest::newRow("share") << "= 0.3 * a.length" << 0.03;
        QTest::newRow("root") << "= sqrt(a.length^2 + gap*gap)" << std::sqrt(0.01 + 1e-6);
        QTest::newRow("sine of an angle") << "= a.length * sin(angle)" << 0.1 * std::sin(0.5);
        QTest::newRow("least") << "= min(a.length, 20 mm)" << 0.02;
        QTest::newRow("circle") << "= pi * a.length / count" << 3.14159265358979 * 0.1 / 12;
    }
    void evaluates() {
        QFETCH(QString, text);
        QFETCH(double, metres);
        const auto value = evaluate_formula(text.toStdString(), dimension::length, lookup);
        if (!value) QFAIL(value.problems().front().sentence.c_str());
        CLOSE(value->si, metres, 1e-12);
    }
    void refuses_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("word");
        QTest::newRow("length and number") << "= a.length + 2"
                                           << "different kinds";
        QTest::newRow("area") << "= a.length * gap"
                              << "an area";
        QTest::newRow("ratio") << "= a.length / gap"
                               << "a plain number";
        QTest::newRow("length and angle") << "= a.length + angle"
                                          << "different kinds";
        QTest::newRow("sine of a length") << "= a.length * sin(gap)"
                                          << "different kinds";
        QTest::newRow("unknown") << "= a.lenght"
                                 << "no such path";
        QTest::newRow("syntax") << "= (a.length"
                                << "cannot be read";
        QTest::newRow("empty") << "= "
                               << "empty";
        QTest::newRow("division by nothing") << "= gap / (count - 12)"
                                             << "no finite value";
        QTest::newRow("strange sign") << "= gap ; 3"
                                      << "no meaning";
    }
    void refuses() {
        QFETCH(QString, text);
        QFETCH(QString, word);
        const auto value = evaluate_formula(text.toStdString(), dimension::length, lookup);
        QVERIFY(!value);
        QVERIFY2(QString::fromStdString(value.problems().front().sentence).contains(word),
                 value.problems().front().sentence.c_str());
    }
    void a_design_follows_its_formulas() {
        const auto values = resolve(design_of({{"stator.bore_diameter", "= 0.6 * stator.outer_diameter"},
                                               {"stator.outer_diameter", "160 mm"},
                                               {"gap", "= stator.bore_diameter/100"}}));
        QVERIFY(bool(values));
        CLOSE(values->number("stator.bore_diameter"), 0.096, 1e-12);
        CLOSE(values->number("gap"), 0.00096, 1e-12);
    }
    void a_circle_is_named_with_its_path() {
        const auto values =
            resolve(design_of({{"gap", "= stator.slot.depth / 20"}, {"stator.slot.depth", "= 20 * gap"}}));
        QVERIFY(!values);
        const auto sentence = sentence_at(values.problems(), "gap");
        QVERIFY(sentence.find("circle") != std::string::npos &&
                sentence.find("stator.slot.depth") != std::string::npos);
    }
    void a_misspelt_path_gets_a_suggestion() {
        const auto values = resolve(design_of({{"gap", "= stator.slot.dept / 20"}}));
        QVERIFY(!values);
        QVERIFY(sentence_at(values.problems(), "gap").find("stator.slot.depth") != std::string::npos);
    }
    void a_missing_unit_is_asked_for() {
        const auto values = resolve(design_of({{"gap", "0.9"}}));
        QVERIFY(!values);
        QVERIFY(sentence_at(values.problems(), "gap").find("0.9 mm") != std::string::npos);
    }
    void formula_paths_lists_each_once() { QCOMPARE(formula_paths("= gap + 2*gap - a.length").size(), 2U); }
};
MAVLO_TEST(formula, TestFormula, Nothing)
#include "test_formula.moc"
