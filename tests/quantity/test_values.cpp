// Small tools that others lean on: samples, bounds, axes, cells of tables, words for dimensions, searches.

#include "quantity/bound.h"
#include "quantity/csv.h"
#include "quantity/latin_hypercube.h"
#include "quantity/quantity.h"
#include "quantity/round_values.h"
#include "quantity/search.h"
#include "support.h"
#include "test_program.h"

#include <algorithm>
#include <set>

using namespace mavlo;

class TestValues : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void samples_fill_every_part_of_every_dimension() {
        for (int count : {1, 2, 7, 40}) {
            const auto samples = latin_hypercube(5, count, 3);
            QCOMPARE(samples.size(), std::size_t(count));
            for (std::size_t d = 0; d < 5; ++d) {
                std::set<int> parts;
                for (const auto& sample : samples) {
                    QVERIFY(sample[d] >= 0 && sample[d] < 1);
                    parts.insert(int(sample[d] * count));
                }
                QCOMPARE(parts.size(), std::size_t(count));
            }
        }
        QVERIFY(latin_hypercube(3, 20, 8) == latin_hypercube(3, 20, 8));
        QVERIFY(latin_hypercube(3, 20, 8) != latin_hypercube(3, 20, 9));
        // Dimensions are shuffled by themselves.
        const auto samples = latin_hypercube(2, 30, 1);
        QVERIFY(std::any_of(samples.begin(), samples.end(),
                            [](const auto& s) { return std::abs(s[0] - s[1]) > 0.2; }));
    }
    void bounds_are_read_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("expression");
        QTest::addColumn<bool>("at_least");
        QTest::addColumn<double>("value");
        QTest::addColumn<QString>("unit");
        QTest::newRow("at least") << "torque_mean >= 250"
                                  << "torque_mean" << true << 250.0 << "";
        QTest::newRow("at most") << "cogging_peak_to_peak<=0.2"
                                 << "cogging_peak_to_peak" << false << 0.2 << "";
        QTest::newRow("less") << "loss < 1e3"
                              << "loss" << false << 1000.0 << "";
        QTest::newRow("more") << "a/b > -2"
                              << "a/b" << true << -2.0 << "";
        QTest::newRow("with a unit") << "gap >= 0.8 mm"
                                     << "gap" << true << 0.8 << "mm";
    }
    void bounds_are_read() {
        QFETCH(QString, text);
        QFETCH(QString, expression);
        QFETCH(bool, at_least);
        QFETCH(double, value);
        QFETCH(QString, unit);
        const auto bound = read_bound(text.toStdString());
        QVERIFY(bound);
        QCOMPARE(bound->expression, expression.toStdString());
        QCOMPARE(bound->at_least, at_least);
        CLOSE(bound->value, value, 1e-12);
        QCOMPARE(bound->unit, unit.toStdString());
    }
    void what_is_no_bound_is_none() {
        for (const char* text : {"", "torque", ">= 3", "torque >=", "torque = 3", "torque >= much"})
            QVERIFY2(!read_bound(text), text);
    }
    void how_far_a_value_is_beyond_its_bound() {
        const Bound least{"t", true, 200}, most{"t", false, 200};
        CLOSE(least.excess(180), 0.1, 1e-12);
        CLOSE(most.excess(220), 0.1, 1e-12);
        QVERIFY(least.excess(200) <= 0 && least.excess(900) <= 0);
        QVERIFY(most.excess(200) <= 0 && most.excess(-5) <= 0);
    }
    void axes_are_marked_at_round_values() {
        for (const auto& [low, high] : {std::pair{0.0, 1.0}, {-3.2, 17.0}, {1e-6, 4e-6}, {0.0, 98765.0}}) {
            const auto marks = round_values(low, high);
            QVERIFY2(marks.size() >= 3 && marks.size() <= 9, qPrintable(QString::number(marks.size())));
            const double step = marks[1] - marks[0], power = std::pow(10, std::floor(std::log10(step) + 1e-9));
            const double mantissa = step / power;
            QVERIFY(std::abs(mantissa - 1) < 1e-9 || std::abs(mantissa - 2) < 1e-9 ||
                    std::abs(mantissa - 5) < 1e-9);
            for (double mark : marks) {
                QVERIFY(mark >= low - 1e-9 * step && mark <= high + 1e-6 * step);
                CLOSE(mark / step, std::rint(mark / step), 1e-6);
            }
        }
    }
    void cells_are_quoted_where_they_must_be() {
        QCOMPARE(csv_cell("plain text"), std::string("plain text"));
        QCOMPARE(csv_cell("a, b"), std::string("\"a, b\""));
        QCOMPARE(csv_cell("say \"so\""), std::string("\"say \"\"so\"\"\""));
        QCOMPARE(csv_cell("two\nlines"), std::string("\"two\nlines\""));
        QCOMPARE(csv_cell(""), std::string());
    }
    void words_and_texts() {
        QCOMPARE(std::string(trim("  a b \t")), std::string("a b"));
        QCOMPARE(lower_case("M330-35A"), std::string("m330-35a"));
        QCOMPARE(with_unit("12", "mm"), std::string("12 mm"));
        QCOMPARE(with_unit("12 in", "mm"), std::string("12 in"));
        QCOMPARE(with_unit("12", ""), std::string("12"));
        QVERIFY(describe(dimension::length).find("length") != std::string::npos);
        // Every unit says what it is of, and no two have one name.
        std::set<std::string_view> names;
        for (const Unit& unit : units()) {
            QVERIFY(names.insert(unit.name).second);
            QVERIFY(!describe(unit.dimension).empty());
            QCOMPARE(find_unit(unit.name), &unit);
        }
        QVERIFY(!find_unit("furlong"));
        // A number is written as short as it reads back the same.
        for (double number : {0.1, 160.0, 1.0 / 3, 6.02e23, -2.5e-7}) {
            std::string_view rest;
            CLOSE(*read_number(number_text(number, 12), rest) / number, 1, 1e-11);
            QVERIFY(rest.empty());
        }
    }
    void roots_of_steep_and_flat_functions() {
        for (double at : {0.001, 0.3, 0.97}) {
            const auto cubic = rising_root([&](double x) { return std::pow(x - at, 3); }, 0, 1);
            QVERIFY(cubic);
            CLOSE(*cubic, at, 2e-3);
            const auto steep = rising_root([&](double x) { return std::atan(1e4 * (x - at)); }, 0, 1);
            QVERIFY(steep);
            CLOSE(*steep, at, 1e-8);
            CLOSE(least_between([&](double x) { return std::cosh(x - at); }, 0, 1, 1e-6), at, 1e-5);
        }
        QVERIFY(!rising_root([](double x) { return x + 1; }, 0, 1));
        QVERIFY(!rising_root([](double x) { return x - 2; }, 0, 1));
        CLOSE(*rising_root([](double x) { return x; }, 0, 1), 0, 1e-9);
    }
};

MAVLO_TEST(values, TestValues, EventLoop)
#include "test_values.moc"
