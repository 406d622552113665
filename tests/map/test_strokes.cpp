// Switched phases by their map: a linear machine against its closed forms, and the planner's choices against
// all that it could have chosen.

#include "map/ideal_stroke.h"
#include "map/stroke_planner.h"
#include "map/strokes.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// L = mean + swing cos(8 theta): eight rotor poles.
constexpr int poles = 8;
constexpr double mean_l = 20e-3, swing = 15e-3;

double inductance(double theta) {
    return mean_l + swing * std::cos(poles * theta);
}

LinkageGrid linear_grid(bool even = true) {
    LinkageGrid g;
    g.period = 2 * pi / poles;
    g.even = even;
    const int angles = even ? 31 : 60;
    for (int k = 0; k < angles; ++k)
        g.angle.push_back(even ? -g.period / 2 * (1 - double(k) / (angles - 1)) : g.period * k / angles);
    for (int k = 1; k <= 8; ++k) g.current.push_back(5.0 * k);
    const auto rows = Eigen::Index(g.current.size()), columns = Eigen::Index(g.angle.size());
    g.coenergy = g.linkage = g.torque = Eigen::MatrixXd(rows, columns);
    for (Eigen::Index j = 0; j < rows; ++j)
        for (Eigen::Index k = 0; k < columns; ++k) {
            const double i = g.current[std::size_t(j)], t = g.angle[std::size_t(k)];
            g.linkage(j, k) = inductance(t) * i;
            g.coenergy(j, k) = inductance(t) * i * i / 2;
            g.torque(j, k) = -poles * swing * std::sin(poles * t) * i * i / 2;
        }
    return g;
}

const LinkageMap& map() {
    static const LinkageMap all(linear_grid());
    return all;
}

StrokeDrive drive_at(double rpm) {
    StrokeDrive d;
    d.bridge.dc = 200;
    d.phases = 3;
    d.periods = poles;
    d.resistance = 0.3;
    d.speed = rpm * pi / 30;
    d.stroke.turn_on = -20 * degree;
    d.stroke.turn_off = -6 * degree;
    return d;
}

StrokePeriod period_of(const StrokeDrive& drive) {
    auto period = run_strokes(map(), drive);
    if (!period) qFatal("%s", to_string(period.problems().front()).c_str());
    return *period;
}

Machine machine() {
    return machine_of({});
}

} // namespace

