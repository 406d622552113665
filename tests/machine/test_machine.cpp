#include "support.h"
#include "test_program.h"
#include "winding/proposal.h"

using namespace mavlo;

class TestMachine : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void collisions_name_path_and_amount_data() {
        QTest::addColumn<QString>("path");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("blamed");
        QTest::addColumn<QString>("words");
        auto row = [](const char* path, const char* value, const char* blamed, const char* words) {
            QTest::newRow(qPrintable(QString("%1=%2").arg(path, value))) << path << value << blamed << words;
        };
        row("stator.slot.depth", "30 mm", "stator.slot.depth", "7.00 mm beyond");
        row("stator.slot.opening", "15 mm", "stator.slot.opening", "narrower");
        row("stator.slot.tooth_width", "14 mm", "stator.slot.tooth_width", "too wide");
        row("stator.slot.tip_depth", "16 mm", "stator.slot.depth", "beyond the slot's bottom");
        row("stator.slot.corner_radius", "12 mm", "stator.slot.corner_radius", "smaller");
        row("stator.bore_diameter", "120 mm", "stator.outer_diameter", "20.00 mm");
        row("rotor.magnet.thickness", "40 mm", "rotor.magnet.thickness", "centre");
        row("rotor.shaft_diameter", "60 mm", "rotor.shaft_diameter", "thicker than the rotor");
        row("gap", "40 mm", "gap", "room");
        row("rotor.poles", "11", "rotor.poles", "even");
        row("stator.slots", "13", "stator.slots", "balanced");
        row("rotor.magnet.arc", "1.2", "rotor.magnet.arc", "largest possible 1");
        row("stator.slots", "12.5", "stator.slots", "whole number");
        row("gap", "-1 mm", "gap", "smallest possible");
        row("gap", "3 deg", "gap", "a length is wanted");
        row("stator.slot.kind", "star", "stator.slot.kind", "parallel-tooth");
        row("stator.steel", "copper", "stator.steel", "conductor");
        row("winding.paths", "3", "winding.paths", "1, 2 can");
        row("winding.span", "12", "winding.span", "between");
        row("rotor.magnet.temperature", "400 degC", "", "");
    }
    void collisions_name_path_and_amount() {
        QFETCH(QString, path);
        QFETCH(QString, value);
        QFETCH(QString, blamed);
        QFETCH(QString, words);
        Design design;
        design.texts[path.toStdString()] = value.toStdString();
        const auto machine = build_machine(design);
        if (blamed.isEmpty()) {
            QVERIFY(bool(machine));
            return;
        }
        QVERIFY(!machine);
        const auto sentence = QString::fromStdString(sentence_at(machine.problems(), blamed.toStdString()));
        QVERIFY2(sentence.contains(words),
                 qPrintable(blamed + ": " + sentence + " / " +
                            QString::fromStdString(to_string(machine.problems().front()))));
    }
    void radial_slots_are_checked_too() {
        const auto machine =
            build_machine(design_of({{"stator.slot.kind", "radial"}, {"stator.slot.body_angle", "31 deg"}}));
        QVERIFY(!machine && sentence_at(machine.problems(), "stator.slot.body_angle").find("1.00 deg") !=
                                std::string::npos);
        QVERIFY(!build_machine(
            design_of({{"stator.slot.kind", "radial"}, {"stator.slot.opening_angle", "20 deg"}})));
        QVERIFY(bool(
            build_machine(design_of({{"stator.slot.kind", "radial"}, {"stator.slot.tip_depth", "0 mm"}}))));
        // The parallel tooth's own dimensions do not count here.
        QVERIFY(bool(
            build_machine(design_of({{"stator.slot.kind", "radial"}, {"stator.slot.tooth_width", "400 mm"}}))));
    }
    void sectors_are_the_smallest_that_repeat_data() {
        QTest::addColumn<int>("slots_");
        QTest::addColumn<int>("poles");
        QTest::addColumn<int>("layers");
        QTest::addColumn<int>("count");
        QTest::addColumn<int>("sign");
        QTest::newRow("12/10") << 12 << 10 << 2 << 2 << -1;
        QTest::newRow("24/22") << 24 << 22 << 2 << 2 << -1;
        QTest::newRow("24/20") << 24 << 20 << 2 << 4 << -1;
        QTest::newRow("9/6") << 9 << 6 << 2 << 3 << 1;
        QTest::newRow("9/8") << 9 << 8 << 2 << 1 << 1;
        QTest::newRow("12/8") << 12 << 8 << 2 << 4 << 1;
        QTest::newRow("36/4") << 36 << 4 << 2 << 4 << -1;
        QTest::newRow("48/8") << 48 << 8 << 2 << 8 << -1;
        QTest::newRow("12/10 one layer") << 12 << 10 << 1 << 2 << -1;
    }
    void sectors_are_the_smallest_that_repeat() {
        QFETCH(int, slots_);
        QFETCH(int, poles);
        QFETCH(int, layers);
        QFETCH(int, count);
        QFETCH(int, sign);
        const auto layout = propose_winding({slots_, poles, 3, layers, 0});
        QVERIFY(bool(layout));
        const Sector sector =
            find_symmetry({slots_, poles, Pitches::Repeat::Alternating, poles}, &*layout, false, true).sector;
        QCOMPARE(sector.count, count);
        QCOMPARE(sector.sign, sign);
        QVERIFY(repeats_after(*layout, slots_ / count % slots_, sign));
    }
    void slot_area_matches_its_shape() {
        // Radial slot: the area is that of an annular sector.
        const Machine m = machine_of(design_of({{"stator.slot.kind", "radial"},
                                                {"stator.slot.body_angle", "16 deg"},
                                                {"stator.slot.tip_depth", "1 mm"},
                                                {"stator.slot.depth", "15 mm"}}));
        const double inner = 0.028, outer = 0.042, angle = 16 * M_PI / 180;
        CLOSE(m.winding.slot_area, angle / 2 * (outer * outer - inner * inner), 1e-4 * m.winding.slot_area);
    }
    void cogging_period_is_the_least_common_multiple() {
        QCOMPARE(machine_of({}).symmetry.cogging_periods, 60);
        QCOMPARE(machine_of(design_of({{"stator.slots", "9"}, {"rotor.poles", "8"}})).symmetry.cogging_periods,
                 72);
    }
    void texts_are_taken_as_typed() {
        QCOMPARE(with_text({}, "gap", "0.9", true)->text("gap"), std::string("0.9 mm"));
        QCOMPARE(with_text({}, "gap", " = 2*gap ")->text("gap"), std::string("= 2*gap"));
        QVERIFY(!with_text({}, "gap", "wide"));
        QVERIFY(!with_text({}, "gap", ""));
        const auto unknown = with_text({}, "stator.slot.dept", "3 mm");
        QVERIFY(!unknown && unknown.problems().front().sentence.find("stator.slot.depth") != std::string::npos);
    }
    void every_parameter_has_words_and_a_sound_standard() {
        for (const Parameter& p : parameters()) {
            QVERIFY2(!p.label.empty() && p.help.size() > 10 && p.help.ends_with('.'), p.path.c_str());
            QVERIFY2(p.unit.empty() || find_unit(p.unit), p.path.c_str());
        }
        QVERIFY(bool(build_machine(Design{})));
    }
    void marks_move_the_way_their_gradient_says() {
        const Machine m = machine_of({});
        QVERIFY(m.marks.size() >= 9);
        for (const DimensionMark& mark : m.marks) {
            // A larger value puts the handle further along the gradient.
            const Parameter* p = find_parameter(mark.path);
            const double value = m.values.number(mark.path);
            Design larger;
            larger.texts[mark.path] = text_for(*p, value * 1.01, 12);
            const Machine other = machine_of(larger);
            for (const DimensionMark& moved : other.marks)
                if (moved.path == mark.path)
                    CLOSE(dot(moved.handle - mark.handle, mark.gradient), 0.01 * value, 0.0035 * value);
        }
    }
};
MAVLO_TEST(machine, TestMachine, Nothing)
#include "test_machine.moc"
