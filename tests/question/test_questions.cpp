#include "figure/spectrum.h"
#include "night.h"
#include "question/figure_names.h"
#include "question/period.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QFile>
#include <QRegularExpression>
#include <atomic>
#include <chrono>
#include <numbers>
#include <thread>

using namespace mavlo;

namespace {

Answer answer_to(const std::string& question, const Design& design,
                 std::map<std::string, std::string> with = {}, Quality quality = Quality::Draft,
                 int threads = 0) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = quality;
    auto answer = ask_question(question, ask, {threads});
    if (!answer) qFatal("%s: %s", question.c_str(), to_string(answer.problems().front()).c_str());
    return *answer;
}

} // namespace

class TestQuestions : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void cogging_averages_to_nothing() {
        const Answer a = answer_to("cogging", {}, {{"points", "24"}}, Quality::Normal);
        const Curve* torque = a.curve("torque");
        QVERIFY(torque && torque->x.size() == 24);
        CLOSE(*a.figure("cogging_period"), 6, 1e-12);
        CLOSE(*a.figure("cogging_per_turn"), 60, 0);
        QCOMPARE(a.effort.solves, 11);
        // The half that was not solved: the magnet on a slot's centre is a place of rest, odd symmetry about
        // it.
        std::vector<Position> period;
        for (int i = 0; i < 24; ++i) period.push_back({2 * std::numbers::pi / 60 * i / 24, {}});
        const Machine machine = machine_of({});
        const auto sizing = *find_sizing(machine, Quality::Normal, promise_of(Quality::Normal), 0, {});
        const auto solved = *sweep(*prepare_field(sized(machine, sizing)), period, 0, {});
        std::vector<double> whole;
        for (const auto& r : solved) whole.push_back(r.torque);
        QVERIFY(std::abs(mean(whole)) < 0.005 * *a.figure("cogging_peak_to_peak"));
        for (std::size_t i = 0; i < 24; ++i)
            CLOSE(torque->y[i], whole[i], 1e-5 * *a.figure("cogging_peak_to_peak"));
    }
    void a_sixth_of_the_period_tells_the_whole_data() {
        QTest::addColumn<int>("slots_");
        QTest::addColumn<int>("poles");
        QTest::addColumn<QString>("tooth");
        QTest::newRow("12/10") << 12 << 10 << "8 mm";
        QTest::newRow("24/4, distributed") << 24 << 4 << "4 mm";
        if (!by_night()) return;
        QTest::newRow("9/6") << 9 << 6 << "10 mm";
        QTest::newRow("9/8") << 9 << 8 << "10 mm";
    }
    void a_sixth_of_the_period_tells_the_whole() {
        QFETCH(int, slots_);
        QFETCH(int, poles);
        QFETCH(QString, tooth);
        const Machine m = machine_of(design_of({{"stator.slots", std::to_string(slots_)},
                                                {"rotor.poles", std::to_string(poles)},
                                                {"stator.slot.tooth_width", tooth.toStdString()},
                                                {"stator.slot.opening", "2 mm"}}));
        QVERIFY(m.symmetry.part.has_value());
        QCOMPARE(period_solves(m, 24), 4);
        QCOMPARE(period_solves(m, 20), 20);
        const auto model = *prepare_field(m, {Quality::Draft});
        const Dq current{-8, 15};
        const auto quick = *sweep_period(model, 24, current, 0, {});
        const auto whole = *sweep(model, electrical_period(m, 24, current), 0, {});
        for (std::size_t i = 0; i < 24; ++i) {
            CLOSE(quick[i].torque, whole[i].torque, 1e-4 * std::abs(whole[i].torque));
            for (std::size_t k = 0; k < 3; ++k) {
                CLOSE(quick[i].flux_linkage[k], whole[i].flux_linkage[k],
                      1e-4 * std::abs(whole[0].flux_linkage[0]));
                CLOSE(quick[i].position.current[k], whole[i].position.current[k], 0);
            }
        }
    }
    void power_balance_with_linear_iron() {
        // No d current and linear iron: mean torque times speed is the mean of sum e i.
        const Design design = design_of({{"stator.steel", "linear(2000)"}, {"rotor.steel", "linear(2000)"}});
        const Answer idle = answer_to("no-load", design, {{"points", "48"}, {"speed", "1500 rpm"}});
        const Answer load =
            answer_to("load", design,
                      {{"points", "48"}, {"speed", "1500 rpm"}, {"current", "10 A"}, {"advance", "0 deg"}});
        double power = 0;
        for (const char* phase : {"u", "v", "w"}) {
            const auto& e = idle.curve(std::string("back_emf_") + phase)->y;
            const auto& i = load.curve(std::string("current_") + phase)->y;
            for (std::size_t k = 0; k < e.size(); ++k) power += e[k] * i[k] / double(e.size());
        }
        CLOSE(*load.figure("mechanical_power"), power, 0.005 * power);
        QVERIFY(*load.figure("torque_mean") > 0);
    }
    void electrical_power_is_mechanical_power_plus_copper_loss() {
        // Nonlinear and with d current: over a period the field gives back what it took.
        const Answer a = answer_to("load", {}, {{"points", "48"}, {"current", "20 A"}, {"advance", "30 deg"}});
        double power = 0;
        for (const char* phase : {"u", "v", "w"}) {
            const auto& v = a.curve(std::string("voltage_") + phase)->y;
            const auto& i = a.curve(std::string("current_") + phase)->y;
            for (std::size_t k = 0; k < v.size(); ++k) power += v[k] * i[k] / double(v.size());
        }
        CLOSE(power - *a.figure("copper_loss"), *a.figure("mechanical_power"), 0.005 * power);
        // The dq torque from flux linkage, 3/2 p (psi_d i_q - psi_q i_d), agrees with the gap's.
        const double iq = 20 * std::cos(std::numbers::pi / 6), id = -10;
        CLOSE(7.5 * (*a.figure("flux_linkage_d") * iq - *a.figure("flux_linkage_q") * id),
              *a.figure("torque_mean"), 0.01 * *a.figure("torque_mean"));
    }
    /// The terminal's page names them; the window and the report show them in the trade's words.
    void every_documented_figure_has_words() {
        QFile page(QStringLiteral(MAVLO_SOURCE "/docs/cli.md"));
        QVERIFY(page.open(QIODevice::ReadOnly));
        static const QRegularExpression name(QStringLiteral("`([a-z][a-z0-9_]*[a-z0-9])`"));
        int seen = 0;
        for (const QString& line : QString::fromUtf8(page.readAll()).split('\n')) {
            const QStringList cells = line.split('|');
            if (!line.startsWith("| `") || cells.size() < 5) continue;
            for (auto all = name.globalMatch(cells[3]); all.hasNext(); ++seen) {
                const std::string figure = all.next().captured(1).toStdString();
                const auto known = known_figure_name(figure);
                QVERIFY2(known && known->label.find('_') == std::string::npos, figure.c_str());
            }
        }
        QVERIFY(seen > 150);
        QCOMPARE(figure_name("torque_mean_deviation").label, "Mean torque, standard deviation");
    }
    void d_axis_from_the_field_is_that_of_the_winding() {
        for (const char* slots_poles : {"12/10", "9/6", "9/8", "24/20"}) {
            const QStringList parts = QString::fromLatin1(slots_poles).split('/');
            Design design = design_of({{"stator.slots", parts[0].toStdString()},
                                       {"rotor.poles", parts[1].toStdString()},
                                       {"stator.slot.tooth_width", "4 mm"},
                                       {"stator.slot.corner_radius", "0.5 mm"}});
            const Answer a = answer_to("no-load", design, {{"points", "18"}});
            const Machine m = machine_of(design);
            const double period = 360.0 / m.pole_pairs();
            CLOSE(std::remainder(*a.figure("d_axis_angle") -
                                     phase_axis(m.winding.layout) * 180 / std::numbers::pi,
                                 period),
                  0, 1e-3);
        }
    }
    void line_voltages_follow_the_connection() {
        const Answer star = answer_to("no-load", {}, {{"points", "24"}}),
                     delta =
                         answer_to("no-load", design_of({{"winding.connection", "delta"}}), {{"points", "24"}});
        const auto &u = star.curve("back_emf_u")->y, &v = star.curve("back_emf_v")->y,
                   &uv = star.curve("back_emf_uv")->y;
        for (std::size_t k = 0; k < u.size(); ++k) CLOSE(uv[k], u[k] - v[k], 1e-12);
        CLOSE(*delta.figure("back_emf_line_rms"), *delta.figure("back_emf_phase_rms"), 1e-12);
        QVERIFY(star.curve("gap_flux_density_radial")->x.size() >= 1000 &&
                star.curve("gap_flux_density_radial_spectrum"));
    }
    void loads_tell_what_the_terminals_see() {
        const std::map<std::string, std::string> with{{"points", "24"}, {"current", "10 A"}};
        const Answer star = answer_to("load", {}, with),
                     delta = answer_to("load", design_of({{"winding.connection", "delta"}}), with);
        const auto y = [](const Answer& a, const char* name) { return a.curve(name)->y; };
        QVERIFY(!star.curve("line_current_u") && !delta.curve("voltage_uv"));
        const auto uv = y(star, "voltage_uv"), u = y(star, "voltage_u"), v = y(star, "voltage_v");
        const auto line = y(delta, "line_current_u");
        for (std::size_t i = 0; i < u.size(); ++i) CLOSE(uv[i], u[i] - v[i], 1e-9);
        // Sinusoidal currents of 10 A in the phases are those times the root of three in the lines.
        CLOSE(rms(line), 10 * std::sqrt(1.5), 1e-6);
        CLOSE(y(delta, "line_current_v")[3], y(delta, "current_v")[3] - y(delta, "current_u")[3], 1e-9);
    }
    void figures_that_do_not_apply_are_empty() {
        const Answer standstill = answer_to("no-load", {}, {{"points", "12"}, {"speed", "0 rpm"}});
        QVERIFY(!standstill.figure("back_emf_phase_rms") && standstill.figure("flux_linkage_peak"));
        const Answer load = answer_to("load", {}, {{"points", "12"}, {"current", "0 A"}});
        QVERIFY(load.figure("iron_loss_stator") && !load.figure("efficiency") && !load.figure("power_factor"));
        const Answer ideal =
            answer_to("load", design_of({{"stator.steel", "linear(1000)"}}), {{"points", "12"}});
        QVERIFY(!ideal.figure("iron_loss_stator") && !ideal.figure("total_loss") &&
                ideal.figure("iron_loss_rotor"));
    }
    void winding_question_agrees_with_the_layout() {
        const Answer a = answer_to("winding", {});
        CLOSE(*a.figure("winding_factor"), 0.9330127018922193, 1e-9);
        CLOSE(*a.figure("coils_per_phase"), 4, 0);
        CLOSE(*a.figure("slot_fill"), 0.4, 1e-9);
        QVERIFY(*a.figure("phase_resistance") > 0);
        QCOMPARE(a.effort.solves, 0);
        QVERIFY(std::abs(mean(a.curve("mmf")->y)) < 1e-9);
    }
    void threads_do_not_change_the_answer() {
        const auto one = answer_to("cogging", {}, {{"points", "8"}}, Quality::Normal, 1),
                   two = answer_to("cogging", {}, {{"points", "8"}}, Quality::Normal, 2);
        for (std::size_t k = 0; k < 8; ++k) CLOSE(one.curve("torque")->y[k], two.curve("torque")->y[k], 0);
    }
    void stopping_is_prompt_and_says_so() {
        std::stop_source source;
        Ask ask;
        ask.with = {{"points", "1000"}};
        Run run;
        run.watch.stop = source.get_token();
        std::atomic<int> reports = 0;
        run.watch.progress = [&](int, int total) {
            if (total == 499 && ++reports == 3) source.request_stop();
        };
        const auto answer = ask_question("cogging", ask, run);
        QVERIFY(!answer && is_stopped(answer.problems()));
        QVERIFY(reports < 20);
    }
    void wrong_inputs_get_a_sentence() {
        Ask ask;
        for (const auto& [key, text, word] : std::vector<std::tuple<const char*, const char*, const char*>>{
                 {"points", "7.5", "whole"},
                 {"points", "1", "outside"},
                 {"points", "many", "not a number"},
                 {"colour", "blue", "no such input"},
                 {"points", "4 mm", "wanted here"}}) {
            ask.with = {{key, text}};
            const auto answer = ask_question("cogging", ask);
            QVERIFY(!answer);
            QVERIFY2(to_string(answer.problems().front()).find(word) != std::string::npos,
                     to_string(answer.problems().front()).c_str());
        }
        ask.with.clear();
        QVERIFY(!ask_question("weather", ask));
        ask.design = design_of({{"stator.slot.kind", "none"}});
        const auto smooth = ask_question("load", ask);
        QVERIFY(!smooth && smooth.problems().front().sentence.find("winding") != std::string::npos);
    }
    void answers_survive_their_file() {
        Answer a = answer_to("load", {}, {{"points", "8"}});
        const auto back = answer_from_json(answer_to_json(a));
        QVERIFY(bool(back));
        QVERIFY(*back == a);
        QVERIFY(!answer_from_json("{\"question\": 3"));
        QVERIFY(!answer_from_json("{}"));
        const QString csv = QString::fromStdString(answer_to_csv(a));
        QVERIFY(csv.contains(QStringLiteral("# figure,torque_mean,")) &&
                csv.contains(QStringLiteral("rotor_angle [deg],torque [N.m],flux_linkage_u [Wb]")));
        a.figures.push_back({"nothing", std::nullopt, "1"});
        QVERIFY(QString::fromStdString(answer_to_csv(a)).contains(QStringLiteral("# figure,nothing,,1")));
    }
    void the_key_depends_on_what_matters_alone() {
        Ask ask, same, other;
        same.design.texts["gap"] = "1.0 mm"; // the standard, written otherwise
        other.design.texts["gap"] = "1.01 mm";
        QCOMPARE(answer_key("cogging", ask), answer_key("cogging", same));
        QVERIFY(answer_key("cogging", ask) != answer_key("cogging", other));
        QVERIFY(answer_key("cogging", ask) != answer_key("no-load", ask));
        same.with["points"] = "61";
        QVERIFY(answer_key("cogging", ask) != answer_key("cogging", same));
        Ask unused = ask;
        unused.design.texts["stator.slot.body_angle"] = "17 deg"; // not used by the parallel tooth
        QCOMPARE(answer_key("cogging", ask), answer_key("cogging", unused));
    }
};
MAVLO_TEST(questions, TestQuestions, Nothing)
#include "test_questions.moc"