class TestStrokes : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void maps_meet_their_machine_data() {
        QTest::addColumn<bool>("even");
        QTest::newRow("half a period") << true;
        QTest::newRow("a whole one") << false;
    }
    void maps_meet_their_machine() {
        QFETCH(bool, even);
        const LinkageMap all(linear_grid(even));
        for (double t = -0.5; t < 0.5; t += 0.0171)
            for (double i : {0.5, 7.0, 22.0, 39.0}) {
                const auto p = all.at(t, i);
                CLOSE(p.linkage, inductance(t) * i, 2e-4 * mean_l * i);
                CLOSE(p.inductance, inductance(t), 2e-4 * mean_l);
                CLOSE(p.torque, -poles * swing * std::sin(poles * t) * i * i / 2, 3e-3 * poles * swing * i * i);
                CLOSE(p.coenergy, inductance(t) * i * i / 2, 2e-4 * mean_l * i * i);
                CLOSE(p.slope, -poles * swing * std::sin(poles * t) * i, 3e-3 * poles * swing * i);
                CLOSE(all.current_of(t, p.linkage), i, 1e-6 * i);
            }
        QCOMPARE(all.largest_current(), 40.0);
    }
    void beyond_the_largest_current_the_linkage_rises_on() {
        for (double t : {-0.3, 0.0, 0.11}) {
            const auto p = map().at(t, 60);
            CLOSE(p.linkage, inductance(t) * 60, 1e-3 * mean_l * 60);
            CLOSE(map().current_of(t, p.linkage), 60, 1e-4);
        }
    }
    void linkage_and_torque_are_slopes_of_one_function() {
        const double h = 1e-5;
        for (double t : {-0.31, -0.1, 0.05, 0.27})
            for (double i : {3.0, 18.0, 33.0}) {
                const auto p = map().at(t, i);
                CLOSE(p.linkage, (map().at(t, i + h).coenergy - map().at(t, i - h).coenergy) / (2 * h), 1e-6);
                CLOSE(p.torque, (map().at(t + h, i).coenergy - map().at(t - h, i).coenergy) / (2 * h), 1e-4);
            }
    }
    void splines_have_the_slopes_of_smooth_waves() {
        std::vector<double> x, level, periodic;
        for (int k = 0; k <= 24; ++k) {
            x.push_back(pi * k / 24);
            level.push_back(std::cos(2 * x.back()));
        }
        const auto slopes = spline_slopes(x, level, SplineEnds::Level);
        for (std::size_t k = 0; k < x.size(); ++k) CLOSE(slopes[k], -2 * std::sin(2 * x[k]), 2e-3);
        for (double v : x) periodic.push_back(std::sin(2 * v + 0.4));
        const auto round = spline_slopes(x, periodic, SplineEnds::Periodic);
        for (std::size_t k = 0; k < x.size(); ++k) CLOSE(round[k], 2 * std::cos(2 * x[k] + 0.4), 2e-3);
    }
    void a_phase_without_resistance_links_the_voltage_s_time() {
        StrokeDrive drive = drive_at(1500);
        drive.resistance = 0;
        const StrokePeriod period = period_of(drive);
        QVERIFY(period.periodic);
        const StrokeFigures f = stroke_figures(period, drive);
        // Up with +U from turn-on to turn-off, down with -U as long again.
        const double width = drive.stroke.turn_off - drive.stroke.turn_on;
        CLOSE(f.linkage_peak, 200 * width / drive.speed, 2e-4);
        CLOSE(f.extinction, drive.stroke.turn_off + width, 0.3 * degree);
        for (const NetworkSample& s : period.samples) {
            const double theta = s.rotor.angle / poles,
                         since = s.rotor.angle - period.samples.front().rotor.angle;
            const double at = drive.stroke.turn_on + since / poles;
            const double psi =
                at < drive.stroke.turn_off
                    ? 200 * (at - drive.stroke.turn_on) / drive.speed
                    : std::max(0.0, f.linkage_peak - 200 * (at - drive.stroke.turn_off) / drive.speed);
            CLOSE(s.linkage[0], psi, 1e-3 * f.linkage_peak);
            CLOSE(stroke_current(s), psi / inductance(theta), 5e-3 * f.current_peak);
        }
        CLOSE(f.copper, 0, 1e-12);
        CLOSE(f.input_power, f.torque_mean * drive.speed, 5e-3 * f.input_power);
    }
    /// On for more than half a period the current never ends: in the steady state the mean voltage is R times
    /// the mean current, which a period's change alone says too early.
    void a_current_that_never_ends_is_found_steady() {
        StrokeDrive drive = drive_at(3000);
        const double period_angle = 2 * pi / poles, on = 0.58 * period_angle;
        drive.bridge.dc = 60;
        drive.stroke.turn_on = -on / 2;
        drive.stroke.turn_off = on / 2;
        const StrokePeriod period = period_of(drive);
        QVERIFY(period.periodic);
        const StrokeFigures f = stroke_figures(period, drive);
        QVERIFY(stroke_current(period.samples.front()) > 0.2 * f.current_peak);
        CLOSE(drive.resistance * f.current_mean / (60 * (2 * on / period_angle - 1)), 1, 5e-3);
    }
    void the_loop_s_area_is_the_torque_data() {
        QTest::addColumn<double>("rpm");
        QTest::addColumn<int>("chopping");
        QTest::newRow("single pulse") << 3000.0 << int(Chopping::Single);
        QTest::newRow("soft") << 400.0 << int(Chopping::Soft);
        QTest::newRow("hard") << 400.0 << int(Chopping::Hard);
    }
    void the_loop_s_area_is_the_torque() {
        QFETCH(double, rpm);
        QFETCH(int, chopping);
        StrokeDrive drive = drive_at(rpm);
        drive.bridge.switch_drop = 1.2;
        drive.bridge.diode_drop = 0.9;
        drive.bridge.switch_resistance = drive.bridge.diode_resistance = 5e-3;
        drive.stroke.chopping = Chopping(chopping);
        drive.stroke.low = 9;
        drive.stroke.high = 10;
        const StrokePeriod period = period_of(drive);
        const StrokeFigures f = stroke_figures(period, drive);
        // Strokes a turn times their energy is the torque's work of a turn.
        CLOSE(f.energy * drive.phases * poles / (2 * pi) / f.torque_mean, 1, 3e-3);
        const double out = f.torque_mean * drive.speed + f.copper + f.switches + f.diodes;
        CLOSE(f.input_power / out, 1, 5e-3);
        CLOSE((f.energy_in - f.energy_back) * drive.phases * poles * drive.speed / (2 * pi) / f.input_power, 1,
              2e-3);
        CLOSE(f.dc_current_mean * 200, f.input_power, 1e-9);
        QVERIFY(f.torque_peak_to_peak > 0 && f.energy_back > 0);
        if (drive.stroke.chopping == Chopping::Single) {
            QCOMPARE(period.switchings, 0);
            return;
        }
        CLOSE(f.current_peak, 10, 0.02);
        QVERIFY(period.switchings > 4);
        // Opening both switches brings the current down faster: it switches more often.
        StrokeDrive other = drive;
        other.stroke.chopping = Chopping::Hard;
        QVERIFY(period_of(other).switchings >= period.switchings);
    }
    void an_ideal_stroke_is_a_narrow_band() {
        StrokeDrive drive = drive_at(500);
        drive.stroke.chopping = Chopping::Hard;
        drive.stroke.low = 9.96;
        drive.stroke.high = 10.04;
        const StrokeFigures chopped = stroke_figures(period_of(drive), drive);
        const IdealStroke ideal = ideal_stroke(map(), drive, 10);
        QVERIFY(ideal.periodic);
        CLOSE(ideal.torque_mean / chopped.torque_mean, 1, 0.01);
        CLOSE(ideal.current_rms / chopped.current_rms, 1, 0.01);
        CLOSE(ideal.copper / chopped.copper, 1, 0.02);
        CLOSE(ideal.input / chopped.input_power, 1, 0.02);
        CLOSE(ideal.current_peak, 10, 1e-3);
    }
    void without_a_limit_it_is_the_single_pulse() {
        const StrokeDrive drive = drive_at(2500);
        const StrokeFigures pulse = stroke_figures(period_of(drive), drive);
        const IdealStroke ideal = ideal_stroke(map(), drive, 1000);
        CLOSE(ideal.torque_mean / pulse.torque_mean, 1, 5e-3);
        CLOSE(ideal.current_peak / pulse.current_peak, 1, 5e-3);
        CLOSE(ideal.input - ideal.copper, ideal.torque_mean * drive.speed, 5e-3 * ideal.input);
        CLOSE(ideal.ripple(3) / pulse.torque_peak_to_peak, 1, 0.02);
    }
    void the_other_side_of_alignment_brakes() {
        StrokeDrive drive = drive_at(1500);
        drive.stroke.turn_on = 0;
        drive.stroke.turn_off = 8 * degree;
        const StrokeFigures f = stroke_figures(period_of(drive), drive);
        QVERIFY(f.torque_mean < 0 && f.energy < 0);
        QVERIFY(f.energy_back > f.energy_in);
        QVERIFY(f.dc_current_mean < 0);
    }
    void phases_follow_each_other() {
        // Of a wave with orders 1 and 3 three phases keep the third.
        std::vector<double> angle, value;
        for (int k = 0; k <= 720; ++k) {
            angle.push_back(2 * pi * k / 720);
            value.push_back(1 + std::cos(angle.back()) + 0.25 * std::cos(3 * angle.back()));
        }
        const StrokeWave wave(angle, value);
        for (double t : {0.1, 1.7, 4.0, -9.3}) {
            CLOSE(torque_of_phases(wave, t, 3), 3 + 0.75 * std::cos(3 * t), 1e-4);
            CLOSE(wave.at(t), 1 + std::cos(t) + 0.25 * std::cos(3 * t), 1e-4);
        }
        CLOSE(ripple_of_phases(wave, 3, 1440), 1.5, 1e-4);
        const StrokeWave steps({0, 1, 2, 2 * pi}, {5, 7, 9, 5});
        QCOMPARE(steps.step_at(0.9), 5.0);
        QCOMPARE(steps.step_at(1.1), 7.0);
        QCOMPARE(steps.step_at(1.1 + 2 * pi), 7.0);
    }
    void plans_hold_the_best_data() {
        QTest::addColumn<int>("sign");
        QTest::newRow("motor") << 1;
        QTest::newRow("generator") << -1;
    }
    void plans_hold_the_best() {
        QFETCH(int, sign);
        const Machine m = machine();
        const StrokePlanner planner(m, map(), drive_at(1000), StrokeIron(), 30, Aim::LeastLoss);
        const StrokePlan plan = planner.plan(900 * pi / 30, sign);
        QVERIFY(!plan.points.empty());
        const auto strongest = planner.strongest(plan, sign);
        QVERIFY(strongest);
        for (const auto& pair : plan.points)
            for (std::size_t k = 0; k < pair.size(); ++k) {
                QVERIFY(sign * pair[k].torque <= sign * strongest->torque + 1e-9);
                QVERIFY(pair[k].current_peak <= 30 * 1.01);
            }
        const double torque = 0.4 * strongest->torque;
        const auto best = planner.best(plan, torque);
        QVERIFY(best);
        CLOSE(best->torque / torque, 1, 5e-3);
        // No planned point of this torque or more loses less by far.
        for (const auto& pair : plan.points)
            for (const StrokePoint& p : pair)
                if (sign * p.torque >= sign * torque)
                    QVERIFY(p.power.known(LossPart::Copper) > 0.97 * best->power.known(LossPart::Copper));
        QVERIFY(!planner.best(plan, 3 * strongest->torque));
        // Where the ripple is what counts, it is less.
        const StrokePlanner calm(m, map(), drive_at(1000), StrokeIron(), 30, Aim::LeastRipple);
        const auto smooth = calm.best(plan, torque);
        QVERIFY(smooth);
        QVERIFY(smooth->ripple <= best->ripple * (1 + 1e-6));
    }
    void faster_turning_leaves_less_torque() {
        const Machine m = machine();
        const StrokePlanner planner(m, map(), drive_at(1000), StrokeIron(), 30, Aim::LeastLoss);
        double before = 1e300;
        for (double rpm : {500.0, 1500.0, 3000.0, 6000.0}) {
            const auto plan = planner.plan(rpm * pi / 30, 1);
            const auto strongest = planner.strongest(plan, 1);
            QVERIFY(strongest);
            QVERIFY(strongest->torque <= before * (1 + 1e-3));
            before = strongest->torque;
        }
    }
    void iron_goes_with_the_flux_it_was_solved_for() {
        StrokeDrive drive = drive_at(2000);
        const StrokePeriod solved = period_of(drive);
        FieldLosses losses;
        losses.stator.hysteresis = 0.02;
        losses.stator.classical = 1e-4;
        losses.rotor.hysteresis = 0.01;
        losses.rotor.classical = 2e-4;
        const StrokeIron iron(solved, losses);
        const double f = poles * drive.speed / (2 * pi);
        const auto [stator, rotor] = iron.at(ideal_stroke(map(), drive, 1000), f);
        CLOSE(stator / losses.stator.at(f), 1, 0.02);
        CLOSE(rotor / losses.rotor.at(f), 1, 0.02);
        // Half the voltage is half the flux: a quarter of it all.
        drive.bridge.dc /= 2;
        drive.resistance /= 2;
        const auto [less, other] = iron.at(ideal_stroke(map(), drive, 1000), f);
        CLOSE(less / stator, 0.25, 0.02);
        CLOSE(other / rotor, 0.25, 0.02);
        const auto [none, neither] = StrokeIron().at(ideal_stroke(map(), drive, 1000), f);
        QCOMPARE(none + neither, 0.0);
    }
};

MAVLO_TEST(strokes, TestStrokes, EventLoop)
#include "test_strokes.moc"
