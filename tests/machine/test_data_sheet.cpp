// Dimensions as other sheets give them.

#include "machine/data_sheet.h"
#include "project/project.h"
#include "quantity/quantity.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

const Equivalent& equivalent(const char* name) {
    const Equivalent* found = registry<Equivalent>().find(name);
    if (!found) qFatal("no equivalent %s", name);
    return *found;
}

double value_of(const Design& design, const char* name) {
    return *equivalent(name).value(*resolve(design));
}

} // namespace

class TestDataSheet : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void what_is_written_is_what_it_is_then_data() {
        QTest::addColumn<QString>("shape");
        for (const char* shape :
             {"surface", "vee", "outer-surface", "outer-spoke", "reluctance-salient", "inset"})
            QTest::newRow(shape) << shape;
    }
    void what_is_written_is_what_it_is_then() {
        QFETCH(QString, shape);
        const Design design = new_project(shape.toStdString())->variants.front().design;
        int tried = 0;
        for (const Equivalent* e : equivalents_of(*resolve(design))) {
            if (e->name == "pole_pairs") continue;
            // A rotor outside must stay outside.
            const bool outer = shape.startsWith(QStringLiteral("outer")) && e->name == "rotor_diameter";
            const double wanted = (outer ? 1.01 : 0.97) * *e->value(*resolve(design));
            const std::string text = e->unit.empty()
                                         ? number_text(wanted, 9)
                                         : number_text(to_unit(wanted, *find_unit(e->unit)), 9) + " " + e->unit;
            const auto changed = with_equivalent(design, *e, text);
            QVERIFY2(bool(changed), e->name.c_str());
            CLOSE(*e->value(*resolve(*changed)) / wanted, 1, 1e-6);
            ++tried;
        }
        QVERIFY(tried >= 6);
    }
    void a_formula_keeps_the_dimension() {
        auto design = with_equivalent({}, equivalent("rotor_diameter"), "52.5");
        QVERIFY(design && design->text("gap").starts_with("="));
        design->texts["stator.bore_diameter"] = "55 mm";
        CLOSE(value_of(*design, "rotor_diameter"), 52.5e-3, 1e-12);
        CLOSE(resolve(*design)->number("gap"), 1.25e-3, 1e-12);
        QVERIFY(!with_equivalent({}, equivalent("rotor_diameter"), "5 A"));
        QVERIFY(!with_equivalent({}, equivalent("pole_arc_share"), "0.5")); // no salient pole
    }
    void lines_are_parted_as_people_write_them() {
        const auto lines =
            sheet_lines("Stator outer diameter\t120\tmm\nair gap: 0,8 mm\nNumber of slots 12\n\nBore = 70 mm\n"
                        "Magnet grade; NdFeB 310/130\njust words\n");
        QCOMPARE(lines.size(), std::size_t(6));
        QVERIFY((lines[0] == SheetLine{"Stator outer diameter", "120 mm"}));
        QVERIFY((lines[1] == SheetLine{"air gap", "0.8 mm"}));
        QVERIFY((lines[2] == SheetLine{"Number of slots", "12"}));
        QVERIFY((lines[3] == SheetLine{"Bore", "70 mm"}));
        QVERIFY((lines[4] == SheetLine{"Magnet grade", "NdFeB 310/130"}));
        QVERIFY(lines[5].value.empty());
    }
    void a_sheet_is_read_in_its_own_order() {
        const DataSheet sheet = read_data_sheet(
            {}, sheet_lines("Rotor outer diameter 68 mm\nStator OD 120 mm\nStator ID 70 mm\n"
                            "slots 12\npole pairs 5\nyoke thickness 6.5\nshaft radius 11\n"
                            "tooth width 8 mm\nmagnet height 3.5 mm\nrms current 7.07 A\nwarranty 2\n"));
        QVERIFY(sheet.contradictions.empty());
        const Values v = *resolve(sheet.design);
        CLOSE(v.number("stator.outer_diameter"), 0.12, 1e-12);
        CLOSE(v.number("gap"), 1e-3, 1e-9);
        QCOMPARE(v.whole("rotor.poles"), 10);
        CLOSE(v.number("stator.slot.depth"), 25e-3 - 6.5e-3, 1e-9);
        CLOSE(v.number("rotor.shaft_diameter"), 22e-3, 1e-9);
        CLOSE(v.number("rating.current"), 7.07 * std::sqrt(2), 1e-6);
        QVERIFY(!sheet.readings.back().words.empty() && sheet.readings.back().path.empty());
        const auto missing = [&](const char* label) {
            return std::find(sheet.missing.begin(), sheet.missing.end(), label) != sheet.missing.end();
        };
        QVERIFY(missing("Stack length") && missing("Stator steel"));
        QVERIFY(!missing("Air gap") && !missing("Outer diameter"));
    }
    void contradictions_are_told() {
        const DataSheet sheet =
            read_data_sheet({}, sheet_lines("Stator ID 70 mm\nair gap 1 mm\nrotor diameter 67 mm\n"
                                            "Stator OD 120 mm\nslot depth 15 mm\nyoke thickness 10 mm\n"));
        QCOMPARE(sheet.contradictions.size(), std::size_t(1));
        QVERIFY2(sheet.contradictions[0].find("67") != std::string::npos &&
                     sheet.contradictions[0].find("68") != std::string::npos,
                 sheet.contradictions[0].c_str());
        QVERIFY(sheet.readings[5].words.find("Agrees") != std::string::npos);
        const DataSheet twice = read_data_sheet({}, sheet_lines("slots 12\nnumber of slots 15\n"));
        QCOMPARE(twice.contradictions.size(), std::size_t(1));
        const DataSheet wrong = read_data_sheet({}, sheet_lines("air gap 3 A\nslots many 7.5\n"));
        QVERIFY(!wrong.readings[0].words.empty());
    }
};
MAVLO_TEST(data_sheet, TestDataSheet, Nothing)
#include "test_data_sheet.moc"
