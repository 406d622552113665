// Forces in the gap: the torque again from its stress, waves that turn with the rotor, and no pull where a
// machine repeats.

#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QtTest>

using namespace mavlo;

namespace {

Answer forces(const Design& design) {
    Ask ask;
    ask.design = design;
    ask.quality = Quality::Draft;
    ask.with = {{"points", "48"}, {"space_orders", "30"}, {"time_orders", "8"}};
    auto answer = ask_question("gap-forces", ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

double wave(const Map& map, double space, double time) {
    for (std::size_t j = 0; j < map.y.size(); ++j)
        for (std::size_t i = 0; i < map.x.size(); ++i)
            if (map.x[i] == space && map.y[j] == time) return map.z[j][i];
    return -1;
}

} // namespace

class TestGapForces : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void torqueFromStress();
    void mainWaveTurnsWithTheRotor();
    void pullOfAnUnevenMachine();
};

/// Mean tangential stress times lever and surface is the field's own torque.
void TestGapForces::torqueFromStress() {
    const Design design =
        design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}, {"rating.current", "10 A"}});
    const Answer answer = forces(design);
    const Machine m = machine_of(design);
    const double r = m.middle_of_gap();
    const Curve& torque = *answer.curve("torque");
    double mean = 0;
    for (double t : torque.y) mean += t / double(torque.y.size());
    const double stress = wave(*answer.map("stress_tangential"), 0, 0);
    QVERIFY2(std::abs(stress * 2 * pi * r * r * m.stack_length / mean - 1) < 2e-3,
             qPrintable(QString::number(stress * 2 * pi * r * r * m.stack_length / mean)));
    QVERIFY(std::abs(*answer.figure("torque_mean") - mean) < 1e-9 * mean);
}

void TestGapForces::mainWaveTurnsWithTheRotor() {
    const Answer answer =
        forces(design_of({{"stator.slots", "36"}, {"rotor.poles", "6"}, {"rating.current", "0 A"}}));
    // Magnets of six poles pull with six periods, at twice the electrical frequency, forwards.
    QCOMPARE(*answer.figure("space_order_largest"), 6.0);
    QCOMPARE(*answer.figure("electrical_order_largest"), 2.0);
    const Map& map = *answer.map("stress_radial");
    QVERIFY(wave(map, 6, 2) > 20 * wave(map, 6, -2));
    QVERIFY(*answer.figure("rotor_pull_peak") < 1e-6);
}

/// Nine slots and eight poles repeat nowhere: under current the rotor is pulled aside.
void TestGapForces::pullOfAnUnevenMachine() {
    const Answer uneven = forces(
                     design_of({{"stator.slots", "9"}, {"rotor.poles", "8"}, {"rating.current", "10 A"}})),
                 even = forces(
                     design_of({{"stator.slots", "12"}, {"rotor.poles", "8"}, {"rating.current", "10 A"}}));
    QVERIFY(*uneven.figure("rotor_pull_peak") > 1);
    QVERIFY(*even.figure("rotor_pull_peak") < 1e-6 * *uneven.figure("rotor_pull_peak"));
}

MAVLO_TEST(gap_forces, TestGapForces, EventLoop)
#include "test_gap_forces.moc"
