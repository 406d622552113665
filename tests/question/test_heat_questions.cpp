// Temperatures of whole machines: powers that balance, limits that hold, what is refused, what one question
// says of another.

#include "quantity/constants.h"
#include "question/asked.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

const std::map<std::string, std::string> given{
    {"losses", "copper=80 W, iron_stator=25 W, iron_rotor=4 W, magnets=2 W, bearings=3 W"}};

Design machine_in(std::initializer_list<std::pair<const char*, std::string>> cooling) {
    Design design = design_of({{"stator.slot.liner", "0.25 mm"}});
    for (const auto& [path, text] : cooling) design.texts[path] = text;
    return design;
}

Answer heat_of(const Design& design, std::map<std::string, std::string> with = given) {
    return asked(design, "heat", with, Quality::Draft);
}

} // namespace

class TestHeatQuestions : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void what_is_lost_comes_out() {
        for (const char* housing : {"round", "ribbed", "none"}) {
            const Answer answer = heat_of(machine_in({{"housing.kind", housing}}));
            CLOSE(of(answer, "heat_balance"), 0, 1e-9);
            // The copper's loss at the temperature that was found.
            const double rise = of(answer, "temperature_winding_mean") - 20;
            CLOSE(of(answer, "copper_loss") / (80 * (1 + 0.00393 * rise)), 1, 1e-3);
            QVERIFY(of(answer, "temperature_winding_highest") > of(answer, "temperature_stator_yoke"));
            QVERIFY(of(answer, "temperature_stator_yoke") > 40);
        }
    }
    /// With a given coefficient and films that do not change all is linear but for the copper.
    void a_given_coefficient() {
        auto design = machine_in(
            {{"housing.kind", "none"}, {"cooling.kind", "given"}, {"cooling.coefficient", "100 W/(m2.K)"}});
        const std::map<std::string, std::string> iron{{"losses", "iron_stator=50 W"}};
        const Answer one = heat_of(design, iron);
        // Nearly all leaves by the outside: 2 pi r L h.
        const double area = 2 * pi * 0.05 * 0.05, rise = of(one, "temperature_stator_yoke") - 40;
        QVERIFY(rise > 0.7 * 50 / (area * 100) && rise < 1.05 * 50 / (area * 100));
        const Answer two = heat_of(design, {{"losses", "iron_stator=100 W"}});
        CLOSE((of(two, "temperature_stator_yoke") - 40) / rise, 2, 1e-6);
        const Answer warm = heat_of(design, {{"losses", "iron_stator=50 W"}, {"ambient", "60 degC"}});
        CLOSE(of(warm, "temperature_stator_yoke") - of(one, "temperature_stator_yoke"), 20, 1e-6);
        // A resistance that was measured takes the place of the computed one.
        design.texts["thermal.housing_to_ambient"] = "2 K/W";
        const Answer measured = heat_of(design, iron);
        QVERIFY(of(measured, "temperature_stator_yoke") - 40 > 50 * 2 * 0.7);
    }
    void coolant_in_a_jacket() {
        const auto jacket = [](const char* flow) {
            return machine_in({{"housing.kind", "jacket"}, {"cooling.kind", "flow"}, {"cooling.flow", flow}});
        };
        const Answer slow = heat_of(jacket("1 L/min")), fast = heat_of(jacket("8 L/min"));
        QVERIFY(of(fast, "temperature_winding_mean") < of(slow, "temperature_winding_mean"));
        // All but some of the loss warms the water: rho c flow dT.
        const double carried = 990 * 4180 * 1e-3 / 60 * (of(slow, "temperature_coolant_outlet") - 40);
        QVERIFY(carried > 0.8 * of(slow, "total_loss") && carried < 1.02 * of(slow, "total_loss"));
        QVERIFY(of(fast, "pressure_drop") > 10 * of(slow, "pressure_drop"));
        CLOSE(of(slow, "heat_balance"), 0, 1e-9);
    }
    void an_outer_rotor_and_a_cage() {
        Design outer = design_of({{"machine.topology", "outer-rotor"},
                                  {"stator.outer_diameter", "100 mm"},
                                  {"stator.bore_diameter", "40 mm"},
                                  {"cooling.kind", "still-air"}});
        const Answer fan = heat_of(outer);
        CLOSE(of(fan, "heat_balance"), 0, 1e-9);
        QVERIFY(of(fan, "temperature_magnets") < of(fan, "temperature_winding_mean"));
        Design cage = design_of({{"stator.slots", "36"},
                                 {"rotor.kind", "cage"},
                                 {"rotor.poles", "4"},
                                 {"rotor.bars", "28"},
                                 {"gap", "0.3 mm"}});
        const Answer bars = heat_of(cage, {{"losses", "copper=60 W, bars=40 W"}});
        CLOSE(of(bars, "heat_balance"), 0, 1e-9);
        QVERIFY(of(bars, "temperature_cage") > of(bars, "temperature_stator_teeth"));
        QVERIFY(!bars.figure("temperature_magnets"));
    }
    void heat_follows_load() {
        Design design = machine_in({{"cooling.kind", "fan"}});
        // At the design's own temperatures of magnets and steels nothing is asked again.
        std::map<std::string, std::string> with{{"points", "48"}};
        const Answer first = asked(design, "heat", with, Quality::Draft);
        with["magnet_temperature"] = degrees_of(first, "temperature_magnets");
        with_steel_of(design, first);
        const Answer load = asked(design, "load", with, Quality::Draft),
                     heat = asked(design, "heat", with, Quality::Draft);
        // What the magnets' field adds in the strands is the winding's, too.
        const double others = of(load, "total_loss") - of(load, "copper_loss") - of(load, "winding_stray_loss");
        CLOSE((of(heat, "total_loss") - of(heat, "copper_loss")) / others, 1, 2e-4);
        QVERIFY(of(heat, "copper_loss") > of(load, "copper_loss"));
    }
    /// temperatures=from-heat is heat, and then the question at what it found.
    void any_question_at_those_temperatures() {
        const Design design = machine_in({{"cooling.kind", "fan"}});
        const std::map<std::string, std::string> point{{"points", "48"}, {"current", "8 A"}};
        const Answer heat = asked(design, "heat", point, Quality::Draft);
        auto from_heat = point, by_hand = point;
        from_heat["temperatures"] = "from-heat";
        const auto degrees = [&](const char* figure) {
            return QString::number(of(heat, figure), 'g', 12).toStdString() + " degC";
        };
        by_hand["winding_temperature"] = degrees("temperature_winding_mean");
        by_hand["magnet_temperature"] = degrees("temperature_magnets");
        const Answer one = asked(design, "load", from_heat, Quality::Draft),
                     other = asked(design, "load", by_hand, Quality::Draft),
                     cold = asked(design, "load", point, Quality::Draft);
        CLOSE(of(one, "torque_mean") / of(other, "torque_mean"), 1, 1e-7);
        CLOSE(of(one, "copper_loss") / of(other, "copper_loss"), 1, 1e-7);
        QVERIFY(of(one, "copper_loss") > 1.01 * of(cold, "copper_loss"));
        QVERIFY(one.sentence.find("By the losses at the same point") != std::string::npos);
    }
    void runaway_is_said() {
        const Design design = machine_in({{"cooling.kind", "given"}, {"cooling.coefficient", "3 W/(m2.K)"}});
        const std::string said = refused(design, "heat", {{"losses", "copper=600 W"}});
        QVERIFY2(said.find("runs away") != std::string::npos, said.c_str());
    }
    void constant_load_ends_where_heat_says() {
        const Design design = machine_in({});
        const Answer steady = heat_of(design);
        auto with = given;
        with["time"] = "40 h";
        const Answer course = asked(design, "heat-up", with, Quality::Draft);
        const double rise = of(steady, "temperature_winding_slots") - 40;
        CLOSE(of(course, "temperature_winding_slots") - 40, rise, 0.03 * rise);
        QVERIFY(of(course, "time_constant") > 300);
        const Curve& curve = *course.curve("temperature_winding_slots");
        for (std::size_t k = 1; k < curve.y.size(); ++k) QVERIFY(curve.y[k] >= curve.y[k - 1] - 1e-6);
        CLOSE(curve.y.front(), 40, 1e-9);
    }
    void duties() {
        const Design design = machine_in({});
        const auto most = [&](const char* duty) {
            auto with = given;
            with["duty"] = duty;
            return of(asked(design, "heat-up", with, Quality::Draft), "temperature_winding_slots_most");
        };
        const double s1 = most("S1"), s2 = most("S2 5 min"), s3 = most("S3 25 % 10 min"),
                     s6 = most("S6 25 % 10 min"), table = most("150 s:1, 450 s:rest");
        QVERIFY(s2 < s1 && s3 < s6 && s6 < s1);
        CLOSE(table, s3, 1e-6);
        auto with = given;
        with["until"] = "winding=60 degC";
        const Answer limited = asked(design, "heat-up", with, Quality::Draft);
        const Curve& curve = *limited.curve("temperature_winding_slots");
        const double reached = of(limited, "time_to_limit");
        for (std::size_t k = 0; k < curve.x.size(); ++k)
            QVERIFY((curve.y[k] >= 60 - 1e-9) == (curve.x[k] >= reached - 1e-9));
    }
    void what_is_borne_for_good() {
        const Design design = machine_in({{"rating.max_current", "60 A"}, {"rating.dc_voltage", "300 V"}});
        const Answer envelope = asked(design, "continuous-torque",
                                      {{"speeds", "0, 1000, 2000"}, {"map_steps", "4"}}, Quality::Draft);
        const double current = of(envelope, "current_at_base_speed");
        QVERIFY(of(envelope, "torque_at_base_speed") < of(envelope, "max_torque"));
        QVERIFY(current > 0 && current < 60);
        for (std::size_t k = 0; k < 3; ++k)
            CLOSE(envelope.curve("torque")->y[k],
                  std::min(envelope.curve("torque_winding")->y[k], envelope.curve("torque_magnet_limit")->y[k]),
                  2e-3 * of(envelope, "max_torque"));
        // Cooler air bears more.
        const Answer cool =
            asked(design, "continuous-torque",
                  {{"speeds", "0, 1000, 2000"}, {"map_steps", "4"}, {"ambient", "10 degC"}}, Quality::Draft);
        QVERIFY(of(cool, "torque_at_base_speed") > of(envelope, "torque_at_base_speed"));
    }
    /// Temperatures of a known design are met again from another.
    void fitted_to_measurements() {
        const Design truth =
            machine_in({{"thermal.stack_contact", "45 um"}, {"thermal.liner_contact", "60 um"}});
        const Answer measured = heat_of(truth);
        auto with = given;
        const auto degrees = [&](const char* figure) {
            return QString::number(of(measured, figure), 'f', 6).toStdString() + " degC";
        };
        with["measured"] = "winding=" + degrees("temperature_winding_slots") +
                           ", yoke=" + degrees("temperature_stator_yoke") +
                           ", housing=" + degrees("temperature_housing");
        with["fit"] = "thermal.stack_contact, thermal.liner_contact";
        const Answer fit = asked(machine_in({}), "heat-fit", with, Quality::Draft);
        QVERIFY(of(fit, "misfit_before") > 0.2);
        CLOSE(of(fit, "misfit"), 0, 0.02);
        const Curve& factor = *fit.curve("fitted_factor");
        CLOSE(factor.y[0], 45.0 / 20, 0.05);
        CLOSE(factor.y[1], 60.0 / 10, 0.1);
        // The same as it is spoken.
        with["measured"] = "winding=" + degrees("temperature_winding_slots") +
                           ", end windings=" + degrees("temperature_end_windings") +
                           ", housing=" + degrees("temperature_housing");
        with["fit"] = "Stack in housing, liner on steel";
        const Answer spoken = asked(machine_in({}), "heat-fit", with, Quality::Draft);
        CLOSE(spoken.curve("fitted_factor")->y[0], 45.0 / 20, 0.1);
        auto losses = given;
        losses["losses"] = "copper=80 W, iron stator=25 W, iron rotor=4 W, magnets=2 W, bearings=3 W";
        CLOSE(of(heat_of(truth, losses), "temperature_housing"), of(measured, "temperature_housing"), 1e-9);
        with["fit"] = "gap";
        QVERIFY(refused(truth, "heat-fit", with).find("cannot be fitted") != std::string::npos);
        with["fit"] = "thermal.stack_contact, thermal.liner_contact, thermal.shaft_contact, housing.emissivity";
        QVERIFY(refused(truth, "heat-fit", with).find("cannot tell") != std::string::npos);
        with["measured"] = "hat=3 degC";
        with["fit"] = "housing.emissivity";
        QVERIFY(refused(truth, "heat-fit", with).find("no part") != std::string::npos);
    }
    void nonsense_is_refused_data() {
        QTest::addColumn<QString>("path");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("says");
        QTest::newRow("emissivity") << "housing.emissivity"
                                    << "2"
                                    << "housing.emissivity";
        QTest::newRow("no flow") << "cooling.flow"
                                 << "0 L/min"
                                 << "cooling.flow";
        QTest::newRow("frozen") << "cooling.inlet"
                                << "-20 degC"
                                << "cooling.coolant";
        QTest::newRow("boiling") << "cooling.inlet"
                                 << "140 degC"
                                 << "cooling.coolant";
        QTest::newRow("no such material") << "thermal.resin"
                                          << "honey"
                                          << "thermal.resin";
        QTest::newRow("a flow without a jacket") << "housing.kind"
                                                 << "round"
                                                 << "cooling.kind";
        QTest::newRow("a housing too short") << "housing.length"
                                             << "20 mm"
                                             << "housing.length";
    }
    void nonsense_is_refused() {
        QFETCH(QString, path);
        QFETCH(QString, value);
        QFETCH(QString, says);
        Design design = machine_in({{"housing.kind", "jacket"}, {"cooling.kind", "flow"}});
        QCOMPARE(refused(design, "heat", given), std::string());
        design.texts[path.toStdString()] = value.toStdString();
        const std::string said = refused(design, "heat", given);
        QVERIFY2(said.find(says.toStdString()) != std::string::npos, said.c_str());
        QVERIFY(said.size() > 40);
    }
    void inputs_that_cannot_be() {
        const Design design = machine_in({});
        for (const char* losses : {"copper", "copper=-3 W", "copper=3 m", "warmth=3 W", "copper=x"})
            QVERIFY2(refused(design, "heat", {{"losses", losses}}).find("losses") != std::string::npos, losses);
        for (const char* duty : {"S4", "S3", "S3 140 % 10 min", "S2", "5 s", "0 s:1", "5 s:-1", "tea"}) {
            auto with = given;
            with["duty"] = duty;
            QVERIFY2(refused(design, "heat-up", with).find("duty") != std::string::npos, duty);
        }
        auto with = given;
        with["until"] = "hat=3 degC";
        QVERIFY(refused(design, "heat-up", with).find("until") != std::string::npos);
    }
};
MAVLO_TEST(heat_questions, TestHeatQuestions, Nothing)
#include "test_heat_questions.moc"
