// Torque over speed on a bridge, with a map of constant inductances brought along.

#include "project/project.h"
#include "quantity/constants.h"
#include "question/constant_map.h"
#include "support.h"
#include "test_program.h"

#include <fmt/format.h>

using namespace mavlo;

namespace {

constexpr double linkage = 0.05, inductance = 0.4e-3, most = 400;
constexpr int pairs = 4;

Result<Answer> asked(const char* question, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = new_project("surface")->variants.front().design;
    ask.design.texts["rotor.poles"] = "8";
    ask.design.texts["stator.slots"] = "12";
    ask.design.texts["winding.span"] = "auto";
    ask.with = std::move(with);
    ask.with.try_emplace("resistance", "50 mOhm");
    ask.quality = Quality::Draft;
    Run run;
    run.map = constant_map({linkage, inductance, inductance, pairs}, most);
    return ask_question(question, ask, run);
}

} // namespace

class TestTorqueSpeed : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void torque_falls_to_nothing_where_the_emf_meets_the_link() {
        const auto answer = asked("torque-speed", {{"dc_voltage", "60 V"}, {"speeds", "100:2000:100 rpm"}});
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        const Curve* torque = answer->curve("torque");
        QVERIFY(torque && torque->x.size() == 20);
        for (std::size_t k = 1; k < torque->y.size(); ++k) QVERIFY(torque->y[k] < torque->y[k - 1]);
        // Two phases in series: the line EMF's peak is sqrt(3) omega psi. Blocks end where its mean over their
        // 60 degrees, 3/pi of the peak, meets the voltage, a little below for what the shaft's own losses take.
        const double meets = 60 / (std::sqrt(3.0) * linkage * 3 / pi) / pairs * 30 / pi;
        const double no_load = *answer->figure("no_load_speed");
        QVERIFY2(no_load < 1.02 * meets && no_load > 0.9 * meets,
                 qPrintable(QStringLiteral("%1 of %2").arg(no_load).arg(meets)));
        QVERIFY(*answer->figure("stall_torque") > torque->y.front());
        QVERIFY(*answer->figure("best_efficiency") > 0.5 && *answer->figure("best_efficiency") < 1);
        // The shaft's power is torque times speed.
        const Curve* power = answer->curve("power");
        CLOSE(power->y[3], torque->y[3] * torque->x[3] * pi / 30, 1e-6 * power->y[3]);
        CLOSE(*answer->figure("max_power"), *std::max_element(power->y.begin(), power->y.end()), 1e-9);
    }
    void a_point_is_the_run_in_time() {
        const auto all =
            asked("torque-speed", {{"dc_voltage", "60 V"}, {"speeds", "500, 800 rpm"}, {"lead", "10 deg"}});
        const auto one = asked("in-time", {{"supply", "blocks"},
                                           {"dc_voltage", "60 V"},
                                           {"speed", "800 rpm"},
                                           {"lead", "10 deg"},
                                           {"points", "120"}});
        if (!all) QFAIL(to_string(all.problems().front()).c_str());
        if (!one) QFAIL(to_string(one.problems().front()).c_str());
        CLOSE(all->curve("current")->y[1], *one->figure("current_rms"), 1e-6 * *one->figure("current_rms"));
        // What the gap gives less what bearings and air take.
        QVERIFY(all->curve("torque")->y[1] <= *one->figure("torque_mean"));
        QVERIFY(all->curve("torque")->y[1] > 0.95 * *one->figure("torque_mean"));
    }
    void voltages_and_leads_make_a_family() {
        const auto answer = asked("torque-speed", {{"supply", "six-step"},
                                                   {"dc_voltage", "48, 60 V"},
                                                   {"lead", "20, 40 deg"},
                                                   {"speeds", "400, 700 rpm"}});
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        for (const char* name : {"torque_at_48_V_20_deg", "torque_at_60_V_40_deg", "efficiency_at_60_V_20_deg"})
            QVERIFY2(answer->curve(name), name);
        QVERIFY(answer->curve("torque_at_60_V_20_deg")->y[0] != answer->curve("torque_at_48_V_20_deg")->y[0]);
    }
    void wrong_inputs_get_a_sentence() {
        for (const auto& with : std::initializer_list<std::map<std::string, std::string>>{
                 {{"speeds", "0 rpm"}},
                 {{"supply", "rectifier"}},
                 {{"chop_current", "9 A"}, {"band", "0 A"}}}) {
            const auto answer = asked("torque-speed", with);
            QVERIFY(!answer && answer.problems().front().sentence.size() > 15);
        }
    }
};
MAVLO_TEST(torque_speed, TestTorqueSpeed, Nothing)
#include "test_torque_speed.moc"
