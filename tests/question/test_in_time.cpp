// The question on supplies in time, with a map of constant inductances brought along, and on a machine's own.

#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/constant_map.h"
#include "question/growing_curves.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fmt/format.h>
#include <set>

using namespace mavlo;

namespace {

std::shared_ptr<const FluxMap> linear_map(const nlohmann::json& machine, double most) {
    return constant_map({machine["psi"], machine["Ld"], machine["Lq"], machine["pole_pairs"]}, most);
}

Result<Answer> asked(const Design& design, std::map<std::string, std::string> with,
                     std::shared_ptr<const FluxMap> map = {}, const PointStore& points = {}) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    Run run;
    run.map = std::move(map);
    run.points = points;
    return ask_question("in-time", ask, run);
}

/// The same by the flux map and on the fields; maps are kept from one to the next.
std::pair<Result<Answer>, Result<Answer>> by_both(const Design& design,
                                                  std::map<std::string, std::string> with) {
    static const QTemporaryDir folder;
    const PointStore kept(folder.path().toStdString());
    auto map = asked(design, with, {}, kept);
    with["method"] = "field";
    return {std::move(map), asked(design, with, {}, kept)};
}

/// A machine with these pole pairs; its fields are not asked for.
Design with_poles(int pairs) {
    Design design = new_project("surface")->variants.front().design;
    design.texts["rotor.poles"] = std::to_string(2 * pairs);
    design.texts["stator.slots"] = "12";
    design.texts["winding.span"] = "auto";
    return design;
}

} // namespace

