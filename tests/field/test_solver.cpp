#include "field/solver.h"
#include "figure/mass.h"
#include "figure/park.h"
#include "figure/picture.h"
#include "figure/spectrum.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "question/quick.h"
#include "support.h"
#include "test_program.h"

#include <numbers>

using namespace mavlo;

namespace {

std::shared_ptr<const MachineModel> model_of(const Design& design, MachineOptions options = {},
                                             Quality quality = Quality::Normal) {
    auto model = prepare_field(machine_of(design, options), {quality});
    if (!model) qFatal("no mesh");
    return *model;
}

} // namespace

class TestSolver : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void sector_equals_whole_machine_data() {
        QTest::addColumn<QString>("slots_");
        QTest::addColumn<QString>("poles");
        QTest::addColumn<QString>("layers");
        QTest::newRow("half, reversed") << "12"
                                        << "10"
                                        << "2";
        QTest::newRow("third, alike") << "9"
                                      << "6"
                                      << "2";
        QTest::newRow("quarter, alike") << "12"
                                        << "8"
                                        << "2";
        QTest::newRow("pole, reversed") << "24"
                                        << "4"
                                        << "2";
        QTest::newRow("half, one layer") << "12"
                                         << "10"
                                         << "1";
    }
    void sector_equals_whole_machine() {
        QFETCH(QString, slots_);
        QFETCH(QString, poles);
        QFETCH(QString, layers);
        Design design = design_of({{"stator.slots", slots_.toStdString()},
                                   {"rotor.poles", poles.toStdString()},
                                   {"winding.layers", layers.toStdString()}});
        if (slots_ == "24")
            design.texts["stator.slot.tooth_width"] = "3.6 mm",
            design.texts["stator.slot.corner_radius"] = "0.5 mm";
        const auto part = model_of(design), whole = model_of(design, {true});
        QVERIFY(part->machine.sector().count > 1 && whole->machine.sector().count == 1);
        const PhaseValues current =
            to_phases({-3, 9}, electrical_angle(part->machine, 0.21), part->machine.winding.layout.lags);
        const auto a = FieldSolver(part).solve(0.21, current), b = FieldSolver(whole).solve(0.21, current);
        QVERIFY(a && b);
        CLOSE(a->torque / b->torque, 1, 1e-6);
        for (std::size_t k = 0; k < 3; ++k) CLOSE(a->flux_linkage[k], b->flux_linkage[k], 1e-6 * 0.05);
        CLOSE(a->functional * part->machine.sector().count / b->functional, 1, 1e-6);
    }
    void torque_is_the_derivative_of_the_energy() {
        // At fixed currents and constant A the torque is -dF/dalpha of the minimum of F (envelope theorem).
        const auto model = model_of(design_of({{"rating.current", "20 A"}}));
        FieldSolver solver(model);
        const double angle = 0.1, step = 1e-4;
        const PhaseValues current{20, -5, -15};
        const auto at = solver.solve(angle, current), before = solver.solve(angle - step, current, &*at),
                   after = solver.solve(angle + step, current, &*at);
        QVERIFY(at && before && after);
        const double scale = model->machine.stack_length * model->machine.sector().count;
        const double virtual_work = -(after->functional - before->functional) / (2 * step) * scale;
        CLOSE(at->torque, virtual_work, 1e-4 * std::abs(virtual_work));
    }
    void flux_linkage_is_the_derivative_by_current() {
        const auto model = model_of({});
        FieldSolver solver(model);
        const double step = 1e-2;
        const auto at = solver.solve(0.05, {5, -2, -3}), less = solver.solve(0.05, {5 - step, -2, -3}, &*at),
                   more = solver.solve(0.05, {5 + step, -2, -3}, &*at);
        QVERIFY(at && less && more);
        const double scale = model->machine.stack_length * model->machine.sector().count;
        CLOSE(at->flux_linkage[0], -(more->functional - less->functional) / (2 * step) * scale,
              1e-5 * std::abs(at->flux_linkage[0]));
    }
    void the_start_does_not_matter() {
        const auto model = model_of({});
        FieldSolver solver(model);
        const auto cold = solver.solve(0.03, {8, -4, -4}), far = solver.solve(0.9, {-30, 10, 20});
        const auto warm = solver.solve(0.03, {8, -4, -4}, &*far);
        QVERIFY(cold && warm);
        CLOSE(warm->torque / cold->torque, 1, 1e-8);
    }
    void converges_far_beyond_the_rating() {
        for (const char* steel : {"M330-35A", "M400-50A"}) {
            const auto model = model_of(design_of({{"stator.steel", steel}, {"rotor.steel", steel}}));
            FieldSolver solver(model);
            for (double current : {50.0, 200.0, 1000.0}) {
                const auto field = solver.solve(0.2, {current, -current / 2, -current / 2});
                if (!field) QFAIL(field.problems().front().sentence.c_str());
                QVERIFY(field->newton_steps < 40);
            }
        }
    }
    void a_turn_by_a_whole_sector_gives_the_same_torque() {
        const auto model = model_of(design_of({{"stator.slots", "9"}, {"rotor.poles", "6"}}));
        FieldSolver solver(model);
        const auto a = solver.solve(0.07, {}), b = solver.solve(0.07 + model->machine.sector().angle(), {});
        CLOSE(a->torque, b->torque, 1e-9);
    }
    void no_magnets_and_no_current_is_no_field() {
        const auto model = model_of(design_of({{"rotor.magnet.grade", "magnet(0.000001 T, 1)"}}));
        const auto field = FieldSolver(model).solve(0, {});
        QVERIFY(bool(field));
        QVERIFY(std::abs(field->torque) < 1e-9);
    }
    void copies_of_a_factor_solve_alike() {
        const auto model = model_of({});
        std::vector<double> values = model->linear_values;
        for (int j = 0; j < model->unknowns(); ++j)
            values[std::size_t(model->pattern->column[std::size_t(j)])] += nu0;
        std::vector<double> x(std::size_t(model->unknowns()), 1.0), y = x, back = x;
        auto one = model->analysed->copy(), other = one->copy();
        QVERIFY(one->factorise(values) && other->factorise(values));
        one->solve(x);
        other->solve(y);
        QVERIFY(x == y);
        multiply(*model->pattern, values, x, back);
        for (double b : back) CLOSE(b, 1, 1e-8);
        values[0] = -1e12;
        QVERIFY(!one->factorise(values));
    }
    void own_factorisation_agrees_with_the_library_data() {
        QTest::addColumn<QString>("slots_");
        QTest::addColumn<QString>("poles");
        QTest::newRow("12/10") << "12"
                               << "10";
        QTest::newRow("9/8, whole machine") << "9"
                                            << "8";
        QTest::newRow("24/20") << "24"
                               << "20";
    }
    void own_factorisation_agrees_with_the_library() {
        QFETCH(QString, slots_);
        QFETCH(QString, poles);
        const Design design = design_of({{"stator.slots", slots_.toStdString()},
                                         {"rotor.poles", poles.toStdString()},
                                         {"stator.slot.tooth_width", "4 mm"},
                                         {"stator.slot.corner_radius", "0.5 mm"}});
        const Machine machine = machine_of(design);
        const auto own = *prepare_field(machine, {Quality::Normal, 1, false}),
                   library = *prepare_field(machine, {Quality::Normal, 1, true});
        std::vector<double> values = own->linear_values, x(std::size_t(own->unknowns())), y;
        for (int j = 0; j < own->unknowns(); ++j) {
            values[std::size_t(own->pattern->column[std::size_t(j)])] += 1e-3 * nu0;
            x[std::size_t(j)] = std::sin(j);
        }
        y = x;
        auto a = own->analysed->copy(), b = library->analysed->copy();
        QVERIFY(a->factorise(values) && b->factorise(values));
        a->solve(x);
        b->solve(y);
        const double difference = relative_difference(x, y);
        QVERIFY2(difference <= 1e-12, qPrintable(QString::number(difference)));
        // The whole nonlinear field agrees as well.
        const auto f = FieldSolver(own).solve(0.1, {5, -2, -3}),
                   g = FieldSolver(library).solve(0.1, {5, -2, -3});
        QVERIFY(f && g);
        CLOSE(f->torque / g->torque, 1, 1e-9);
    }
    void park_goes_there_and_back() {
        for (double theta : {0.0, 0.7, -2.0, 5.0}) {
            const Dq back = to_dq(to_phases({3, -4}, theta, phase_lags(3)), theta, phase_lags(3));
            CLOSE(back.d, 3, 1e-12);
            CLOSE(back.q, -4, 1e-12);
        }
        CLOSE(current_vector(10, 0).q, 10, 1e-12);
        CLOSE(current_vector(10, std::numbers::pi / 6).d, -5, 1e-12);
    }
    void spectra_and_derivatives_are_exact_for_waves() {
        std::vector<double> wave;
        const int n = 24;
        for (int i = 0; i < n; ++i)
            wave.push_back(1 + 2 * std::cos(2 * std::numbers::pi * i / n + 0.3) +
                           0.5 * std::sin(2 * std::numbers::pi * 5 * i / n));
        const auto h = harmonics(wave);
        CLOSE(std::abs(h[0]), 1, 1e-12);
        CLOSE(std::abs(h[1]), 2, 1e-12);
        CLOSE(std::arg(h[1]), 0.3, 1e-12);
        CLOSE(std::abs(h[5]), 0.5, 1e-12);
        const auto slope = derivative(wave, 2 * std::numbers::pi);
        for (int i = 0; i < n; ++i) {
            const double t = 2 * std::numbers::pi * i / n;
            CLOSE(slope[std::size_t(i)], -2 * std::sin(t + 0.3) + 2.5 * std::cos(5 * t), 1e-11);
        }
        CLOSE(mean(wave), 1, 1e-12);
        CLOSE(standard_deviation(wave), std::sqrt((4 + 0.25) / 2), 1e-12);
    }
    void mass_is_area_times_length_times_density() {
        const auto model = model_of(design_of({{"stator.slot.kind", "none"},
                                               {"stator.stacking_factor", "1"},
                                               {"rotor.magnet.thickness", "3 mm"},
                                               {"rotor.magnet.arc", "1"}}));
        const Machine& m = model->machine;
        const ActiveMass mass = active_mass(*model);
        CLOSE(mass.stator_steel, pi * (0.05 * 0.05 - 0.027 * 0.027) * m.stack_length * 7650,
              1e-3 * mass.stator_steel);
        CLOSE(mass.magnets, pi * (0.026 * 0.026 - 0.023 * 0.023) * m.stack_length * 7550, 1e-3 * mass.magnets);
        QCOMPARE(mass.copper, 0.0);
    }
    void flux_lines_are_level_lines() {
        const auto model = model_of({});
        const auto field = FieldSolver(model).solve(0.1, {});
        const FieldPicture picture = make_picture(*model, *field);
        QVERIFY(picture.highest_flux_density > 0.5 && picture.highest_flux_density < 3);
        const auto lines = flux_lines(picture, 20);
        QVERIFY(lines.size() > 500);
        for (const Segment& s : lines) QVERIFY(norm(s.a) < model->machine.section.outer_radius() * 1.0001);
    }
    void quick_figures_agree_with_the_full_questions_data() {
        QTest::addColumn<QString>("slots_");
        QTest::addColumn<QString>("poles");
        for (const char* pair : {"12/10", "9/8", "9/6", "24/4", "18/10"}) {
            const QStringList parts = QString::fromLatin1(pair).split('/');
            QTest::newRow(pair) << parts[0] << parts[1];
        }
    }
    void quick_figures_agree_with_the_full_questions() {
        // The symmetry that the quick figures lean on, against whole periods.
        QFETCH(QString, slots_);
        QFETCH(QString, poles);
        Ask ask;
        ask.quality = Quality::Draft;
        ask.design = design_of({{"stator.slots", slots_.toStdString()},
                                {"rotor.poles", poles.toStdString()},
                                {"stator.slot.tooth_width", "3.4 mm"},
                                {"stator.slot.corner_radius", "0.5 mm"},
                                {"rating.advance", "15 deg"}});
        const auto quick = quick_figures(*prepare_field(machine_of(ask.design), quick_mesh()), 0, {});
        QVERIFY(bool(quick));
        ask.with = {{"points", "48"}};
        const auto load = ask_question("load", ask), idle = ask_question("no-load", ask),
                   cogging = ask_question("cogging", ask);
        QVERIFY(load && idle && cogging);
        const auto near = [&](const Answer& full, const char* name, double share, double least = 0) {
            const double value = *(*quick)[name];
            CLOSE(value, *full.figure(name), share * std::abs(value) + least);
        };
        near(*load, "torque_mean", 0.01);
        near(*idle, "back_emf_line_rms", 0.01);
        // Four positions, and a plain mesh whose error is estimated, against one that keeps its promise.
        near(*cogging, "cogging_peak_to_peak", 0.2, 1e-3);
    }
    void quick_figures_are_near_the_truth() {
        const auto quick = quick_figures(model_of(design_of({{"rating.current", "10 A"}})), 0, {});
        QVERIFY(bool(quick));
        const QuickFigures& q = *quick;
        QVERIFY(*q["torque_mean"] > 1 && *q["cogging_peak_to_peak"] > 0 && *q["back_emf_line_rms"] > 1);
        QVERIFY(*q["active_mass"] > 0.5);
        CLOSE(*q["copper_loss"], 150 * *q["phase_resistance"], 1e-9);
        CLOSE(*q["slot_fill"], 0.4, 1e-3);
        const auto smooth = quick_figures(model_of(design_of({{"stator.slot.kind", "none"}})), 1, {});
        QVERIFY(smooth && !(*smooth)["torque_mean"] && !(*smooth)["phase_resistance"]);
    }
};
MAVLO_TEST(solver, TestSolver, Nothing)
#include "test_solver.moc"
