#include "quantity/quantity.h"
#include "support.h"
#include "test_program.h"

#include <numbers>

using namespace mavlo;

class TestQuantity : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void reads_numbers_with_units_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("si");
        QTest::newRow("mm") << "50 mm" << 0.05;
        QTest::newRow("inch") << "0.5 in" << 0.0127;
        QTest::newRow("degrees") << "7.5 deg" << 7.5 * std::numbers::pi / 180;
        QTest::newRow("speed") << "1200 rpm" << 40 * std::numbers::pi;
        QTest::newRow("no blank") << "1200rpm" << 40 * std::numbers::pi;
        QTest::newRow("tesla") << "1.2 T" << 1.2;
        QTest::newRow("oersted") << "1 kOe" << 79577.47154594767;
        QTest::newRow("celsius") << "20 degC" << 293.15;
        QTest::newRow("celsius as shown") << "20 °C" << 293.15;
        QTest::newRow("torque as shown") << "12 N·m" << 12.0;
        QTest::newRow("inertia as shown") << "0.05 kg·m²" << 0.05;
        QTest::newRow("film as shown") << "45 W/(m²·K)" << 45.0;
        QTest::newRow("resistance as shown") << "80 mΩ" << 0.08;
        QTest::newRow("contact as shown") << "20 µm" << 20e-6;
        QTest::newRow("fahrenheit") << "68 degF" << 293.15;
        QTest::newRow("negative") << " -3.5e1 mA " << -0.035;
        QTest::newRow("plus") << "+2 kV" << 2000.0;
        QTest::newRow("plain") << "0.86" << 0.86;
        QTest::newRow("power") << "1 hp" << 745.69987158227022;
    }
    void reads_numbers_with_units() {
        QFETCH(QString, text);
        QFETCH(double, si);
        const auto quantity = parse_quantity(text.toStdString());
        QVERIFY(bool(quantity));
        CLOSE(quantity->si, si, 1e-12 * (1 + std::abs(si)));
    }
    void refuses_in_words_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("word");
        QTest::newRow("empty") << ""
                               << "not a number";
        QTest::newRow("word") << "wide"
                              << "not a number";
        QTest::newRow("unit") << "5 furlong"
                              << "furlong";
        QTest::newRow("infinite") << "1e999 mm"
                                  << "not a number";
        QTest::newRow("nan") << "nan mm"
                             << "not a number";
        QTest::newRow("two numbers") << "5 6 mm"
                                     << "not a unit";
    }
    void refuses_in_words() {
        QFETCH(QString, text);
        QFETCH(QString, word);
        const auto quantity = parse_quantity(text.toStdString());
        QVERIFY(!quantity);
        QVERIFY2(QString::fromStdString(quantity.problems().front().sentence).contains(word),
                 quantity.problems().front().sentence.c_str());
    }
    void every_unit_goes_there_and_back() {
        for (const Unit& unit : units()) {
            const auto quantity = parse_quantity("12.5 " + std::string(unit.name));
            QVERIFY(bool(quantity));
            QVERIFY(quantity->dimension == unit.dimension);
            CLOSE(to_unit(quantity->si, unit), 12.5, 1e-11);
            QVERIFY(!describe(unit.dimension).empty());
        }
    }
    void number_text_is_short_and_exact() {
        QCOMPARE(number_text(160), std::string("160"));
        QCOMPARE(number_text(0.9), std::string("0.9"));
        QCOMPARE(number_text(0), std::string("0"));
    }
};
MAVLO_TEST(quantity, TestQuantity, Nothing)
#include "test_quantity.moc"
