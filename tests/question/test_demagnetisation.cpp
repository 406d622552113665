// Currents that endanger the magnets: the steady and the sudden short circuit, and what they take away.

#include "figure/magnet_line.h"
#include "map/map_machine.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/constant_map.h"
#include "question/question.h"
#include "question/sudden_short.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double linkage = 0.05, inductance = 2e-3, most = linkage / inductance;

Machine with_magnets() {
    return machine_of(new_project("surface-distributed")->variants.front().design);
}

SuddenShort shorted(double resistance, Dq before, double speed = 300, double ld = inductance,
                    double lq = inductance, Fault fault = Fault::ThreePhase) {
    const Machine machine = with_magnets();
    const auto map = constant_map({linkage, ld, lq, machine.pole_pairs()}, 3 * most);
    const MapMachine phases{PositionMap(*map)};
    const auto found = sudden_short_circuit(phases, fault_circuit(fault, false, resistance),
                                            machine.pole_pairs(), {speed, 0, before}, {});
    if (!found) qFatal("%s", to_string(found.problems().front()).c_str());
    return *found;
}

Answer asked(std::map<std::string, std::string> with, double kelvin_above = 0) {
    Ask ask;
    ask.design = new_project("surface-distributed")->variants.front().design;
    if (kelvin_above > 0)
        ask.design.texts["rotor.magnet.temperature"] = std::to_string(20 + kelvin_above) + " degC";
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    auto answer = ask_question("demagnetisation", ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

} // namespace

class TestDemagnetisation : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Without resistance the flux linkage stays where it was while the magnets turn on: the vector circles
    /// about the steady one, through where it began.
    void without_resistance_it_swings_to_twice_the_steady_current() {
        const SuddenShort none = shorted(0, {});
        CLOSE(none.worst.d / most, -2, 1e-4);
        CLOSE(none.worst.q / most, 0, 2e-2);
        const Machine machine = with_magnets();
        CLOSE(none.time * machine.pole_pairs() * 300 / pi, 1, 1e-2);
    }
    void a_load_before_makes_it_worse() {
        const SuddenShort loaded = shorted(0, {0, 0.8 * most});
        CLOSE(loaded.worst.d / most, -1 - std::hypot(1, 0.8), 1e-4);
        // A current along -d before leaves less linkage to be held.
        const SuddenShort weakened = shorted(0, {-0.5 * most, 0});
        CLOSE(weakened.worst.d / most, -1.5, 1e-4);
    }
    void saliency_sets_how_far_it_swings_across() {
        // Along d it still goes to twice the steady current: the linkage of d swings between its two ends.
        const SuddenShort salient = shorted(0, {}, 300, inductance, 2 * inductance);
        CLOSE(salient.worst.d / most, -2, 1e-3);
    }
    void two_phases_go_as_far_along_d() {
        // i_d = psi/L (cos phi_0 - cos phi) cos phi
        const SuddenShort two = shorted(0, {}, 300, inductance, inductance, Fault::TwoPhase);
        CLOSE(two.worst.d / most, -2, 1e-3);
    }
    void resistance_damps_it() {
        const double omega = 300.0 * with_magnets().pole_pairs(), ohms = 0.2 * omega * inductance;
        const SuddenShort damped = shorted(ohms, {});
        QVERIFY(damped.worst.d > -2 * most && damped.worst.d < -most);
        // What is left is the steady short circuit: E / |R + j omega L|, mostly along -d.
        const double x = omega * inductance, z2 = ohms * ohms + x * x, e = omega * linkage;
        CLOSE(damped.steady.d / (-e * x / z2), 1, 1e-3);
        CLOSE(damped.steady.q / (-e * ohms / z2), 1, 5e-3);
    }
    void the_sudden_one_takes_more_than_the_steady_one() {
        const Answer steady = asked({{"case", "short-circuit"}}),
                     sudden = asked({{"case", "sudden-short-circuit"}});
        const double ratio = *sudden.figure("current") / *steady.figure("current");
        QVERIFY2(ratio > 1.02 && ratio < 2.6, qPrintable(QString::number(ratio)));
        QVERIFY(*sudden.figure("instant") > 0);
        QVERIFY(!steady.figure("instant"));
        QVERIFY(*sudden.figure("flux_density_least") < *steady.figure("flux_density_least"));
        QVERIFY(*sudden.figure("share_lost") >= *steady.figure("share_lost"));
        QVERIFY(*sudden.figure("back_emf_left") <= *steady.figure("back_emf_left"));
    }
    void hot_magnets_lose_more() {
        const Answer cold = asked({{"case", "sudden-short-circuit"}}, 20),
                     hot = asked({{"case", "sudden-short-circuit"}}, 110);
        QVERIFY(*hot.figure("margin") < *cold.figure("margin"));
        QVERIFY(*hot.figure("share_lost") >= *cold.figure("share_lost"));
    }
    void a_given_current_is_taken_as_it_is() {
        const Answer answer = asked({{"case", "given"}, {"current", "7 A"}});
        CLOSE(*answer.figure("current"), 7, 1e-9);
        QVERIFY(!answer.figure("current_across"));
        // The curves are over that current, from none.
        const Curve& lost = *answer.curve("share_lost");
        CLOSE(lost.x.front(), 0, 0);
        for (std::size_t k = 1; k < lost.y.size(); ++k) QVERIFY(lost.y[k] >= lost.y[k - 1] - 1e-12);
    }
    void every_element_has_a_place_and_a_margin() {
        const Answer answer = asked({{"case", "given"}, {"current", "60 A"}}, 120);
        const Curve &margin = *answer.curve("magnet_margin"), &x = *answer.curve("magnet_place_x"),
                    &y = *answer.curve("magnet_place_y"), &area = *answer.curve("magnet_element_area");
        double lost = 0, all = 0;
        const Machine m = with_magnets();
        const double face = m.rotor_radius(), thick = m.values.number("rotor.magnet.thickness");
        for (std::size_t k = 0; k < margin.y.size(); ++k) {
            all += area.y[k];
            if (margin.y[k] < 0) lost += area.y[k];
            const double radius = std::hypot(x.y[k], y.y[k]);
            QVERIFY(radius < face && radius > face - 1.2 * thick);
            if (k > 0) QVERIFY(margin.y[k] <= margin.y[k - 1]); // the worst last
        }
        QVERIFY(*answer.figure("share_lost") > 0.02); // a current that hurts
        CLOSE(lost / all, *answer.figure("share_lost"), 1e-9);
    }
    void a_given_current_may_stand_at_any_angle() {
        const Answer along = asked({{"case", "given"}, {"current", "20 A"}}),
                     same = asked({{"case", "given"}, {"current", "20 A"}, {"advance", "90 deg"}}),
                     with = asked({{"case", "given"}, {"current", "20 A"}, {"advance", "-90 deg"}});
        CLOSE(*same.figure("flux_density_least"), *along.figure("flux_density_least"), 1e-6);
        QVERIFY(*with.figure("margin") > *along.figure("margin") + 1e-3);
    }
    void faults_of_some_terminals_are_followed_too() {
        for (const char* fault : {"sudden-two-phase", "sudden-phase-to-neutral"}) {
            const Answer a = asked({{"case", fault}});
            QVERIFY(*a.figure("current") > 0 && *a.figure("instant") > 0);
            QVERIFY(a.sentence.find("every position") != std::string::npos);
        }
    }
    /// What is left by measured curves: for the ellipse that stands for a grade without any, the same points
    /// as a measured curve withstand the fields that the ellipse says.
    void measured_curves_say_what_is_left() {
        Substance magnet;
        magnet.material.kind = MaterialKind::Magnet;
        MagnetData& data = magnet.material.magnet;
        data = {1.2, 1.05, 0, 9e5, 0, {}};
        const double mu = 1.05 * mu0;
        QVERIFY(MagnetLine::of(magnet).share.empty());
        // J falls from its recoil line at 6e5 A/m straight to zero at 9e5 A/m.
        const double h1 = 6e5, h2 = 9e5, j1 = 1.2 - (mu - mu0) * h1;
        data.curves = {{293.15, {{0, 1.2}, {-h1, j1}, {-h2, 0}}}};
        const MagnetLine line = MagnetLine::of(magnet);
        QVERIFY(!line.share.empty());
        for (double h : {6.5e5, 7e5, 8e5, 8.9e5}) {
            const double j = j1 * (h2 - h) / (h2 - h1), share = (j + (mu - mu0) * h) / 1.2;
            CLOSE(line.field_of(share) / h, 1, 5e-3);
            QVERIFY(line.slope_of(share) < 0);
        }
    }
    void what_cannot_be_is_said_data() {
        QTest::addColumn<QString>("shape");
        QTest::addColumn<QString>("key");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("says");
        QTest::newRow("standing") << "surface"
                                  << "speed"
                                  << "0 rpm"
                                  << "turns";
        QTest::newRow("no magnets") << "reluctance"
                                    << "speed"
                                    << "100 rpm"
                                    << "magnets";
        QTest::newRow("no such case") << "surface"
                                      << "case"
                                      << "slow"
                                      << "sudden-short-circuit";
    }
    void what_cannot_be_is_said() {
        QFETCH(QString, shape);
        QFETCH(QString, key);
        QFETCH(QString, value);
        QFETCH(QString, says);
        Ask ask;
        ask.design = new_project(shape.toStdString())->variants.front().design;
        ask.with = {{"case", "sudden-short-circuit"}};
        ask.with[key.toStdString()] = value.toStdString();
        ask.quality = Quality::Draft;
        const auto answer = ask_question("demagnetisation", ask);
        QVERIFY(!answer);
        QVERIFY2(QString::fromStdString(answer.problems().front().sentence).contains(says),
                 answer.problems().front().sentence.c_str());
    }
};
MAVLO_TEST(demagnetisation, TestDemagnetisation, EventLoop)
#include "test_demagnetisation.moc"
