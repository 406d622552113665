// Questions with current and over the whole range, against each other and against the laws they must keep.

#include "figure/park.h"
#include "night.h"
#include "project/project.h"
#include "question/flux_grid.h"
#include "question/map_answer.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QElapsedTimer>
#include <QTemporaryDir>
#include <numbers>
#include <random>
#include <thread>

using namespace mavlo;
using std::numbers::pi;

class TestRangeQuestions : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    static Design demo(const char* name) {
        return read_project(std::string(MAVLO_SOURCE "/demo/") + name + ".mavlo")->variants.front().design;
    }
    Ask ask_of(const Design& design, std::map<std::string, std::string> with,
               Quality quality = Quality::Draft) const {
        Ask ask;
        ask.design = design;
        ask.with = std::move(with);
        ask.quality = quality;
        return ask;
    }
    Run kept() const { return {0, {}, PointStore(m_folder.path().toStdString())}; }
    Answer answer(const char* question, const Ask& ask) const { return answer(question, ask, kept()); }
    Answer answer(const char* question, const Ask& ask, const Run& run) const {
        const auto result = ask_question(question, ask, run);
        if (!result) qFatal("%s: %s", question, to_string(result.problems().front()).c_str());
        return *result;
    }
    static std::string text(double value) { return QString::number(value, 'g', 12).toStdString(); }

  private Q_SLOTS:
    void power_is_kept() {
        std::mt19937 random(3);
        for (const char* name : {"ferry", "observatory"}) {
            const Design design = demo(name);
            const Machine m = machine_of(design);
            const double most = m.rating.max_current;
            for (int i = 0; i < (by_night() ? 20 : 6); ++i) {
                const double current = std::uniform_real_distribution(0.2, 1.0)(random) * most,
                             advance = std::uniform_real_distribution(-20.0, 70.0)(random);
                const Answer a = answer("load", ask_of(design,
                                                       {{"current", text(current)},
                                                        {"advance", text(advance)},
                                                        {"points", by_night() ? "120" : "72"}},
                                                       Quality::Normal));
                const double mechanical = *a.figure("mechanical_power");
                CLOSE(*a.figure("power_unaccounted"), 0, 5e-3); // by the voltages against by the torque
                const Dq vector = current_vector(current, advance * pi / 180);
                const double torque =
                    1.5 * m.pole_pairs() *
                    (*a.figure("flux_linkage_d") * vector.q - *a.figure("flux_linkage_q") * vector.d);
                CLOSE(torque / *a.figure("torque_mean"), 1, 1e-2);
                CLOSE(*a.figure("shaft_power") + *a.figure("total_loss"),
                      *a.figure("electrical_power") + *a.figure("copper_loss") - *a.figure("copper_loss_dc"),
                      1e-6 * mechanical);
            }
        }
    }
    void current_for_torque_meets_it() {
        for (const char* wanted : {"60", "250", "-120"}) {
            const Answer a = answer("current-for-torque", ask_of(demo("ferry"), {{"torque", wanted}}));
            const Answer check = answer("load", ask_of(demo("ferry"), {{"current", text(*a.figure("current"))},
                                                                       {"advance", text(*a.figure("advance"))},
                                                                       {"points", "60"}}));
            CLOSE(*check.figure("torque_mean") / std::stod(wanted), 1, 2e-3);
        }
        const auto too_much = ask_question("current-for-torque", ask_of(demo("ferry"), {{"torque", "5000"}}));
        QVERIFY(!too_much && too_much.problems().front().sentence.find("the most is") != std::string::npos);
    }
    void the_best_angle_is_the_top() {
        const Answer a = answer("best-angle", ask_of(demo("ferry"), {{"currents", "100 A"}, {"points", "60"}}));
        const auto load = [&](double advance) {
            return *answer("load", ask_of(demo("ferry"),
                                          {{"current", "100"}, {"advance", text(advance)}, {"points", "60"}}))
                        .figure("torque_mean");
        };
        const double top = *a.figure("best_advance"), torque = load(top);
        CLOSE(torque / *a.figure("torque_best"), 1, 2e-3);
        QVERIFY(torque > load(top - 6) && torque > load(top + 6));
    }
    void a_grown_range_is_refined() {
        const std::map<std::string, std::string> small{
            {"id", "-50:0:25 %"}, {"iq", "0:50:25 %"}, {"points", "24"}},
            large{{"id", "-100:0:25 %"}, {"iq", "0:75:25 %"}, {"points", "24"}};
        const Answer first = answer("flux-map", ask_of(demo("ferry"), small));
        QCOMPARE(first.effort.solves, 9 * 4);
        const Answer second = answer("flux-map", ask_of(demo("ferry"), large));
        QCOMPARE(second.effort.solves, (20 - 9) * 4);
        QCOMPARE(answer("flux-map", ask_of(demo("ferry"), large)).effort.solves, 0);
        const auto a = flux_map_of(first), b = flux_map_of(second);
        CLOSE(a->points()[4].torque, b->at(a->points()[4].current).torque, 1e-9);
        Ask hot = ask_of(demo("ferry"), small);
        hot.design.texts["rotor.magnet.temperature"] = "120 degC";
        QCOMPARE(answer("flux-map", hot).effort.solves, 9 * 4); // another machine
    }
    void threads_give_the_same_map() {
        const std::map<std::string, std::string> small{
            {"id", "-50:0:25 %"}, {"iq", "0:50:25 %"}, {"points", "24"}};
        const Ask ask = ask_of(demo("ferry"), small);
        const Answer a = answer("flux-map", ask, {1}), b = answer("flux-map", ask, {2});
        for (std::size_t k = 0; k < a.maps.size(); ++k)
            QVERIFY2(a.maps[k] == b.maps[k], a.maps[k].name.c_str());
    }
    void the_efficiency_map_is_what_full_fields_say() {
        const Design design = demo("ferry");
        const Quality quality = by_night() ? Quality::Normal : Quality::Draft;
        const Answer map = answer("efficiency-map", ask_of(design, {}, quality));
        QVERIFY(*map.figure("best_efficiency") > 0.94 && *map.figure("best_efficiency") < 0.99);
        std::mt19937 random(11);
        int checked = 0;
        while (checked < (by_night() ? 10 : 6)) {
            const Map& efficiency = *map.map("efficiency");
            const auto i = std::uniform_int_distribution<std::size_t>(3, efficiency.x.size() - 1)(random),
                       j = std::uniform_int_distribution<std::size_t>(0, efficiency.y.size() - 1)(random);
            if (std::isnan(efficiency.z[j][i]) || std::abs(efficiency.y[j]) < 20) continue;
            const double id = map.map("id")->z[j][i], iq = map.map("iq")->z[j][i];
            const Answer full = answer("load", ask_of(design,
                                                      {{"current", text(std::hypot(id, iq))},
                                                       {"advance", text(std::atan2(-id, iq) * 180 / pi)},
                                                       {"speed", text(efficiency.x[i])}},
                                                      quality));
            CLOSE(*full.figure("torque_mean") / efficiency.y[j], 1, 0.015);
            CLOSE(*full.figure("total_loss") / map.map("loss_total")->z[j][i], 1, 0.05);
            ++checked;
        }
        // A working point says the same, and a speed range has the same envelope.
        const Answer point =
            answer("working-point", ask_of(design, {{"speed", "1800"}, {"torque", "150"}}, quality));
        QCOMPARE(point.effort.solves, 0); // from the same map
        QVERIFY(*point.figure("demagnetisation_margin") > 0);
        const Answer range = answer("speed-range", ask_of(design, {}, quality));
        QCOMPARE(range.effort.solves, 0);
        CLOSE(range.curve("torque")->y.back(), map.curve("envelope")->y.back(), 0.05);
        const auto too_much =
            ask_question("working-point", ask_of(design, {{"speed", "3000"}, {"torque", "390"}}, quality));
        QVERIFY(!too_much &&
                too_much.problems().front().sentence.find("the most there is") != std::string::npos);
    }
    void a_duty_adds_up() {
        const Answer a = answer("efficiency-map", ask_of(demo("ferry"), {{"map_steps", "5"},
                                                                         {"torques", "50:200:50"},
                                                                         {"speeds", "300:1500:300"},
                                                                         {"duty_speeds", "600, 1200, 600"},
                                                                         {"duty_torques", "100, 150, 50"},
                                                                         {"duty_times", "10, 20, 5"}}));
        const double shaft = *a.figure("duty_energy_shaft");
        CLOSE(shaft, (10 * 100 * 600 + 20 * 150 * 1200 + 5 * 50 * 600) * pi / 30,
              0.03 * shaft); // less friction
        const double lost = *a.figure("duty_energy_copper") + *a.figure("duty_energy_iron") +
                            *a.figure("duty_energy_magnet") + *a.figure("duty_energy_mechanical");
        CLOSE(*a.figure("duty_efficiency"), shaft / (shaft + lost), 1e-12);
        const auto wrong =
            ask_question("efficiency-map", ask_of(demo("ferry"), {{"map_steps", "5"}, {"duty_speeds", "600"}}));
        QVERIFY(!wrong && wrong.problems().front().path == "--with duty_speeds");
    }
    void stopping_is_prompt_and_keeps_what_is_done() {
        // So many currents that they are solved in two blocks, of which a stop loses the one that is open.
        Ask ask = ask_of(demo("ferry"), {{"id", "-132:0:12"}, {"iq", "0:132:12"}, {"points", "12"}});
        const int all = 12 * 12 * 2, enough = all - 20;
        std::stop_source source;
        Run run = kept();
        run.watch.stop = source.get_token();
        std::atomic<int> done = 0;
        run.watch.progress = [&](int ready, int) { done = ready; };
        QElapsedTimer since;
        std::jthread stopper([&] {
            while (done < enough) std::this_thread::sleep_for(std::chrono::milliseconds(5));
            since.start();
            source.request_stop();
        });
        const auto stopped_answer = ask_question("flux-map", ask, run);
        const auto waited = since.elapsed();
        QVERIFY(!stopped_answer && is_stopped(stopped_answer.problems()));
        QVERIFY2(waited < 2000, qPrintable(QString::number(waited)));
        const Answer again = answer("flux-map", ask);
        QVERIFY2(again.effort.solves > 0 && again.effort.solves <= all / 2,
                 qPrintable(QString::number(again.effort.solves)));
    }
    void inductances_of_a_machine_without_saturation() {
        Design design = demo("ferry");
        design.texts["stator.steel"] = design.texts["rotor.steel"] = "linear(3000)";
        const Answer a = answer("inductances", ask_of(design, {{"points", "24"}}));
        CLOSE(*a.figure("inductance_d_apparent") / *a.figure("inductance_d_incremental"), 1, 1e-3);
        CLOSE(*a.figure("inductance_q_apparent") / *a.figure("inductance_q_incremental"), 1, 5e-3);
        CLOSE(*a.figure("inductance_dq_incremental") / *a.figure("inductance_d_incremental"), 0, 1e-2);
        QVERIFY(*a.figure("saliency") > 1);
        const auto& u = a.curve("inductance_u")->y;
        QVERIFY(*std::min_element(u.begin(), u.end()) > 0);
        QVERIFY(a.curve("mutual_inductance_uv")->y[0] < 0);
    }
    void the_initial_angle_is_the_windings_axis() {
        for (const char* name : {"ferry", "observatory"}) {
            const Answer a = answer("initial-angle", ask_of(demo(name), {}));
            CLOSE(*a.figure("initial_angle"), *a.figure("phase_axis"), 0.05);
            CLOSE(*a.figure("magnet_axis"), 0, 0.01);
        }
    }
    void the_short_circuit_settles_at_the_characteristic_current() {
        const Answer a = answer("short-circuit", ask_of(demo("ferry"), {}));
        CLOSE(*a.figure("short_circuit_current") / *a.figure("characteristic_current"), 1, 5e-3);
        QVERIFY(*a.figure("braking_torque_most") < 0);
        // Braking power is what the resistance turns to heat.
        const Curve &current = *a.curve("short_circuit_current"), &torque = *a.curve("braking_torque");
        const double resistance = machine_conductor(machine_of(demo("ferry"))).resistance;
        for (std::size_t k : {5UL, 40UL}) {
            const double heat = 1.5 * resistance * current.y[k] * current.y[k];
            CLOSE(-torque.y[k] * torque.x[k] * pi / 30 / heat, 1, 0.03);
        }
    }
    void magnets_survive_or_do_not() {
        const Answer cool = answer("demagnetisation", ask_of(demo("ferry"), {}));
        CLOSE(*cool.figure("share_lost"), 0, 0);
        CLOSE(*cool.figure("back_emf_left"), 1, 0);
        QVERIFY(*cool.figure("margin") > 0.2 && *cool.figure("current_for_one_percent") > 150);
        const Answer hot =
            answer("demagnetisation", ask_of(demo("ferry"), {{"magnet_temperature", "140 degC"}}));
        QVERIFY(*hot.figure("share_lost") > 0.01);
        CLOSE(*hot.figure("weakening_residual"), 0, 2e-3); // H of each weakened element stands at its knee
        QVERIFY(hot.curve("share_lost") &&
                hot.curve("flux_density_least")->y.front() > hot.curve("flux_density_least")->y.back());
        QVERIFY(*hot.figure("back_emf_left") < 1 && *hot.figure("back_emf_left") > 0.2);
        QVERIFY(*hot.figure("current_for_one_percent") < 150);
        // More current takes more.
        const Answer more = answer(
            "demagnetisation", ask_of(demo("ferry"), {{"magnet_temperature", "140 degC"}, {"current", "220"}}));
        QVERIFY(*more.figure("back_emf_left") < *hot.figure("back_emf_left"));
        const auto unknown = [&] {
            Design design = demo("ferry");
            design.texts["rotor.magnet.grade"] = "magnet(1.2 T, 1.05)";
            return ask_question("demagnetisation", ask_of(design, {}));
        }();
        QVERIFY(!unknown && unknown.problems().front().path == "rotor.magnet.grade");
    }
    void temperatures_are_inputs_of_every_question() {
        for (const QuestionKind& kind : question_kinds())
            for (const char* key : {"magnet_temperature", "winding_temperature"})
                QVERIFY2(std::any_of(kind.inputs.begin(), kind.inputs.end(),
                                     [&](const auto& i) { return i.key == key; }),
                         kind.name.c_str());
        const std::map<std::string, std::string> short_load{{"points", "24"}};
        auto hot_with = short_load;
        hot_with["magnet_temperature"] = "120 degC";
        hot_with["winding_temperature"] = "150 degC";
        Ask changed = ask_of(demo("ferry"), short_load);
        changed.design.texts["rotor.magnet.temperature"] = "120 degC";
        changed.design.texts["winding.temperature"] = "150 degC";
        const Answer cool = answer("load", ask_of(demo("ferry"), short_load)),
                     hot = answer("load", ask_of(demo("ferry"), hot_with)), design = answer("load", changed);
        QVERIFY(*hot.figure("torque_mean") < *cool.figure("torque_mean") &&
                *hot.figure("copper_loss") > *cool.figure("copper_loss"));
        CLOSE(*hot.figure("torque_mean"), *design.figure("torque_mean"), 1e-12);
        CLOSE(*hot.figure("total_loss"), *design.figure("total_loss"), 1e-9);
        QCOMPARE(hot.inputs.at("magnet_temperature"), std::string("120 degC"));
        QCOMPARE(hot.design, cool.design); // asked of the same design
        QVERIFY(answer_key("load", ask_of(demo("ferry"), hot_with)) !=
                answer_key("load", ask_of(demo("ferry"), short_load)));
        // A rating is nothing to the fields, a dimension is.
        Design other = demo("ferry");
        other.texts["rating.speed"] = "900 rpm";
        QCOMPARE(field_hash(other, {}), field_hash(demo("ferry"), {}));
        other.texts["gap"] = "1.2 mm";
        QVERIFY(field_hash(other, {}) != field_hash(demo("ferry"), {}));
    }
    void a_conducting_shaft_loses_a_little() {
        Ask ask = ask_of(demo("observatory"), {{"points", "24"}});
        QVERIFY(!answer("load", ask).figure("shaft_loss"));
        ask.design.texts["rotor.shaft_resistivity"] = "2e-7 Ohm.m";
        const double loss = *answer("load", ask).figure("shaft_loss");
        ask.design.texts["rotor.shaft_resistivity"] = "1e-7 Ohm.m";
        QVERIFY(loss > 0 && loss < 1);
        CLOSE(*answer("load", ask).figure("shaft_loss") / loss, 2, 1e-6);
    }
    void a_skewed_stack() {
        const auto load = [&](std::map<std::string, std::string> with) {
            with["points"] = "60";
            return answer("load", ask_of(demo("ferry"), with));
        };
        const Answer plain = load({}), skewed = load({{"skew", "7.5 deg"}, {"skew_steps", "4"}});
        QVERIFY(*skewed.figure("torque_peak_to_peak") < 0.2 * *plain.figure("torque_peak_to_peak"));
        const double fall = *skewed.figure("flux_linkage_d") / *plain.figure("flux_linkage_d");
        QVERIFY(fall < 1 && fall > 0.9);
        CLOSE((*skewed.figure("electrical_power") - *skewed.figure("copper_loss_dc")) /
                  *skewed.figure("mechanical_power"),
              1, 5e-3);
        QCOMPARE(skewed.effort.solves, 4 * plain.effort.solves);
    }
    void lists_are_read_and_refused() {
        const auto problem = [&](const char* key, const char* text) {
            const auto result =
                question_inputs(*find_question("flux-map"), {{key, text}}, *resolve(demo("ferry")));
            return result ? std::string() : to_string(result.problems().front());
        };
        const Values ferry = *resolve(demo("ferry"));
        const auto values = question_inputs(*find_question("flux-map"), {{"id", "-20, -10, 0 %"}}, ferry);
        CLOSE(values->list("id")[0], -30, 1e-9);
        CLOSE(question_inputs(*find_question("flux-map"), {{"id", "-1:0:0.5 kA"}}, ferry)->list("id")[1], -500,
              1e-9);
        QVERIFY(!problem("id", "0:-10:1").empty() && !problem("id", "5, 3").empty() &&
                !problem("id", "0:1:0").empty());
        QVERIFY(!problem("id", "0:1e9:1e-3").empty() && !problem("id", "1 2").empty() &&
                !problem("id", "").empty());
        QVERIFY(problem("iq", "0:10:1 mm").find("unit") != std::string::npos);
        QVERIFY(!question_inputs(*find_question("speed-range"), {{"voltage_rule", "square"}}, ferry));
    }
};
MAVLO_TEST(range_questions, TestRangeQuestions, Nothing)
#include "test_range_questions.moc"
