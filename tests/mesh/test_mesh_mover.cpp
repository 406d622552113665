// Meshes that follow a dimension: the same triangles, areas of the changed shape, and nothing turned over.

#include "mesh/mesh_mover.h"
#include "project/project.h"
#include "question/sensitivity.h"
#include "support.h"
#include "test_program.h"

#include <QtTest>

using namespace mavlo;

namespace {

std::vector<double> areas(const Tile& tile, const TileMesh& mesh) {
    std::vector<double> sums(tile.regions.size(), 0.0);
    for (const auto& t : mesh.triangles) {
        // A triangle with parabolas for edges: its corners' and, by Simpson's rule, its edges' share.
        double twice = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const Point a = mesh.nodes[std::size_t(t.node[k])],
                        b = mesh.nodes[std::size_t(t.node[(k + 1) % 3])],
                        m = mesh.nodes[std::size_t(t.node[3 + k])];
            twice += cross(a, b) + 4.0 / 3 * cross(b - a, 0.5 * (a + b) - m);
        }
        sums[std::size_t(t.region)] += twice / 2;
    }
    return sums;
}

const MachineMaker maker = [](const Design& design) { return build_machine(design); };

} // namespace

class TestMeshMover : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void keeps_its_own_shape();
    void follows_every_dimension_data();
    void follows_every_dimension();
    void refuses_another_drawing();
};

void TestMeshMover::keeps_its_own_shape() {
    const Machine machine = machine_of(design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}}));
    for (const Body& body : machine.section.bodies) {
        const auto mesh = triangulate(body.tile, 1.6);
        QVERIFY(bool(mesh));
        const auto moved = MeshMover(body.tile, *mesh).moved(body.tile);
        QVERIFY(bool(moved));
        for (std::size_t i = 0; i < mesh->nodes.size(); ++i)
            QVERIFY(distance(mesh->nodes[i], moved->nodes[i]) < 1e-12);
    }
}

void TestMeshMover::follows_every_dimension_data() {
    QTest::addColumn<QString>("shape");
    for (const StartingShape& shape : starting_shapes())
        QTest::newRow(shape.name.c_str()) << QString::fromStdString(shape.name);
}

void TestMeshMover::follows_every_dimension() {
    QFETCH(QString, shape);
    const auto project = new_project(shape.toStdString());
    QVERIFY(project);
    const Design design = project->in_hand().design;
    const Machine machine = machine_of(design);
    const auto steps = dimension_steps(design, machine, maker, 0.01, {});
    QVERIFY(bool(steps));
    QVERIFY(steps->size() >= 3);
    std::vector<MeshMover> movers;
    for (const Body& body : machine.section.bodies)
        movers.emplace_back(body.tile, *triangulate(body.tile, 1.6));
    int followed = 0;
    for (const DimensionStep& step : *steps) {
        const auto changed =
            maker(at_value(design, *step.parameter, step.value + (step.up ? 1 : -1) * step.step));
        QVERIFY(bool(changed));
        bool all = true;
        for (std::size_t b = 0; b < movers.size(); ++b) {
            const Tile& tile = changed->section.bodies[b].tile;
            const auto moved = movers[b].moved(tile);
            all = all && moved;
            if (!moved) continue;
            const auto fresh = triangulate(tile, 1.6);
            QVERIFY(bool(fresh));
            const auto got = areas(tile, *moved), wanted = areas(tile, *fresh);
            for (std::size_t r = 0; r < got.size(); ++r)
                QVERIFY2(std::abs(got[r] - wanted[r]) < 2e-6 * wanted[r] + 1e-12,
                         qPrintable(QStringLiteral("%1: region %2 has %3, not %4")
                                        .arg(step.parameter->path.c_str())
                                        .arg(r)
                                        .arg(got[r])
                                        .arg(wanted[r])));
        }
        followed += all;
        if (!all) qInfo("the mesh does not follow %s", step.parameter->path.c_str());
    }
    QVERIFY2(followed >= int(steps->size()) - 1,
             qPrintable(QStringLiteral("%1 of %2").arg(followed).arg(steps->size())));
}

void TestMeshMover::refuses_another_drawing() {
    const Machine open = machine_of(design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}})),
                  none = machine_of(design_of({{"stator.slot.kind", "none"}}));
    const Tile& tile = open.section.stator().tile;
    const auto moved = MeshMover(tile, *triangulate(tile, 1.6)).moved(none.section.stator().tile);
    QVERIFY(!moved);
    QVERIFY(moved.problems().front().sentence.find("drawn otherwise") != std::string::npos);
}

MAVLO_TEST(mesh_mover, TestMeshMover, Nothing)
#include "test_mesh_mover.moc"
