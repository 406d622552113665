// Duties of IEC 60034-1, torques over time, overload for a while, films from elsewhere, and losses that follow
// the magnets.

#include "heat/walls.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/heat_duty.h"
#include "question/heat_losses.h"
#include "question/heat_of_current.h"
#include "question/reading_units.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

const std::map<std::string, std::string> given{
    {"losses", "copper=80 W, iron_stator=25 W, iron_rotor=4 W, magnets=2 W, bearings=3 W"}};

std::map<std::string, std::string> with_duty(const char* duty,
                                             std::map<std::string, std::string> with = given) {
    with["duty"] = duty;
    return with;
}

Answer course(const Design& design, const char* duty) {
    return asked(design, "heat-up", with_duty(duty), Quality::Draft);
}

/// A machine that its drive can overload.
Design overloaded() {
    return design_of({{"rating.max_current", "60 A"}, {"rating.dc_voltage", "300 V"}});
}

} // namespace

class TestHeatDuty : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void types_are_their_tables_data() {
        QTest::addColumn<QString>("type");
        QTest::addColumn<QString>("table");
        QTest::newRow("S3") << "S3 25 % 10 min"
                            << "150 s:1, 450 s:rest";
        QTest::newRow("S4") << "S4 25 % 10 min start 6 s:3"
                            << "6 s:3, 144 s:1, 450 s:rest";
        QTest::newRow("S5") << "S5 0.25 10 min start 6 s:3 brake 4 s:2"
                            << "6 s:3, 140 s:1, 4 s:2, 450 s:rest";
        QTest::newRow("S6") << "S6 40 % 5 min"
                            << "120 s:1, 180 s:0";
        QTest::newRow("S7") << "S7 4 min start 6 s:3 brake 4 s:2"
                            << "6 s:3, 230 s:1, 4 s:2";
        QTest::newRow("S8") << "S8 4 min:1@1500 rpm, 6 min:0.6@3000 rpm"
                            << "240 s:1@1500 rpm, 360 s:0.6@3000 rpm";
    }
    void types_are_their_tables() {
        QFETCH(QString, type);
        QFETCH(QString, table);
        const auto one = read_heat_duty(type.toStdString()), other = read_heat_duty(table.toStdString());
        QVERIFY(one && other);
        QCOMPARE(one->cycle.size(), other->cycle.size());
        QCOMPARE(one->repeats, other->repeats);
        for (std::size_t k = 0; k < one->cycle.size(); ++k) {
            CLOSE(one->cycle[k].seconds, other->cycle[k].seconds, 1e-9);
            CLOSE(one->cycle[k].current, other->cycle[k].current, 1e-12);
            QCOMPARE(one->cycle[k].at_rest(), other->cycle[k].at_rest());
            QCOMPARE(one->cycle[k].speed.has_value(), other->cycle[k].speed.has_value());
        }
    }
    void what_is_no_duty() {
        for (const char* text : {"S4 25 % 10 min", "S3 25 % 10 min start 3 s:6", "S7 10 min start 3 s:6",
                                 "S4 25 % 1 s start 3 s:6", "S2", "S2 25 %", "S1 5 min", "S11", "S8", "S9 tea",
                                 "3 s:1@4 mm", "3 s:rest@3 rpm", "3 s:4 kg",
                                 "S5 25 % 10 min start 3 s:6 N.m brake 2 s:1", "S6 140 % 10 min", ""})
            QVERIFY2(!read_heat_duty(text), text);
    }
    /// Starting and braking warm more than the same cycle without; at rest no iron warms.
    void starting_and_braking_warm() {
        const Design design = design_of({});
        const char* winding = "temperature_winding_slots_most";
        const double s3 = of(course(design, "S3 25 % 10 min"), winding),
                     s4 = of(course(design, "S4 25 % 10 min start 10 s:3"), winding),
                     s5 = of(course(design, "S5 25 % 10 min start 10 s:3 brake 10 s:3"), winding);
        QVERIFY(s3 + 1 < s4 && s4 + 1 < s5);
        const Answer once = course(design, "S9 10 min:1, 10 min:rest");
        CLOSE(once.curve("temperature_winding_slots")->x.back(), 1200, 1e-6);
    }
    /// The torque that continuous-torque tells brings the winding to its limit, and no further.
    void a_torque_for_good_ends_at_the_limit() {
        const Design design = overloaded();
        const std::map<std::string, std::string> grid{{"speeds", "1000, 2000"}, {"map_steps", "4"}};
        auto with = grid;
        with["magnet_limit"] = "400 degC";
        const Answer envelope = asked(design, "continuous-torque", with, Quality::Draft);
        with = {{"map_steps", "4"}};
        // The gap's torque less what brakes on its way to the shaft.
        const double shaft = envelope.curve("power")->y[0] / (1000 * rpm);
        with["duty"] = "S9 60 h:" + QString::number(shaft, 'g', 12).toStdString() + " N.m@1000 rpm";
        const Answer course = asked(design, "heat-up", with, Quality::Draft);
        const double hottest =
            std::max(of(course, "temperature_winding_slots_most"), of(course, "temperature_end_windings_most"));
        const bool by_winding =
            envelope.curve("torque_winding")->y[0] <= envelope.curve("torque_magnet_limit")->y[0];
        QVERIFY(by_winding);
        // The slots' hottest place lies above their mean.
        QVERIFY2(hottest < 155.5 && hottest > 145, qPrintable(QString::number(hottest)));
        with["duty"] = "10 s:4 N.m@0 rpm";
        QVERIFY(refused(design, "heat-up", with).find("standstill") != std::string::npos);
        with["duty"] = "10 s:4000 N.m@1000 rpm";
        QVERIFY(refused(design, "heat-up", with).find("beyond") != std::string::npos);
    }
    void overload_for_a_while() {
        const Answer envelope =
            asked(overloaded(), "continuous-torque",
                  {{"speeds", "1000, 2000"}, {"map_steps", "4"}, {"overload_times", "1, 10, 60 min"}},
                  Quality::Draft);
        for (std::size_t k = 0; k < 2; ++k) {
            const double whole = envelope.curve("torque_drive")->y[k], good = envelope.curve("torque")->y[k];
            double before = whole;
            for (const char* name : {"torque_for_60_s", "torque_for_600_s", "torque_for_3600_s"}) {
                const double torque = envelope.curve(name)->y[k];
                QVERIFY(torque <= before + 1e-9 && torque >= good - 1e-9);
                before = torque;
            }
            QVERIFY(before > good && before < whole);
        }
        const Answer warm =
            asked(overloaded(), "continuous-torque",
                  {{"speeds", "1000, 2000"}, {"map_steps", "4"}, {"overload_from", "warm"}}, Quality::Draft);
        QVERIFY(warm.curve("torque_for_300_s")->y[0] < envelope.curve("torque_drive")->y[0]);
        const Map* map = envelope.map("efficiency");
        QVERIFY(map && map->z.back().front() < 1 && map->z.front().front() > 0);
    }
    /// The same overload over time reaches the limit when it should.
    void the_time_is_that_of_a_course() {
        const std::map<std::string, std::string> grid{{"map_steps", "4"}};
        auto with = grid;
        with["speeds"] = "1000, 2000";
        with["overload_times"] = "10, 20 min";
        with["magnet_limit"] = "400 degC";
        const Answer envelope = asked(overloaded(), "continuous-torque", with, Quality::Draft);
        const double brakes = envelope.curve("torque")->y[0] - envelope.curve("power")->y[0] / (1000 * rpm),
                     torque = envelope.curve("torque_for_600_s")->y[0] - brakes;
        auto course = grid;
        course["duty"] = "S9 1 h:" + QString::number(torque, 'g', 12).toStdString() + " N.m@1000 rpm";
        const double reached = of(asked(overloaded(), "heat-up", course, Quality::Draft), "time_to_limit");
        // The course looks at the slots' mean, with films of its own mean loss.
        QVERIFY2(reached > 540 && reached < 900, qPrintable(QString::number(reached)));
    }
    /// A film that is given as the correlations found it changes nothing; a wall that is held is held.
    void films_from_elsewhere() {
        const Design design = design_of({});
        const auto machine = build_machine(design, {});
        const auto model = prepare_field(*machine, {Quality::Draft});
        auto heat = MachineHeatModel::of(*model, *cooling_of(*machine, {}), machine->rating.speed);
        HeatLosses losses;
        losses.slots = 60;
        const auto found = (*heat)->steady(losses);
        QVERIFY(found);
        const auto surfaces = (*heat)->surfaces(*found);
        QCOMPARE(surfaces.size(), 2U);
        double watts = 0;
        for (const HeatSurface& s : surfaces) {
            CLOSE(s.watts, s.area * s.coefficient * (s.wall - s.fluid), 1e-9);
            watts += s.watts;
        }
        CLOSE(watts / found->to_ambient, 1, 1e-6);
        CLOSE(surfaces.front().wall, found->mean.at(HeatPart::Housing), 1e-6);
        const auto text = walls_of_table(table_of_surfaces(surfaces), "table");
        QVERIFY(text);
        auto cooling = *cooling_of(*machine, {});
        cooling.walls = *read_walls(*text);
        auto again = MachineHeatModel::of(*model, cooling, machine->rating.speed);
        const auto same = (*again)->steady(losses);
        CLOSE(same->mean.at(HeatPart::Winding), found->mean.at(HeatPart::Winding), 1e-3);
        CLOSE(same->to_ambient / same->loss, 1, 1e-9);
        auto with = given;
        with["walls"] = "housing=at 90 degC, end_shields=20 W/(m2.K) at 30 degC";
        const Answer held = asked(design, "heat", with, Quality::Draft);
        CLOSE(of(held, "temperature_housing"), 90, 0.1);
        CLOSE(of(held, "heat_balance"), 0, 1e-9);
        with["walls"] = "housing=at 90 °C, end shields=20 W/(m²·K) at 30 °C"; // as the window writes it
        CLOSE(of(asked(design, "heat", with, Quality::Draft), "temperature_winding_mean"),
              of(held, "temperature_winding_mean"), 1e-9);
    }
    void walls_that_cannot_be() {
        for (const char* text : {"housing", "hat=3 W/(m2.K) at 3 degC", "housing=0 W/(m2.K) at 3 degC",
                                 "housing=3 m at 3 degC", "housing=at 3 m", "housing=at -300 degC"})
            QVERIFY2(!read_walls(text), text);
        for (const char* table :
             {"", "area,film\n1,2\n", "surface,coefficient,fluid_temperature\nhousing,x,3\n",
              "surface,coefficient,fluid_temperature\nhousing,,3\n"})
            QVERIFY2(!walls_of_table(table, "t.csv"), table);
        auto with = given;
        with["walls"] = "stack=at 60 degC"; // it stands in a housing
        QVERIFY(refused(design_of({}), "heat", with).find("no such surface") != std::string::npos);
        const auto held = walls_of_table("Surface;area;Wall_temperature\nhousing;2;61.5\n\nloss,W\n", "t.csv");
        QVERIFY(held);
        QCOMPARE(*held, std::string("housing=at 61.5 degC"));
    }
    /// The losses of heat are those of load at the temperatures that come out.
    void losses_follow_the_magnets() {
        Design design = design_of({{"cooling.kind", "fan"}, {"rotor.magnet.temperature", "20 degC"}});
        const std::map<std::string, std::string> point{{"points", "48"}, {"current", "8 A"}};
        const Answer heat = asked(design, "heat", point, Quality::Draft);
        auto there = point;
        there["magnet_temperature"] = degrees_of(heat, "temperature_magnets");
        const Answer cold = asked(design, "load", point);
        with_steel_of(design, heat);
        const Answer load = asked(design, "load", there, Quality::Draft);
        const auto iron = [](const Answer& a) { return of(a, "iron_loss_stator") + of(a, "iron_loss_rotor"); };
        const auto beside = [](const Answer& a) {
            return of(a, "total_loss") - of(a, "copper_loss") - of(a, "winding_stray_loss");
        };
        QVERIFY(iron(load) < 0.99 * iron(cold)); // weaker magnets
        CLOSE((of(heat, "total_loss") - of(heat, "copper_loss")) / beside(load), 1, 2e-3);
        QVERIFY(heat.sentence.find("follow the magnets") != std::string::npos);
    }
    void losses_of_an_answer_in_words() {
        const Design design = design_of({});
        const Answer load = asked(design, "load", {{"points", "48"}});
        const auto read = read_losses(losses_in_words(load), *build_machine(design, {}), 0.6);
        QVERIFY(read);
        CLOSE(read->total() / of(load, "total_loss"), 1, 1e-5);
        QVERIFY(losses_in_words(asked(design, "winding", {})).empty());
    }
    /// Densities add up to the losses; an estimate at the current it was made for is the answer itself.
    void heat_of_a_current() {
        const auto machine = build_machine(design_of({}), {});
        const auto model = prepare_field(*machine, {Quality::Draft});
        auto heat = HeatOfCurrent::of(*model, {}, machine->rating.speed);
        QVERIFY(heat);
        QVERIFY(!heat->estimate(Dq{0, 8}));
        const auto found = heat->at(Dq{0, 8}, 1, {});
        QVERIFY(found);
        const auto densities = heat->densities(*found);
        double sum = 0;
        for (std::size_t e = 0; e < densities.size(); ++e)
            sum +=
                densities[e] * (*model)->area((*model)->elements[e]) * (*model)->depth * (*model)->sector.count;
        const HeatLosses& losses = found->coupled.losses;
        const double wanted = losses.slots + losses.added + losses.watts.at(LossPart::IronStator) +
                              losses.watts.at(LossPart::IronRotor) + losses.watts.at(LossPart::Magnets);
        CLOSE(sum / wanted, 1, 1e-9);
        const auto same = heat->estimate(Dq{8, 0});
        QVERIFY(same);
        CLOSE((*same - found->coupled.heat.all).cwiseAbs().maxCoeff(), 0, 0.02);
        const auto more = heat->estimate(Dq{0, 16});
        const double rise = heat->model().mean(HeatPart::Winding, *more),
                     before = found->coupled.heat.mean.at(HeatPart::Winding);
        QVERIFY(rise > before + 5);
    }
    void units_that_read_best() {
        Answer answer;
        answer.curves = {{"torque", "N.m", "time", "s", {0, 7200}, {0.01, 0.02}},
                         {"power", "W", "speed", "rpm", {0, 60000}, {0, 25000}},
                         {"efficiency", "1", "speed", "rpm", {0, 60000}, {0, 0.01}}};
        const Answer shown = in_reading_units(answer);
        QCOMPARE(shown.curves[0].x_unit, std::string("min"));
        CLOSE(shown.curves[0].x[1], 120, 1e-9);
        QCOMPARE(shown.curves[0].unit, std::string("mN.m"));
        CLOSE(shown.curves[0].y[1], 20, 1e-9);
        QCOMPARE(shown.curves[1].unit, std::string("kW"));
        CLOSE(shown.curves[1].y[1], 25, 1e-9);
        CLOSE(shown.curves[1].x[1], 60000, 1e-9);
        QCOMPARE(shown.curves[2].unit, std::string("1"));
        const Curve other = in_units_of(shown.curves[0], {"torque", "N.m", "time", "s", {60}, {3}});
        CLOSE(other.x[0], 1, 1e-12);
        CLOSE(other.y[0], 3000, 1e-9);
    }
};
MAVLO_TEST(heat_duty, TestHeatDuty, Nothing)
#include "test_heat_duty.moc"
