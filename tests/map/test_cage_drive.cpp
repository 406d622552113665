// A cage on an inverter: what is chosen against all there is to choose from.

#include "circuit/induction_circuit.h"
#include "map/cage_drive.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double most_voltage = 230, most_current = 40, base = 50;

GivenCircuit circuit() {
    InductionElements e;
    e.r1 = 0.5;
    e.x1 = 1.1;
    e.xm = 30;
    e.rfe = 500;
    e.r2 = 0.4;
    e.x2 = 1.3;
    e.frequency = base;
    return {e, 2, 0};
}

struct Best {
    double torque = 0, loss = 1e300;
};

/// By brute force over rotor frequency and voltage.
Best all_of(GivenCircuit& machine, double speed, double wanted) {
    Best best;
    for (double fr = 0.1; fr < 20; fr *= 1.01)
        for (double v = 1; v <= most_voltage; v += 0.5) {
            const double f = speed / machine.synchronous_speed(1) + fr;
            const auto p = machine.at(v, f, fr / f);
            if (!p || p->current > most_current) continue;
            best.torque = std::max(best.torque, p->torque);
            if (std::abs(p->torque / wanted - 1) < 0.01)
                best.loss =
                    std::min(best.loss, (p->copper_stator + p->copper_rotor + p->iron) * wanted / p->torque);
        }
    return best;
}

} // namespace

class TestCageDrive : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_best_of_all_data() {
        QTest::addColumn<double>("rpm_of_shaft");
        QTest::newRow("slow") << 300.0;
        QTest::newRow("rated") << 1400.0;
        QTest::newRow("field weakening") << 3200.0;
    }
    void the_best_of_all() {
        QFETCH(double, rpm_of_shaft);
        GivenCircuit machine = circuit();
        const CageDrive drive(machine, most_voltage, most_current, base);
        const double speed = rpm_of_shaft * rpm;
        const auto strongest = drive.strongest(speed);
        QVERIFY(strongest && *strongest);
        const double half = (*strongest)->point.torque / 2;
        const Best all = all_of(machine, speed, half);
        CLOSE((*strongest)->point.torque / all.torque, 1, 0.01);
        QVERIFY((*strongest)->point.torque >= all.torque * 0.9999);
        QVERIFY((*strongest)->point.current <= most_current * (1 + 1e-5) &&
                (*strongest)->voltage <= most_voltage);
        const auto best = drive.best(half, speed, CageDrive::Aim::LeastLoss);
        QVERIFY(best && *best);
        CLOSE((*best)->point.torque / half, 1, 1e-4);
        CLOSE((*best)->loss() / all.loss, 1, 0.02);
        const auto least = drive.best(half, speed, CageDrive::Aim::LeastCurrent);
        QVERIFY((*least)->point.current <= (*best)->point.current * (1 + 1e-6));
        QVERIFY(!*drive.best(2.1 * half, speed, CageDrive::Aim::LeastLoss));
    }
    /// Where the voltage alone limits, the most torque is the pull-out's of one of the frequencies.
    void voltage_alone() {
        GivenCircuit machine = circuit();
        const CageDrive drive(machine, most_voltage, 1e9, base);
        const double speed = 3500 * rpm;
        const auto strongest = drive.strongest(speed);
        QVERIFY(strongest && *strongest);
        CLOSE((*strongest)->voltage, most_voltage, 1e-9);
        double most = 0;
        for (double fr = 0.2; fr < 20; fr += 0.01) {
            const double f = speed / machine.synchronous_speed(1) + fr;
            most = std::max(most, machine.at(most_voltage, f, fr / f)->torque);
        }
        CLOSE((*strongest)->point.torque / most, 1, 1e-4);
    }
    void as_a_generator() {
        GivenCircuit machine = circuit();
        const CageDrive drive(machine, most_voltage, most_current, base);
        const auto braking = drive.best(-20, 1400 * rpm, CageDrive::Aim::LeastLoss);
        QVERIFY(braking && *braking);
        CLOSE((*braking)->point.torque, -20, 1e-2);
        QVERIFY((*braking)->point.input < 0 && (*braking)->point.slip < 0);
        // At rest nothing brakes: a field that turned backward would only drive.
        QVERIFY(!*drive.best(-20, 0, CageDrive::Aim::LeastLoss));
    }
};
MAVLO_TEST(cage_drive, TestCageDrive, Nothing)
#include "test_cage_drive.moc"
