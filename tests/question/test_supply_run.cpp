// Currents kept by switching, on maps and on fields; what a supply drives through "load"; what is laid beside.

#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/constant_map.h"
#include "question/counterpart.h"
#include "question/supply_run.h"
#include "support.h"
#include "test_program.h"

#include <fmt/format.h>

using namespace mavlo;

namespace {

using With = std::map<std::string, std::string>;

Result<Answer> asked(const std::string& question, const Design& design, With with) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    return ask_question(question, ask);
}

With and_also(With with, const With& more) {
    for (const auto& [key, value] : more) with[key] = value;
    return with;
}

const Design& surface() {
    static const Design design = new_project("surface")->variants.front().design;
    return design;
}

} // namespace

class TestSupplyRun : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_mean_about_a_position_is_exact_for_straight_pieces_data() {
        QTest::addColumn<int>("periods");
        QTest::newRow("one period") << 1;
        QTest::newRow("three periods") << 3;
    }
    /// U carries a sine, V a saw-tooth far faster than the positions, W a step that is told on both its sides.
    void the_mean_about_a_position_is_exact_for_straight_pieces() {
        QFETCH(int, periods);
        SteadyRun run;
        const int steps = 7200, positions = 36;
        const auto add = [&](double angle, double w) {
            TransientSample sample;
            sample.potential.setZero();
            sample.linkage.setZero();
            sample.angle = sample.t = 0.3 + angle;
            const double turns = angle * 360 / (2 * pi);
            sample.current = {10 * std::sin(angle + 0.3), 4 + 2 * (turns - std::floor(turns + 1e-9)), w};
            run.window.push_back(sample);
        };
        for (int k = 0; k <= periods * steps; ++k) {
            const double angle = 2 * pi * k / steps, turn = std::fmod(k, steps);
            if (turn == steps / 2) add(angle, -1);
            add(angle, turn < steps / 2 ? -1 : 3);
        }
        const CurrentWave wave = wave_of_run(run, 1.0, positions);
        const std::vector<double> lags{0, 2 * pi / 3, 4 * pi / 3};
        const double half = pi / positions, shrunk = std::sin(half) / half;
        int between = 0;
        for (int i = 0; i < positions; ++i) {
            const double theta = 1.0 + 2 * pi * i / positions;
            const auto current = wave.at(theta, lags);
            CLOSE(current[0], 10 * shrunk * std::sin(theta), 1e-5);
            CLOSE(current[1], 4.95, 0.02); // the teeth even out: 4 to 5.9 and straight back
            if (std::abs(current[2] + 1) > 1e-2 && std::abs(current[2] - 3) > 1e-2) ++between;
        }
        QVERIFY(between <= 3); // positions whose step holds an edge
        QVERIFY(!wave.alike());
    }
    void currents_kept_by_switching_agree_on_maps_and_fields_data() {
        QTest::addColumn<QString>("supply");
        if (by_night()) QTest::newRow("band about a sine") << "hysteresis";
        QTest::newRow("blocks with a limit") << "blocks";
    }
    void currents_kept_by_switching_agree_on_maps_and_fields() {
        QFETCH(QString, supply);
        const With with{{"supply", supply.toStdString()},
                        {"points", "90"},
                        {"chop_current", "4 A"},
                        {"current", "4 A"},
                        {"band", "1.5 A"},
                        {"advance", "0 deg"},
                        {"speed", "1000 rpm"},
                        {"dc_voltage", "60 V"}};
        const auto map = asked("in-time", surface(), with),
                   field = asked("in-time", surface(), and_also(with, {{"method", "field"}}));
        if (!map) QFAIL(to_string(map.problems().front()).c_str());
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        qInfo("torque %.5g by map, %.5g on fields; rms %.5g, %.5g; switching %.5g, %.5g Hz; unaccounted %.2g",
              of(map, "torque_mean"), of(field, "torque_mean"), of(map, "current_rms"),
              of(field, "current_rms"), of(map, "switching_frequency"), of(field, "switching_frequency"),
              of(field, "power_unaccounted"));
        CLOSE(of(field, "torque_mean") / of(map, "torque_mean"), 1, 0.02);
        CLOSE(of(field, "current_rms") / of(map, "current_rms"), 1, 0.02);
        CLOSE(of(field, "switching_frequency") / of(map, "switching_frequency"), 1, 0.12);
        // Every current stays within its band, but for what a step located at its end may pass it by.
        const Curve* current = field->curve("current_u");
        const double most = supply == "blocks" ? 4 : 4 + 0.75;
        for (double i : current->y) QVERIFY(std::abs(i) <= most + 0.05);
    }
    void a_delta_agrees_on_maps_fields_and_as_an_own_circuit_data() {
        QTest::addColumn<QString>("supply");
        for (const char* supply : {"sine-voltage", "six-step", "rectifier"})
            if (supply != std::string_view("six-step") || by_night()) QTest::newRow(supply) << supply;
    }
    /// Concentrated coils have much third harmonic: on sinusoidal voltages its current is most of the phases'.
    void a_delta_agrees_on_maps_fields_and_as_an_own_circuit() {
        QFETCH(QString, supply);
        Design design = surface();
        design.texts["winding.connection"] = "delta";
        design.texts["rotor.magnet.temperature"] = "20 degC"; // warm ones meet 30 V with next to no current
        design.circuits["sources"] = "VA a 0 sin(0 -17.3205 125 0 0 -30)\nVB b 0 sin(0 -17.3205 125 0 0 -150)\n"
                                     "VC c 0 sin(0 -17.3205 125 0 0 -270)\nX1 a b phase_1\nX2 b c phase_2\n"
                                     "X3 c a phase_3\n";
        const With with{{"supply", supply.toStdString()},
                        {"voltage", "30 V"},
                        {"dc_voltage", supply == "rectifier" ? "5 V" : "30 V"},
                        {"voltage_angle", supply == "six-step" ? "20 deg" : "0 deg"},
                        {"points", "180"},
                        {"speed", "1500 rpm"}};
        const auto map = asked("in-time", design, with),
                   field = asked("in-time", design, and_also(with, {{"method", "field"}}));
        if (!map) QFAIL(to_string(map.problems().front()).c_str());
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        qInfo("torque %.5g by map, %.5g on fields; phase %.5g, %.5g A, line %.5g, %.5g A; unaccounted %.2g",
              of(map, "torque_mean"), of(field, "torque_mean"), of(map, "current_rms"),
              of(field, "current_rms"), of(map, "line_current_rms"), of(field, "line_current_rms"),
              of(field, "power_unaccounted"));
        CLOSE(of(field, "torque_mean"), of(map, "torque_mean"), 0.01 * std::abs(of(map, "torque_mean")) + 5e-3);
        CLOSE(of(field, "current_rms") / of(map, "current_rms"), 1, 0.01);
        CLOSE(of(field, "line_current_rms") / of(map, "line_current_rms"), 1, 0.03);
        QVERIFY(std::abs(of(field, "power_unaccounted")) < 5e-3);
        // The phases lie between the lines.
        const Curve *voltage = field->curve("voltage_u"), *line = field->curve("voltage_uv");
        for (std::size_t k = 0; k < voltage->y.size(); ++k) CLOSE(voltage->y[k], line->y[k], 1e-9);
        if (supply != "sine-voltage") return;
        const auto own =
            asked("in-time", design,
                  {{"supply", "own"}, {"circuit", "sources"}, {"points", "180"}, {"speed", "1500 rpm"}});
        if (!own) QFAIL(to_string(own.problems().front()).c_str());
        CLOSE(of(own, "torque_mean"), of(map, "torque_mean"), 2e-3);
        CLOSE(of(own, "current_rms") / of(map, "current_rms"), 1, 2e-3);
        CLOSE(of(own, "copper_loss") / of(map, "copper_loss"), 1, 5e-3); // each wave by its own resistance
    }
    void strands_lose_alike_in_time_and_over_a_period_data() {
        QTest::addColumn<QString>("supply");
        QTest::newRow("given currents") << "currents";
        QTest::newRow("sine, a sixth of the period") << "sine-voltage";
    }
    /// Flat wire in the magnets' field: waves summed step by step against the spectrum of static fields.
    void strands_lose_alike_in_time_and_over_a_period() {
        QFETCH(QString, supply);
        Design design = surface();
        for (const auto& [path, text] : {std::pair{"winding.conductor.shape", "rectangular"},
                                         {"winding.conductor.width", "2 mm"},
                                         {"winding.conductor.height", "1 mm"}})
            design.texts[path] = text;
        const auto field = asked("in-time", design,
                                 {{"supply", supply.toStdString()},
                                  {"method", "field"},
                                  {"voltage", "30 V"},
                                  {"voltage_angle", "20 deg"},
                                  {"current", "5 A"},
                                  {"advance", "10 deg"},
                                  {"points", "144"},
                                  {"speed", "1500 rpm"}});
        if (!field) QFAIL(to_string(field.problems().front()).c_str());
        const auto still =
            asked("load", design,
                  {{"current", fmt::format("{} A", of(field, "current_fundamental"))},
                   {"advance", fmt::format("{} deg", std::atan2(-of(field, "id"), of(field, "iq")) * 180 / pi)},
                   {"points", "72"},
                   {"speed", "1500 rpm"}});
        if (!still) QFAIL(to_string(still.problems().front()).c_str());
        qInfo("stray %.5g W in time, %.5g W over a period; copper %.5g, %.5g", of(field, "winding_stray_loss"),
              of(still, "winding_stray_loss"), of(field, "copper_loss"), of(still, "copper_loss"));
        QVERIFY(of(still, "winding_stray_loss") > 0);
        CLOSE(of(field, "winding_stray_loss") / of(still, "winding_stray_loss"), 1, 0.05);
    }
    void load_takes_what_a_supply_drives() {
        const With supply{{"supply", "sine-voltage"},
                          {"voltage", "30 V"},
                          {"voltage_angle", "20 deg"},
                          {"points", "48"},
                          {"speed", "1000 rpm"}};
        const auto run = asked("in-time", surface(), and_also(supply, {{"points", "360"}})),
                   driven = asked("load", surface(), supply);
        if (!run) QFAIL(to_string(run.problems().front()).c_str());
        if (!driven) QFAIL(to_string(driven.problems().front()).c_str());
        // Nearly a sine: its fundamental, given, turns and loses the same.
        const With given{
            {"current", fmt::format("{} A", of(run, "current_fundamental"))},
            {"advance", fmt::format("{} deg", std::atan2(-of(run, "id"), of(run, "iq")) * 180 / pi)},
            {"points", "48"},
            {"speed", "1000 rpm"}};
        const auto fed = asked("load", surface(), given);
        if (!fed) QFAIL(to_string(fed.problems().front()).c_str());
        CLOSE(of(driven, "torque_mean") / of(fed, "torque_mean"), 1, 0.01);
        CLOSE(of(driven, "copper_loss") / of(fed, "copper_loss"), 1, 0.02);
        QVERIFY(driven->sentence.find("sine-voltage") != std::string::npos);
        QVERIFY(driven->effort.solves > fed->effort.solves); // the map's
    }
    void load_on_a_voltage_turns_as_in_time() {
        const With supply{{"supply", "six-step"},
                          {"voltage_angle", "25 deg"},
                          {"points", "48"},
                          {"speed", "2000 rpm"},
                          {"dc_voltage", "48 V"}};
        const auto load = asked("load", surface(), supply),
                   run = asked("in-time", surface(), and_also(supply, {{"points", "360"}}));
        if (!load) QFAIL(to_string(load.problems().front()).c_str());
        if (!run) QFAIL(to_string(run.problems().front()).c_str());
        CLOSE(of(load, "torque_mean"), of(run, "torque_mean"), 0.02 * std::abs(of(run, "torque_mean")) + 0.005);
        double square = 0;
        const Curve* current = load->curve("current_u");
        for (double i : current->y) square += i * i / double(current->y.size());
        CLOSE(std::sqrt(square) / of(run, "current_rms"), 1, 0.01);
    }
    void load_on_a_supply_says_what_it_cannot() {
        Design open = surface();
        open.texts["winding.connection"] = "open";
        const With six{{"supply", "six-step"}};
        const std::vector<std::tuple<Design, With, std::string>> wrong{
            {open, six, "winding.connection"},
            {surface(), and_also(six, {{"speed", "0 rpm"}}), "--with speed"},
            {surface(), and_also(six, {{"skew", "5 deg"}}), "--with skew"},
            {surface(), and_also(six, {{"open_phase", "2"}}), "--with supply"},
            {surface(), and_also(six, {{"dc_voltage", "0 V"}}), "--with dc_voltage"},
            {new_project("salient")->variants.front().design, six, "--with supply"}};
        for (const auto& [design, with, path] : wrong) {
            const auto answer = asked("load", design, with);
            QVERIFY2(!answer, path.c_str());
            QCOMPARE(answer.problems().front().path, path);
        }
    }
    void counterparts_are_the_same_asked_otherwise() {
        Answer answer;
        answer.question = "in-time";
        answer.inputs = {{"method", "map"}, {"supply", "six-step"}, {"speed", "900 rpm"}};
        answer.figures = {{"id", -3.0, "A"}, {"iq", 4.0, "A"}};
        const auto both = counterparts(answer);
        QCOMPARE(both.size(), std::size_t(2));
        QCOMPARE(both[0].inputs.at("method"), std::string("field"));
        QCOMPARE(both[0].inputs.at("supply"), std::string("six-step"));
        QCOMPARE(both[1].inputs.at("supply"), std::string("currents"));
        QCOMPARE(both[1].inputs.at("current"), std::string("5 A"));
        QVERIFY(both[1].inputs.at("advance").starts_with("36.8698"));
        QCOMPARE(both[1].inputs.at("speed"), std::string("900 rpm"));
        answer.inputs["method"] = "field";
        QCOMPARE(counterparts(answer).front().inputs.at("method"), std::string("map"));
        answer.inputs["supply"] = "currents";
        QVERIFY(counterparts(answer).empty());
        answer.question = "strokes";
        answer.inputs = {{"method", "map"}};
        QCOMPARE(counterparts(answer).size(), std::size_t(1));
        answer.question = "cogging";
        answer.inputs = {{"points", "20"}};
        QVERIFY(counterparts(answer).empty());
    }
};
MAVLO_TEST(supply_run, TestSupplyRun, Nothing)
#include "test_supply_run.moc"
