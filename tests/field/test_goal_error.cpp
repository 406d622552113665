// What the mesh leaves of a figure is estimated from the figure's adjoint field.

#include "field/goal_error.h"
#include "figure/machine_model.h"
#include "figure/park.h"
#include "mesh/refinement.h"
#include "project/project.h"
#include "support.h"
#include "test_program.h"

#include <numeric>

using namespace mavlo;

namespace {

std::shared_ptr<const MachineModel> model_of(const Machine& machine, Quality quality, double size = 1) {
    auto model = prepare_field(machine, {quality, size});
    if (!model) qFatal("no mesh");
    return *model;
}

Machine shape(const QString& name) {
    for (const StartingShape& s : starting_shapes())
        if (s.name == name.toStdString()) return machine_of(Design{s.texts});
    qFatal("no such shape");
}

double sum(const TileErrors& errors) {
    double all = 0;
    for (const auto& body : errors) all = std::accumulate(body.begin(), body.end(), all);
    return all;
}

PortValues rated(const Machine& m, double angle) {
    return to_phases(current_vector(m.rating.current, m.rating.advance), electrical_angle(m, angle),
                     m.winding.layout.lags);
}

void shapes() {
    QTest::addColumn<QString>("name");
    for (const char* name : {"surface", "inset", "vee", "outer-spoke", "reluctance"})
        for (const StartingShape& s : starting_shapes())
            if (s.name == name) QTest::newRow(name) << QString::fromLatin1(name);
}

} // namespace

class TestGoalError : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_torques_slope_is_that_of_the_torque_data() { shapes(); }
    void the_torques_slope_is_that_of_the_torque() {
        // The torque is bilinear in the potentials of the gap's two sides: Euler's theorem.
        QFETCH(QString, name);
        const Machine m = shape(name);
        const auto model = model_of(m, Quality::Draft);
        const auto field = FieldSolver(model).solve(0.03, rated(m, 0.03));
        QVERIFY(bool(field));
        const auto slope = torque_slope(*model, *field);
        const double twice = std::inner_product(slope.begin(), slope.end(), field->potential.begin(), 0.0);
        CLOSE(twice / 2, field->torque, 1e-9 * std::abs(field->torque));
    }
    void an_adjoint_field_answers_for_sources() {
        // d(torque)/d(current) by the adjoint field, against the difference of two fields.
        const Machine m = machine_of(design_of({{"rating.current", "12 A"}}));
        const auto model = model_of(m, Quality::Normal);
        FieldSolver solver(model);
        const auto field = solver.solve(0.05, rated(m, 0.05));
        const auto adjoint = solver.adjoints(*field, {torque_slope(*model, *field)});
        QVERIFY(field && adjoint);
        const auto& load = model->port_load[0];
        const double slope = std::inner_product(load.begin(), load.end(), (*adjoint)[0].begin(), 0.0);
        PortValues more = field->current, less = field->current;
        more[0] += 0.05;
        less[0] -= 0.05;
        const double difference =
            (solver.solve(0.05, more, &*field)->torque - solver.solve(0.05, less, &*field)->torque) / 0.1;
        CLOSE(slope, difference, 1e-4 * std::abs(difference));
    }
    void estimates_are_near_the_errors_data() { shapes(); }
    void estimates_are_near_the_errors() {
        QFETCH(QString, name);
        const Machine m = shape(name);
        const auto model = model_of(m, Quality::Normal), finer = model_of(m, Quality::Normal, 0.4);
        const GoalErrors errors(model);
        double estimated = 0, left = 0, was = 0;
        for (double angle : {0.01, 0.03, 0.05}) {
            FieldSolver solver(model);
            const auto field = solver.solve(angle, rated(m, angle)),
                       exact = FieldSolver(finer).solve(angle, rated(m, angle));
            const auto split = errors(solver, *field, {{-1}, {0}});
            QVERIFY(field && exact && split);
            const double linkage = exact->flux_linkage[0] - field->flux_linkage[0];
            qInfo("%s: torque off by %.2g, estimate %.2g; linkage off by %.2g, estimate %.2g", qPrintable(name),
                  exact->torque - field->torque, sum((*split)[0]), linkage, sum((*split)[1]));
            was += std::abs(linkage) / std::abs(exact->flux_linkage[0]) +
                   std::abs(exact->torque - field->torque) / std::abs(exact->torque);
            left += std::abs(linkage - sum((*split)[1])) / std::abs(exact->flux_linkage[0]) +
                    std::abs(exact->torque - field->torque - sum((*split)[0])) / std::abs(exact->torque);
            estimated += std::abs(sum((*split)[1]));
        }
        QVERIFY(estimated > 0);
        QVERIFY2(left < 0.75 * was, qPrintable(QStringLiteral("%1 of %2 left").arg(left).arg(was)));
    }
    void equal_triangles_share_a_wanted_error() {
        // Errors e r^4 of all triangles add up to what is wanted, and none grows.
        const std::vector<std::vector<double>> errors{{1e-3, 2e-5, 0}, {4e-4}};
        const auto factors = size_factors(errors, 1e-4, 0.01);
        double left = 0;
        for (std::size_t b = 0; b < 2; ++b)
            for (std::size_t t = 0; t < errors[b].size(); ++t) {
                QVERIFY(factors[b][t] > 0 && factors[b][t] <= 1);
                left += errors[b][t] * std::pow(factors[b][t], 4);
            }
        CLOSE(left, 1e-4, 2e-5);
        CLOSE(factors[0][2], 1, 0);
        QVERIFY(factors[0][0] < factors[1][0]);
    }
    void refined_tiles_are_finer_where_it_was_asked() {
        const Machine m = machine_of({});
        const auto model = model_of(m, Quality::Normal);
        const Body& body = m.section.stator();
        const auto triangles = tile_triangles(body, model->meshes[1]);
        std::vector<double> factors(triangles.size(), 1.0);
        factors[5] = 0.3;
        const Tile finer = refined(body.tile, triangles, factors, 1);
        QVERIFY(finer.hints.size() > body.tile.hints.size());
        QVERIFY(refined(body.tile, triangles, std::vector<double>(triangles.size(), 1.0), 1) == body.tile);
        const auto before = triangulate(body.tile, 1), after = triangulate(finer, 1);
        QVERIFY(before && after && after->triangles.size() > before->triangles.size());
        QVERIFY(after->smallest_angle > 20 / 57.3);
    }
};
MAVLO_TEST(goal_error, TestGoalError, Nothing)
#include "test_goal_error.moc"
