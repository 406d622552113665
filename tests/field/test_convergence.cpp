// The error falls with the element size as the elements' order says, and the estimate of it is honest.

#include "figure/sample.h"
#include "figure/spectrum.h"
#include "question/discretisation.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// Energy per sector without current at an odd angle: the functional that the elements minimise.
double energy(const Machine& machine, double size) {
    const auto model = prepare_field(machine, {Quality::Normal, size});
    if (!model) qFatal("no mesh");
    return FieldSolver(*model).solve(0.013, {})->functional;
}

/// Order of the error between two sizes, against a much finer mesh.
double order_of_energy(const Machine& machine, double coarse, double fine, double finest) {
    const double exact = energy(machine, finest);
    return std::log(std::abs((energy(machine, coarse) - exact) / (energy(machine, fine) - exact))) /
           std::log(coarse / fine);
}

} // namespace

class TestConvergence : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void smooth_fields_converge_with_the_elements_order() {
        // A ring magnetised in one direction in a smooth stator: nothing but arcs and no corner anywhere, so
        // the energy's error falls with h^4.
        const Machine m = machine_of(design_of({{"stator.slot.kind", "none"},
                                                {"rotor.poles", "2"},
                                                {"stator.steel", "linear(1000)"},
                                                {"rotor.steel", "linear(1000)"},
                                                {"rotor.magnet.arc", "1"},
                                                {"rotor.magnet.magnetisation", "parallel"}}));
        const double order = order_of_energy(m, 0.5, 0.25, 0.125);
        qInfo("smooth: order %.2f", order);
        QVERIFY(order > 3);
    }
    void corners_leave_an_order_that_grading_makes_up_for() {
        // At a re-entrant corner of 90 degrees of steel the potential goes as r^(2/3) and the energy's error as
        // h^(4/3) on meshes of even size; graded ones do no worse.
        const Machine m = machine_of({});
        const double order = order_of_energy(m, 2, 1, 0.25);
        qInfo("with corners: order %.2f", order);
        QVERIFY(order > 1.3);
    }
    void the_estimate_holds_against_a_fine_mesh_data() {
        QTest::addColumn<QString>("question");
        QTest::addColumn<QString>("figure");
        QTest::newRow("cogging") << "cogging"
                                 << "cogging_peak_to_peak";
        QTest::newRow("torque") << "load"
                                << "torque_mean";
        QTest::newRow("flux linkage") << "load"
                                      << "flux_linkage_q";
        QTest::newRow("back-EMF") << "no-load"
                                  << "back_emf_phase_fundamental";
    }
    void the_estimate_holds_against_a_fine_mesh() {
        QFETCH(QString, question);
        QFETCH(QString, figure);
        const std::string name = figure.toStdString();
        Ask ask;
        ask.with = {{"points", "24"}};
        ask.with_error = true;
        const auto answer = ask_question(question.toStdString(), ask);
        ask.with_error = false;
        ask.quality = Quality::Fine;
        const auto fine = ask_question(question.toStdString(), ask);
        QVERIFY(answer && fine);
        QVERIFY(answer->has_errors() && !fine->has_errors());
        for (const Figure& f : answer->figures) {
            if (f.name != name) continue;
            QVERIFY(f.error.has_value());
            const double difference = std::abs(*f.value - *fine->figure(name));
            qInfo("%s: off by %.2g, estimate %.2g", name.c_str(), difference, *f.error);
            QVERIFY(difference < 1.5 * *f.error);
            QVERIFY(*f.error < 0.1 * std::abs(*f.value)); // an estimate that says nothing would be no use
        }
    }
    void what_does_not_depend_on_the_mesh_gets_no_error() {
        Ask ask;
        ask.with = {{"points", "8"}};
        ask.quality = Quality::Draft;
        ask.with_error = true;
        const auto answer = ask_question("cogging", ask);
        for (const Figure& f : answer->figures) QCOMPARE(f.error.has_value(), f.name == "cogging_peak_to_peak");
        QCOMPARE(answer->effort.solves, 6);
        const auto back = answer_from_json(answer_to_json(*answer));
        QVERIFY(bool(back));
        for (std::size_t i = 0; i < answer->figures.size(); ++i)
            QCOMPARE(back->figures[i].error, answer->figures[i].error);
        ask.with.clear();
        QVERIFY(!ask_question("winding", ask)->has_errors());
    }
};
MAVLO_TEST(convergence, TestConvergence, Nothing)
#include "test_convergence.moc"