class TestInTime : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void answers_match_the_reference_data() {
        QTest::addColumn<int>("number");
        const auto data = reference("drive.json");
        int n = 0;
        for (const auto& c : data["cases"]) {
            // By day every other one.
            if (c["machine"]["emf"] == "sine" && c["drive"]["kind"] != "hysteresis" &&
                (by_night() || n % 2 == 0))
                QTest::newRow(c["id"].get<std::string>().c_str()) << n;
            ++n;
        }
    }
    void answers_match_the_reference() {
        QFETCH(int, number);
        const auto data = reference("drive.json");
        const nlohmann::json c = data["cases"][std::size_t(number)];
        const auto &machine = c["machine"], &drive = c["drive"], &bridge = c["bridge"];
        const std::string kind = drive["kind"];
        std::map<std::string, std::string> with{
            {"speed", fmt::format("{} rpm", machine["speed_rpm"].get<double>())},
            {"resistance", fmt::format("{} Ohm", machine["R"].get<double>())},
            {"supply", kind == "sine"             ? "sine-voltage"
                       : kind == "six180"         ? "six-step"
                       : drive["svm"].get<bool>() ? "space-vector"
                                                  : "sine-triangle"},
            {"voltage_angle", fmt::format("{} deg", drive["delta_deg"].get<double>())}};
        if (kind == "sine") with["voltage"] = fmt::format("{} V", drive["V"].get<double>());
        if (kind == "pwm") {
            with["carrier_frequency"] = fmt::format("{} Hz", drive["fc"].get<double>());
            with["modulation"] = fmt::format("{}", drive["M"].get<double>());
            with["sampling"] = drive["sampling"] == "natural" ? "natural" : "regular";
        }
        if (!bridge.is_null()) {
            with["dc_voltage"] = fmt::format("{} V", bridge["Vdc"].get<double>());
            with["switch_drop"] = fmt::format("{} V", bridge["V_switch"].get<double>());
            with["diode_drop"] = fmt::format("{} V", bridge["V_diode"].get<double>());
            with["switch_resistance"] = fmt::format("{} Ohm", bridge["R_switch"].get<double>());
            with["diode_resistance"] = fmt::format("{} Ohm", bridge["R_diode"].get<double>());
        }
        const auto& wanted = c["steady"];
        const auto answer = asked(with_poles(machine["pole_pairs"]), with,
                                  linear_map(machine, 1.2 * wanted["current"]["peak_U"].get<double>()));
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        CLOSE(*answer->figure("torque_mean") / wanted["torque"]["mean"].get<double>(), 1, 5e-3);
        CLOSE(*answer->figure("current_rms") / wanted["current"]["rms_U"].get<double>(), 1, 5e-3);
        if (!bridge.is_null())
            CLOSE(*answer->figure("dc_current_mean") / wanted["dc_link"]["current_mean"].get<double>(), 1,
                  5e-3);
        CLOSE(*answer->figure("voltage_line_rms") / wanted["line_voltage_UV"]["rms"].get<double>(), 1, 5e-3);
        const Curve* spectrum = answer->curve("current_u_spectrum");
        QVERIFY(spectrum);
        const auto amplitudes = wanted["current"]["harmonics_U"]["amplitude"];
        for (std::size_t k = 1; k <= 13; ++k)
            CLOSE(spectrum->y[k], amplitudes[k].get<double>(), 0.01 * amplitudes[1].get<double>());
    }
    void an_own_circuit_on_maps_and_on_fields_data() {
        QTest::addColumn<QString>("wiring");
        if (by_night())
            QTest::newRow("star")
                << "X1 a n phase_1\nX2 b n phase_2\nX3 c n phase_3\nR1 a m 3\nR2 b m 3\nR3 c m 3\n"
                   "R4 n 0 1meg\nR5 m 0 1meg\n";
        QTest::newRow("delta")
            << "X1 a b phase_1\nX2 b c phase_2\nX3 c a phase_3\nR1 a b 3\nR2 b c 3\nR3 c a 3\n"
               "R4 a 0 1meg\n";
        QTest::newRow("with capacitors")
            << "X1 a n phase_1\nX2 b n phase_2\nX3 c n phase_3\nR1 a d 3\nR2 b e 3\nR3 c f 3\nC1 d m 2m\n"
               "C2 e m 2m\nC3 f m 2m\nR4 n 0 1meg\nR5 m 0 1meg\n";
    }
    void an_own_circuit_on_maps_and_on_fields() {
        // A generator on resistors: the fields add the slots' ripple, and little to the mean.
        QFETCH(QString, wiring);
        Design design = new_project("surface-distributed")->variants.front().design;
        design.circuits["load"] = wiring.toStdString();
        const auto [map, field] =
            by_both(design, {{"supply", "own"}, {"circuit", "load"}, {"speed", "1000 rpm"}});
        if (!map) QFAIL(to_string(map.problems().front()).c_str());
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        // In delta the third harmonic drives a current round the phases, too.
        qInfo("current %.5g by map, %.5g on fields; ripple %.4g, %.4g", of(map, "current_rms"),
              of(field, "current_rms"), of(map, "torque_peak_to_peak"), of(field, "torque_peak_to_peak"));
        for (const char* name : {"torque_mean", "current_rms", "resistor_loss", "copper_loss"})
            CLOSE(*field->figure(name) / *map->figure(name), 1, 0.02);
        QVERIFY(field->figure("winding_stray_loss") && !map->figure("winding_stray_loss"));
        QVERIFY(*field->figure("torque_mean") < 0);
        QVERIFY2(std::abs(*field->figure("power_unaccounted")) < 5e-3,
                 qPrintable(QString::number(*field->figure("power_unaccounted"))));
        QVERIFY(*field->figure("iron_loss_stator") > 0 && !map->figure("iron_loss_stator"));
    }
    void the_rotor_is_turned_as_a_table_says() {
        Design design = new_project("surface-distributed")->variants.front().design;
        design.circuits["load"] =
            "X1 a n phase_1\nX2 b n phase_2\nX3 c n phase_3\nR1 a m 3\nR2 b m 3\nR3 c m 3\n"
            "R4 n 0 1meg\nR5 m 0 1meg\n";
        std::map<std::string, std::string> with{{"supply", "own"},
                                                {"circuit", "load"},
                                                {"speed", "1000 rpm"},
                                                {"speed_over_time", "0 s=200 rpm, 0.05 s = 1000 rpm"}};
        const auto answer = asked(design, with);
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        CLOSE(*answer->figure("speed_at_end"), 1000, 1e-6);
        const Curve &speed = *answer->curve("speed"), &angle = *answer->curve("rotor_angle"),
                    &current = *answer->curve("current_u");
        QVERIFY(speed.x.back() >= 0.05);
        double early = 0, late = 0;
        for (std::size_t k = 0; k < speed.x.size(); ++k) {
            const double t = std::min(speed.x[k], 0.05), after = std::max(0.0, speed.x[k] - 0.05);
            CLOSE(speed.y[k], 200 + 800 * t / 0.05, 1e-6);
            // The integral of that, 6 degrees a second for each rpm.
            CLOSE(angle.y[k] - angle.y[0], 6 * (200 * t + 400 * t * t / 0.05 + 1000 * after), 1e-4);
            if (speed.x[k] < 0.012) early = std::max(early, std::abs(current.y[k]));
            if (speed.x[k] > 0.035) late = std::max(late, std::abs(current.y[k]));
        }
        QVERIFY(late > 1.5 * early); // the EMF grows with the speed
        for (const char* bad : {"0 s", "0.1 s=100 rpm, 0.05 s=200 rpm", "1 m=100 rpm", "0 s=5 A", "words"}) {
            with["speed_over_time"] = bad;
            const auto refused = asked(design, with);
            QVERIFY2(!refused && refused.problems().front().path == "--with speed_over_time", bad);
        }
        with["speed_over_time"] = "0 s=100 rpm, 1 s=200 rpm";
        with["inertia"] = "0.01 kg.m2";
        QVERIFY(!asked(design, with));
    }
    void a_run_on_fields_shows_what_it_has() {
        Ask ask;
        ask.design = new_project("surface")->variants.front().design;
        ask.with = {{"supply", "sine-voltage"}, {"voltage", "20 V"}, {"method", "field"}, {"points", "60"}};
        ask.quality = Quality::Draft;
        Run run;
        std::vector<std::vector<Curve>> seen;
        run.watch.grows = [&](const std::vector<Curve>& curves) { seen.push_back(curves); };
        const auto answer = ask_question("in-time", ask, run);
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        QVERIFY(!seen.empty());
        for (std::size_t k = 0; k < seen.size(); ++k) {
            QCOMPARE(seen[k].size(), std::size_t(4)); // torque and three currents
            QVERIFY(std::is_sorted(seen[k][0].x.begin(), seen[k][0].x.end()));
            QVERIFY(k == 0 || seen[k][0].x.size() > seen[k - 1][0].x.size());
            double sum = 0;
            for (std::size_t phase = 1; phase < 4; ++phase) sum += seen[k][phase].y.back();
            CLOSE(sum, 0, 1e-6);
        }
    }
    void what_grows_is_thinned() {
        Watch watch;
        std::size_t most = 0;
        double last = -1;
        bool rises = true;
        watch.grows = [&](const std::vector<Curve>& curves) {
            most = std::max(most, curves[0].x.size());
            rises = rises && curves[0].x.back() > last;
            last = curves[0].x.back();
        };
        GrowingCurves growing(watch, 1);
        const auto begin = std::chrono::steady_clock::now();
        for (int k = 0; std::chrono::steady_clock::now() - begin < std::chrono::milliseconds(700); ++k)
            growing.add(k, 2 * k, {3.0 * k});
        QVERIFY(rises && last > 4000);
        QVERIFY(most <= 4000);
    }
    void five_phases_on_a_circuit_need_the_fields() {
        Design design = new_project("surface")->variants.front().design;
        for (const auto& [path, text] :
             {std::pair{"winding.phases", "5"}, {"stator.slots", "20"}, {"rotor.poles", "4"}})
            design.texts[path] = text;
        std::string text = "R0 n 0 1meg\n";
        for (int k = 1; k <= 5; ++k) text += fmt::format("X{0} a{0} n phase_{0}\nR{0} a{0} m 5\n", k);
        design.circuits["load"] = text + "R9 m 0 1meg\n";
        std::map<std::string, std::string> with{{"supply", "own"}, {"speed", "600 rpm"}};
        const auto map = asked(design, with);
        QVERIFY(!map && map.problems().front().sentence.find("method=field") != std::string::npos);
        with["method"] = "field";
        const auto field = asked(design, with);
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        QVERIFY(std::abs(*field->figure("power_unaccounted")) < 5e-3);
        QVERIFY(field->curve("current_u") && field->curve("current_y"));
        with["inertia"] = "0.01 kg.m2";
        const auto run_up = asked(design, with);
        QVERIFY(!run_up && run_up.problems().front().path == "--with inertia");
    }
    void a_machine_on_its_own_map() {
        // Current-fed and voltage-fed runs of one point agree: the voltage that load asks for drives that
        // current.
        Design design = new_project("vee")->variants.front().design;
        Ask ask;
        ask.design = design;
        ask.quality = Quality::Draft;
        ask.with = {{"points", "24"}};
        const auto load = ask_question("load", ask);
        QVERIFY(bool(load));
        const Machine m = machine_of(design);
        const Dq i = current_vector(m.rating.current, m.rating.advance);
        const double omega = m.pole_pairs() * m.rating.speed, r = *load->figure("phase_resistance"),
                     ends = *load->figure("end_winding_inductance"),
                     psi_d = *load->figure("flux_linkage_d") + ends * i.d,
                     psi_q = *load->figure("flux_linkage_q") + ends * i.q;
        QVERIFY(ends > 0);
        const double vd = r * i.d - omega * psi_q, vq = r * i.q + omega * psi_d;
        const auto run =
            asked(design, {{"voltage", fmt::format("{} V", std::hypot(vd, vq))},
                           {"voltage_angle", fmt::format("{} deg", std::atan2(-vd, vq) * 180 / pi)}});
        if (!run) QFAIL(to_string(run.problems().front()).c_str());
        CLOSE(*run->figure("torque_mean") / *load->figure("torque_mean"), 1, 0.01);
        CLOSE(*run->figure("current_fundamental") / m.rating.current, 1, 0.01);
        CLOSE(*run->figure("iq") / i.q, 1, 0.02);
        // What comes in is copper and the shaft's.
        CLOSE((*run->figure("input_power") - 1.5 * r * std::pow(*run->figure("current_fundamental"), 2)) /
                  *run->figure("mechanical_power"),
              1, 5e-3);
        QVERIFY(!run->figure("dc_current_mean")); // no bridge
    }
    void fields_in_time_agree_with_the_map_and_with_themselves() {
        Design design = new_project("vee")->variants.front().design;
        design.texts["rotor.magnet.temperature"] = design.texts["winding.temperature"] = "20 degC";
        const std::map<std::string, std::string> point{
            {"voltage", "120 V"}, {"voltage_angle", "40 deg"}, {"points", "120"}, {"end_inductance", "0"}};
        const auto [map, field] = by_both(design, point);
        if (!map) QFAIL(to_string(map.problems().front()).c_str());
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        qInfo("torque %.5g by map, %.5g on fields; current %.5g, %.5g", of(map, "torque_mean"),
              of(field, "torque_mean"), of(map, "current_fundamental"), of(field, "current_fundamental"));
        CLOSE(of(field, "torque_mean") / of(map, "torque_mean"), 1, 0.01);
        CLOSE(of(field, "current_fundamental") / of(map, "current_fundamental"), 1, 0.01);
        CLOSE(of(field, "power_unaccounted"), 0, 2e-3);
        // Every figure is told once.
        std::set<std::string> names;
        for (const Figure& figure : field->figures)
            QVERIFY2(names.insert(figure.name).second, figure.name.c_str());
        // The map knows of the slots, too.
        QVERIFY(of(map, "torque_peak_to_peak") > 0.1 * of(map, "torque_mean"));
        CLOSE(of(field, "torque_peak_to_peak") / of(map, "torque_peak_to_peak"), 1, 0.15);
        // Fed with the currents of that run the machine asks for its voltage.
        const Dq i{of(field, "id"), of(field, "iq")};
        const auto fed = asked(design, {{"supply", "currents"},
                                        {"method", "field"},
                                        {"points", "120"},
                                        {"end_inductance", "0"},
                                        {"current", fmt::format("{} A", std::hypot(i.d, i.q))},
                                        {"advance", fmt::format("{} deg", std::atan2(-i.d, i.q) * 180 / pi)}});
        if (!fed) QFAIL(to_string(fed.problems().front()).c_str());
        CLOSE(of(fed, "torque_mean") / of(field, "torque_mean"), 1, 0.01);
        CLOSE(fed->curve("voltage_uv") ? std::abs(fed->curve("voltage_uv_spectrum")->y[1]) : 0,
              120 * std::sqrt(3.0), 1.5);
        // And load, whose fields are static, loses and turns the same.
        Ask ask;
        ask.design = design;
        ask.quality = Quality::Draft;
        ask.with = {{"points", "120"},
                    {"current", fmt::format("{} A", std::hypot(i.d, i.q))},
                    {"advance", fmt::format("{} deg", std::atan2(-i.d, i.q) * 180 / pi)}};
        const auto load = ask_question("load", ask);
        QVERIFY(bool(load));
        CLOSE(of(fed, "torque_mean") / of(load, "torque_mean"), 1, 1e-3);
        CLOSE(of(fed, "torque_peak_to_peak") / of(load, "torque_peak_to_peak"), 1, 0.03);
        CLOSE(of(fed, "iron_loss_stator") / of(load, "iron_loss_stator"), 1, 0.02);
        // Straight between 120 instants the slots' waves lose a tenth of theirs, and to the magnets' own field,
        // which load leaves out, a twentieth.
        CLOSE(of(fed, "magnet_loss") / of(load, "magnet_loss"), 0.86, 0.08);
    }
    void inverters_on_fields_keep_the_balance_data() {
        QTest::addColumn<QString>("supply");
        for (const char* supply : {"six-step", "blocks", "space-vector", "short-circuit"})
            if (by_night() || std::string_view(supply) != "six-step") QTest::newRow(supply) << supply;
    }
    void inverters_on_fields_keep_the_balance() {
        QFETCH(QString, supply);
        const Design design = new_project("surface")->variants.front().design;
        const std::map<std::string, std::string> with{{"supply", supply.toStdString()}, {"points", "120"},
                                                      {"carrier_frequency", "2 kHz"},   {"modulation", "0.6"},
                                                      {"switch_drop", "0.7 V"},         {"diode_drop", "0.9 V"},
                                                      {"switch_resistance", "20 mOhm"}, {"speed", "3000 rpm"},
                                                      {"voltage_angle", "0 deg"}};
        const auto [map, field] = by_both(design, with);
        if (!map) QFAIL(to_string(map.problems().front()).c_str());
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        qInfo("%s: torque %.5g by map, %.5g on fields; current %.5g, %.5g; unaccounted %.2g",
              qPrintable(supply), of(map, "torque_mean"), of(field, "torque_mean"), of(map, "current_rms"),
              of(field, "current_rms"), of(field, "power_unaccounted"));
        CLOSE(of(field, "torque_mean"), of(map, "torque_mean"), 0.03 * std::abs(of(map, "torque_mean")) + 0.01);
        CLOSE(of(field, "current_rms") / of(map, "current_rms"), 1, 0.03);
        CLOSE(of(field, "power_unaccounted"), 0, 5e-3);
    }
    void a_shell_slips() {
        Design design = new_project("surface-distributed")->variants.front().design;
        design.texts["rotor.kind"] = "solid";
        const std::map<std::string, std::string> fed{{"supply", "currents"},
                                                     {"method", "field"},
                                                     {"speed", "0 rpm"},
                                                     {"frequency", "50 Hz"},
                                                     {"points", "60"}};
        const auto stalled = asked(design, fed);
        if (!stalled) QFAIL(to_string(stalled.problems().front()).c_str());
        QVERIFY(*stalled->figure("torque_mean") > 0);
        // At rest all that comes in is heat.
        CLOSE(*stalled->figure("shell_loss") + *stalled->figure("copper_loss"), *stalled->figure("input_power"),
              0.03 * *stalled->figure("input_power"));
        // A map holds no such rotor, nor does a static field.
        QVERIFY(!asked(design, {}));
        Ask ask;
        ask.design = design;
        const auto load = ask_question("load", ask);
        QVERIFY(!load && load.problems().front().path == "rotor.kind");
    }
    void wrong_inputs_get_a_sentence() {
        const Design design = new_project("surface")->variants.front().design;
        const auto map = linear_map(reference("drive.json")["cases"][0]["machine"], 20);
        const std::map<std::string, std::string> wrong[] = {
            {{"supply", "hysteresis"}, {"band", "0 A"}},
            {{"supply", "space-vector"}, {"carrier_frequency", "0 Hz"}},
            {{"supply", "blocks"}, {"chop_current", "5 A"}},
            {{"supply", "sine-voltage"}, {"voltage", "0 V"}},
            {{"supply", "six-step"}, {"speed", "0 rpm"}},
            {{"supply", "currents"}, {"method", "map"}},
            {{"supply", "sine-voltage"}, {"frequency", "7 Hz"}},
            {{"supply", "nothing"}}};
        for (const auto& with : wrong) {
            const auto answer = asked(design, with, map);
            QVERIFY2(!answer && answer.problems().front().sentence.size() > 15, with.begin()->second.c_str());
        }
        Design open = design;
        open.texts["winding.connection"] = "open";
        QVERIFY(!asked(open, {}, map));
        Design five = new_project("surface-distributed")->variants.front().design;
        five.texts["winding.phases"] = "5";
        five.texts["stator.slots"] = "40";
        five.texts["rotor.poles"] = "4";
        five.texts["winding.span"] = "auto";
        QVERIFY(!asked(five, {}, map));
    }
};
MAVLO_TEST(in_time, TestInTime, Nothing)
#include "test_in_time.moc"
