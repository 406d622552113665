// Newton's method where it is hard: far beyond the rating, steep knees, kinked curves; and what a long sweep
// costs.

#include "field/solver.h"
#include "figure/park.h"
#include "question/sweep.h"
#include "support.h"
#include "test_program.h"

#include <fstream>
#include <unistd.h>

using namespace mavlo;

namespace {

Machine with_steel(const std::vector<BhPoint>& points) {
    Machine m = machine_of({});
    for (Substance& s : m.substances)
        if (s.material.kind == MaterialKind::Steel) s.material.curve = *BhCurve::through(points);
    return m;
}

double resident_megabytes() {
    std::ifstream source("/proc/self/statm");
    double all = 0, resident = 0;
    source >> all >> resident;
    return resident * double(sysconf(_SC_PAGESIZE)) / 1e6;
}

} // namespace

class TestRobustness : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void hard_curves_data() {
        QTest::addColumn<std::vector<BhPoint>>("points");
        // Steel that is nearly ideal up to its knee and nearly air behind it.
        QTest::newRow("steep knee") << std::vector<BhPoint>{{50, 1.5}, {60, 1.52}, {400000, 2.02}};
        QTest::newRow("knee in one row") << std::vector<BhPoint>{{100, 1.9}, {200000, 2.1}};
        QTest::newRow("kinked") << std::vector<BhPoint>{{100, 0.3},  {105, 0.6},  {400, 0.7},   {410, 1.1},
                                                        {2000, 1.2}, {2020, 1.6}, {90000, 1.7}, {90100, 1.9}};
        QTest::newRow("slow start") << std::vector<BhPoint>{{1000, 0.01}, {1100, 1.2}, {20000, 1.8}};
        QTest::newRow("already air") << std::vector<BhPoint>{{1000, 0.0013}, {100000, 0.127}};
    }
    void hard_curves() {
        QFETCH(std::vector<BhPoint>, points);
        const auto model = prepare_field(with_steel(points), {Quality::Draft});
        QVERIFY(bool(model));
        for (double current : {0.0, 10.0, 200.0}) {
            FieldSolver solver(*model);
            const auto cold = solver.solve(0.1, {current, -current / 2, -current / 2});
            if (!cold) QFAIL(cold.problems().front().sentence.c_str());
            const auto far = solver.solve(0.9, {-3 * current, current, 2 * current});
            if (!far) QFAIL(far.problems().front().sentence.c_str());
            const auto warm = solver.solve(0.1, {current, -current / 2, -current / 2}, &*far);
            QVERIFY(bool(warm));
            CLOSE(warm->torque, cold->torque, 1e-4 * (std::abs(cold->torque) + 1));
        }
    }
    void twenty_times_the_rating_from_nothing() {
        const Machine m = machine_of({});
        const auto model = *prepare_field(m);
        for (double factor : {1.0, 5.0, 20.0})
            for (double advance : {-90.0, 0.0, 45.0, 90.0}) {
                const Dq current = current_vector(factor * m.rating.current, advance * std::numbers::pi / 180);
                const auto field = FieldSolver(model).solve(
                    0.05, to_phases(current, electrical_angle(m, 0.05), m.winding.layout.lags));
                if (!field) QFAIL(field.problems().front().sentence.c_str());
                QVERIFY(field->newton_steps < 60);
            }
    }
    void any_scale_converges_alike() {
        // A machine ten times as small or large: the stopping rule is free of scale.
        std::vector<double> torque_per_volume;
        for (double scale : {0.1, 1.0, 10.0}) {
            auto mm = [scale](double x) { return std::to_string(x * scale) + " mm"; };
            const Machine m = machine_of(design_of({{"stator.outer_diameter", mm(120)},
                                                    {"stator.bore_diameter", mm(70)},
                                                    {"machine.stack_length", mm(50)},
                                                    {"gap", mm(1)},
                                                    {"stator.slot.opening", mm(3)},
                                                    {"stator.slot.depth", mm(16)},
                                                    {"stator.slot.tip_depth", mm(1.5)},
                                                    {"stator.slot.tooth_width", mm(8)},
                                                    {"stator.slot.corner_radius", mm(1)},
                                                    {"rotor.shaft_diameter", mm(20)},
                                                    {"rotor.magnet.thickness", mm(4)}}));
            const auto model = *prepare_field(m);
            const auto field = FieldSolver(model).solve(0.03, {});
            QVERIFY(bool(field));
            torque_per_volume.push_back(field->torque / (scale * scale * scale));
        }
        CLOSE(torque_per_volume[0] / torque_per_volume[1], 1, 1e-3);
        CLOSE(torque_per_volume[2] / torque_per_volume[1], 1, 1e-3);
    }
    void the_gap_and_virtual_work_agree_under_load() {
        const Machine m = machine_of({});
        const auto model = *prepare_field(m);
        double peak = 0, worst = 0;
        FieldSolver solver(model);
        for (double current : {10.0, 60.0})
            for (int i = 0; i < 6; ++i) {
                const double angle = 0.011 + 0.05 * i, step = 1e-5;
                const PhaseValues phases =
                    to_phases(current_vector(current, 0.4), electrical_angle(m, angle), m.winding.layout.lags);
                const auto at = solver.solve(angle, phases), less = solver.solve(angle - step, phases, &*at),
                           more = solver.solve(angle + step, phases, &*at);
                QVERIFY(at && less && more);
                peak = std::max(peak, std::abs(at->torque));
                worst = std::max(worst, std::abs(at->torque - (more->coenergy - less->coenergy) / (2 * step)));
            }
        qInfo("largest difference: %.1e of the peak", worst / peak);
        QVERIFY(worst < 1e-3 * peak);
    }
    void energy_and_coenergy_share_the_sources_work() {
        // Linear iron, no magnets: energy and coenergy are both half of sum(i psi).
        const auto model =
            *prepare_field(machine_of(design_of({{"stator.steel", "linear(1000)"},
                                                 {"rotor.steel", "linear(1000)"},
                                                 {"rotor.magnet.grade", "magnet(0.000001 T, 1)"}})));
        const auto field = FieldSolver(model).solve(0.1, {30, -10, -20});
        QVERIFY(bool(field));
        double work = 0;
        for (std::size_t k = 0; k < 3; ++k) work += field->current[k] * field->flux_linkage[k] / 2;
        CLOSE(field->energy, work, 1e-5 * work);
        CLOSE(field->coenergy, work, 1e-5 * work);
    }
    void a_long_sweep_keeps_nothing_but_its_results() {
#if defined(__SANITIZE_THREAD__) || defined(__SANITIZE_ADDRESS__)
        QSKIP("the sanitizer keeps books of its own");
#endif
        const auto model = *prepare_field(machine_of(design_of({{"stator.slots", "9"},
                                                                {"rotor.poles", "6"},
                                                                {"stator.steel", "linear(1000)"},
                                                                {"rotor.steel", "linear(1000)"}})),
                                          {Quality::Draft, 3});
        std::vector<Position> positions;
        for (int i = 0; i < 10000; ++i) positions.push_back({1e-3 * i, {}});
        const std::vector<Position> some(positions.begin(), positions.begin() + 1000);
        QVERIFY(bool(sweep(model, some, 2, {})));
        const double before = resident_megabytes();
        const auto results = sweep(model, positions, 2, {});
        QVERIFY(bool(results));
        const double grown = resident_megabytes() - before,
                     kept = double(results->size() * sizeof(PositionResult)) / 1e6;
        qInfo("grown by %.2f MB, results %.2f MB", grown, kept);
        QVERIFY(grown < kept + 2);
    }
};

MAVLO_TEST(robustness, TestRobustness, Nothing)
#include "test_robustness.moc"
