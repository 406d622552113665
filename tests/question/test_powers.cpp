// Where the power goes: nothing is lost on its way, unknown stays unknown, drag takes what it takes, and
// standard supplies give what the rating says.

#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <cmath>

using namespace mavlo;

namespace {

using With = std::map<std::string, std::string>;

Answer answer(const char* question, const Design& design, With with, const Run& run = {}) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    auto found = ask_question(question, ask, run);
    if (!found) qFatal("%s: %s", question, to_string(found.problems().front()).c_str());
    return std::move(*found);
}

Design shape(const char* name) {
    return new_project(name)->variants.front().design;
}

const With few_steps{{"map_steps", "4"}};

With and_also(With with, const With& more) {
    for (const auto& [key, value] : more) with[key] = value;
    return with;
}

} // namespace

class TestPowers : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void without_current_all_loss_is_drag() {
        const Answer idle = answer("load", shape("surface"), {{"current", "0 A"}, {"points", "36"}});
        QVERIFY(*idle.figure("iron_loss_stator") > 0.5);
        CLOSE(*idle.figure("electrical_power"), 0, 1e-3 * *idle.figure("total_loss"));
        CLOSE(*idle.figure("shaft_power") / *idle.figure("total_loss"), -1, 1e-3);
    }
    void what_comes_in_less_the_losses_goes_out_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"surface", "vee", "reluctance-salient"})
            if (by_night() || std::string_view(name) != "vee") QTest::newRow(name) << name;
    }
    void what_comes_in_less_the_losses_goes_out() {
        QFETCH(QString, name);
        const Answer load = answer("load", shape(name.toUtf8()), {{"points", "120"}});
        const double in = *load.figure("electrical_power") + *load.figure("copper_loss") -
                          *load.figure("copper_loss_dc"),
                     out = *load.figure("shaft_power");
        CLOSE(in - *load.figure("total_loss"), out, 1e-6 * in);
        CLOSE(*load.figure("efficiency"), out / in, 1e-9);
        CLOSE(*load.figure("power_unaccounted"), 0, 0.02); // on a draft mesh
    }
    void a_steel_without_losses_leaves_open_what_hangs_on_it_data() {
        QTest::addColumn<QString>("question");
        QTest::addColumn<QStringList>("figures");
        QTest::newRow("load") << "load"
                              << QStringList{"iron_loss_stator", "total_loss", "shaft_power", "efficiency"};
        QTest::newRow("speed-range") << "speed-range" << QStringList{"max_power"};
        QTest::newRow("efficiency-map") << "efficiency-map" << QStringList{"best_efficiency"};
        QTest::newRow("working-point")
            << "working-point" << QStringList{"iron_loss_stator", "total_loss", "efficiency"};
        QTest::newRow("in-time") << "in-time" << QStringList{"iron_loss_stator", "efficiency"};
        if (by_night())
            QTest::newRow("torque-speed") << "torque-speed" << QStringList{"best_efficiency", "max_power"};
    }
    void a_steel_without_losses_leaves_open_what_hangs_on_it() {
        QFETCH(QString, question);
        QFETCH(QStringList, figures);
        Design design = shape("surface");
        design.texts["stator.steel"] = "linear(4000)";
        With with = question == "load" ? With{{"points", "24"}} : few_steps;
        if (question == "in-time") with["points"] = "60";
        if (question == "working-point") with["torque"] = "1 N.m";
        if (question.contains("speed") || question.contains("map")) with["speeds"] = "20:100:40 %";
        const Answer a = answer(question.toUtf8(), design, with);
        for (const QString& figure : figures) QVERIFY2(!a.figure(figure.toStdString()), qPrintable(figure));
        QVERIFY2(a.sentence.find("linear(4000)") != std::string::npos, a.sentence.c_str());
        for (const Map& map : a.maps)
            if (map.name == "efficiency" || map.name == "loss_total" || map.name == "loss_iron_stator")
                for (const auto& row : map.z)
                    for (double z : row) QVERIFY(std::isnan(z));
        // What is known is told.
        if (a.figure("copper_loss")) QVERIFY(*a.figure("copper_loss") > 0);
    }
    void a_duty_takes_and_gives_at_both_ends() {
        const With map = and_also(few_steps, {{"speeds", "20:100:20 %"}});
        const double speed = 1000 * rpm;
        const auto duty = [&](const char* torques, const char* speeds, const char* times) {
            return answer(
                "efficiency-map", shape("surface"),
                and_also(map, {{"duty_torques", torques}, {"duty_speeds", speeds}, {"duty_times", times}}));
        };
        // The torques are the shaft's.
        const Answer motor = duty("2", "1000", "10"), generator = duty("-2", "1000", "10");
        CLOSE(*motor.figure("duty_energy_shaft"), 2 * speed * 10, 1e-3 * 2 * speed * 10);
        CLOSE(*generator.figure("duty_energy_shaft"), -2 * speed * 10, 1e-3 * 2 * speed * 10);
        const auto lost = [](const Answer& a) {
            return *a.figure("duty_energy_copper") + *a.figure("duty_energy_iron") +
                   *a.figure("duty_energy_magnet") + *a.figure("duty_energy_mechanical");
        };
        const double work = 2 * speed * 10;
        CLOSE(*motor.figure("duty_efficiency"), work / (work + lost(motor)), 1e-3);
        CLOSE(*generator.figure("duty_efficiency"), (work - lost(generator)) / work, 1e-3);
        // There and back again: out at either end over in at either.
        const Answer both = duty("2, -2", "1000, 1000", "10, 10");
        CLOSE(*both.figure("duty_efficiency"), (work + work - lost(generator)) / (work + lost(motor) + work),
              1e-3);
    }
    void speeds_end_where_drag_takes_all() {
        Design design = shape("surface");
        design.texts["machine.friction_torque"] = "1 N.m";
        const Answer range = answer("speed-range", design, and_also(few_steps, {{"speeds", "5:100:5 %"}}));
        const Curve* power = range.curve("power");
        QVERIFY(power && !power->y.empty());
        for (double watts : power->y) QVERIFY(watts > 0);
        const Curve* torque = range.curve("torque");
        QVERIFY(*range.figure("max_torque") >= torque->y.front() * (1 - 1e-3));
    }
    void standard_voltages_give_the_rated_torque_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("supply");
        QTest::newRow("surface, space vectors") << "surface"
                                                << "space-vector";
        QTest::newRow("bar, sine") << "bar"
                                   << "sine-voltage";
        if (!by_night()) return;
        QTest::newRow("surface, sine") << "surface"
                                       << "sine-voltage";
        QTest::newRow("vee, sine") << "vee"
                                   << "sine-voltage";
        QTest::newRow("bar, space vectors") << "bar"
                                            << "space-vector";
    }
    void standard_voltages_give_the_rated_torque() {
        QFETCH(QString, name);
        QFETCH(QString, supply);
        const Design design = shape(name.toUtf8());
        QTemporaryDir folder; // the map is kept from run to run
        const Run kept{0, {}, PointStore(folder.path().toStdString())};
        const Answer rated = answer("load", design, {{"points", "36"}}),
                     run =
                         answer("in-time", design, {{"supply", supply.toStdString()}, {"points", "120"}}, kept);
        CLOSE(*run.figure("torque_mean") / *rated.figure("torque_mean"), 1, 0.03);
        QVERIFY2(run.sentence.find("found by the flux map") != std::string::npos, run.sentence.c_str());
        // What is given stays as it is given.
        const Answer given = answer("in-time", design,
                                    {{"supply", supply.toStdString()},
                                     {"voltage_angle", "10 deg"},
                                     {"voltage", "20 V"},
                                     {"modulation", "0.5"},
                                     {"points", "120"}},
                                    kept);
        QVERIFY(given.sentence.find("found by the flux map") == std::string::npos);
    }
    /// By the flux map and by the fields of that very point: with the slots' leakage and the magnets' stray
    /// field.
    void the_winding_loses_the_same_by_map_and_by_fields() {
        Design design = shape("surface");
        design.texts["stator.slot.opening"] = "5 mm";
        const Answer point = answer("working-point", design, {{"map_steps", "6"}});
        const auto text = [&](const char* name) { return std::to_string(*point.figure(name)); };
        const Answer load = answer(
            "load", design, {{"current", text("current") + " A"}, {"advance", text("advance") + " deg"}});
        QVERIFY(*load.figure("winding_stray_loss") > 0);
        CLOSE(*point.figure("copper_loss") / *load.figure("copper_loss"), 1, 5e-3);
        CLOSE(*point.figure("winding_stray_loss") / *load.figure("winding_stray_loss"), 1, 0.05);
        const Answer idle = answer("load", design, {{"current", "0 A"}});
        QVERIFY(*idle.figure("winding_stray_loss") > 0);
        CLOSE(*idle.figure("copper_loss"), 0, 1e-9);
        CLOSE(*idle.figure("shaft_power") / *idle.figure("total_loss"), -1, 1e-3);
    }
    void an_inverter_s_carrier_adds_its_losses() {
        const Design design = shape("surface");
        const With one =
            and_also(few_steps, {{"speeds", "1500 rpm"}, {"torques", "4 N.m"}, {"quadrants", "motor"}});
        const auto on = [&](const char* carrier) {
            return answer("efficiency-map", design,
                          and_also(one, {{"supply", "space-vector"},
                                         {"carrier_frequency", carrier},
                                         {"switch_drop", "1 V"},
                                         {"diode_drop", "1 V"}}));
        };
        const auto at = [](const Answer& a, const char* map) { return a.map(map)->z.front().front(); };
        const Answer sine = answer("efficiency-map", design, one), slow = on("6 kHz"), fast = on("12 kHz");
        // Half the time to rise in: half the ripple, the same rate.
        CLOSE(at(fast, "current_ripple") / at(slow, "current_ripple"), 0.5, 1e-6);
        CLOSE(at(fast, "loss_magnet_carrier") / at(slow, "loss_magnet_carrier"), 1, 1e-6);
        QVERIFY(at(slow, "loss_iron_carrier") > 0);
        // This sheet's table shows no skin effect.
        CLOSE(at(fast, "loss_iron_carrier") / at(slow, "loss_iron_carrier"), 1, 1e-6);
        // Valves of 1 V each: three legs with the mean of a rectified sine.
        CLOSE(at(slow, "loss_switches") / (3 * 2 / pi * at(slow, "current")), 1, 2e-3);
        double added = at(slow, "loss_copper") - at(sine, "loss_copper");
        QVERIFY(added > 0);
        for (const char* part : {"loss_iron_carrier", "loss_magnet_carrier", "loss_switches"})
            added += at(slow, part);
        CLOSE(at(slow, "loss_total") - at(sine, "loss_total"), added, 1e-6 * at(sine, "loss_total"));
        // All of it comes from the terminals.
        const double shaft = at(sine, "efficiency") / (1 - at(sine, "efficiency")) * at(sine, "loss_total");
        CLOSE(at(slow, "efficiency"), shaft / (shaft + at(slow, "loss_total")), 1e-6);
    }
    void magnets_in_pieces_lose_in_time_what_their_orders_say() {
        Design design = shape("surface");
        design.texts["rotor.magnet.segments"] = "6";
        const Answer load = answer("load", design, {{"points", "120"}}),
                     run = answer("in-time", design,
                                  {{"supply", "currents"}, {"method", "field"}, {"points", "240"}});
        qInfo("%.4g W by the orders, %.4g W in time", *load.figure("magnet_loss"), *run.figure("magnet_loss"));
        CLOSE(*run.figure("magnet_loss") / *load.figure("magnet_loss"), 1, 0.06);
        QVERIFY(run.sentence.find("axial pieces") != std::string::npos);
    }
    void iron_that_sees_no_whole_period_is_left_open() {
        const auto run = [&](const char* periods) {
            // The rotor's own frequency is 125 Hz: five of its periods in four of the currents.
            return answer("in-time", shape("surface"),
                          {{"supply", "currents"},
                           {"method", "field"},
                           {"points", "60"},
                           {"speed", "1500 rpm"},
                           {"frequency", "100 Hz"},
                           {"periods", periods}});
        };
        const Answer part = run("1");
        QVERIFY(!part.figure("iron_loss_stator") && !part.figure("iron_loss_rotor") &&
                !part.figure("efficiency"));
        QVERIFY(part.sentence.find("both are whole") != std::string::npos);
        const Answer whole = run("4");
        QVERIFY(*whole.figure("iron_loss_stator") > 0);
    }
};
MAVLO_TEST(powers, TestPowers, Nothing)
#include "test_powers.moc"
