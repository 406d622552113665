// Turning the rotor leaves no trace of the mesh: smooth curves, the orders that slots and poles allow, no
// torque of a smooth stator.

#include "figure/sample.h"
#include "figure/spectrum.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "question/sweep.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

std::vector<double> torque_over(const std::shared_ptr<const MachineModel>& model, double range, int points) {
    std::vector<Position> positions;
    for (int i = 0; i < points; ++i) positions.push_back({range * i / points, {}});
    const auto results = sweep(model, positions, 0, {});
    if (!results) qFatal("%s", results.problems().front().sentence.c_str());
    std::vector<double> torque;
    for (const auto& r : *results) torque.push_back(r.torque);
    return torque;
}

} // namespace

class TestRotation : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void cogging_is_smooth() {
        constexpr int points = 1000;
        const Machine m = machine_of({});
        const auto torque = torque_over(*prepare_field(m), 2 * pi / m.symmetry.cogging_periods, points);
        const double swing = peak_to_peak(torque);
        const auto waves = harmonics(torque);
        double high = 0;
        for (std::size_t k = 13; k < waves.size(); ++k) high += std::abs(waves[k]);
        qInfo("waves above the 12th: %.1e of the swing", high / swing);
        QVERIFY(high < 0.002 * swing);
        // A step from one angle to the next would stand out of the second differences by its whole height.
        double steepest = 0;
        for (std::size_t i = 0; i < points; ++i)
            steepest = std::max(steepest, std::abs(torque[(i + 1) % points] - 2 * torque[i] +
                                                   torque[(i + points - 1) % points]));
        double allowed = 0; // of the smooth curve itself
        for (std::size_t k = 1; k <= 12; ++k)
            allowed += std::abs(waves[k]) * std::pow(2 * pi * double(k) / points, 2);
        qInfo("largest second difference: %.2f of the smooth curve's bound", steepest / allowed);
        QVERIFY(steepest < 2 * allowed);
    }
    void a_whole_turn_holds_only_the_orders_of_slots_and_poles() {
        constexpr int points = 480; // eight on each cogging period of 12 slots and 10 poles
        MachineOptions whole;
        whole.whole = true;
        const auto torque =
            torque_over(*prepare_field(machine_of({}, whole), {Quality::Draft}), 2 * pi, points);
        const auto waves = harmonics(torque);
        double largest = 0, worst = 0;
        for (std::size_t k = 1; k < waves.size(); ++k) {
            double& kind = k % 60 == 0 ? largest : worst;
            kind = std::max(kind, std::abs(waves[k]));
        }
        qInfo("largest wave of another order: %.1e of the cogging wave", worst / largest);
        QVERIFY(worst < 1e-3 * largest);
    }
    void a_smooth_stator_has_no_torque() {
        const Machine m =
            machine_of(design_of({{"stator.slot.kind", "none"}, {"rotor.magnet.magnetisation", "parallel"}}));
        const auto model = *prepare_field(m);
        FieldSolver solver(model);
        const auto first = solver.solve(0, {});
        QVERIFY(bool(first));
        const double b = rms(model->gap().ring(gap_traces(*model, *first), m.middle_of_gap(), 1024).radial);
        const double radius = m.middle_of_gap(),
                     pull = 2 * pi * radius * m.stack_length * b * b / (2 * mu0) * radius;
        FieldSolution last = *first;
        double worst = 0;
        for (int i = 0; i < 200; ++i) {
            const auto field = solver.solve(0.0137 * i + 0.00071 * i * i, {}, &last);
            QVERIFY(bool(field));
            worst = std::max(worst, std::abs(field->torque) / pull);
            last = *field;
        }
        qInfo("largest torque: %.1e of the pull times the radius", worst);
        QVERIFY(worst < 1e-6);
    }
};
MAVLO_TEST(rotation, TestRotation, Nothing)
#include "test_rotation.moc"
