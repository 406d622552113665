// Shapes over wide ranges of their dimensions: each is refused with a sentence, or meshes whole and sound.

#include "field/model.h"
#include "field/quadrature.h"
#include "machine/section.h"
#include "support.h"

#include <numbers>
#include <random>

using namespace mavlo;

namespace {

double area_of(const HalfMesh& mesh) {
    double area = 0;
    for (const auto& t : mesh.triangles) {
        std::array<Point, 6> nodes;
        for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(t.node[k])];
        for (const auto& rule : curved_rule()) {
            const ShapeAt shape = quadratic_shape(nodes, rule.a, rule.b);
            if (!(shape.jacobian > 0)) return -1;
            area += shape.jacobian * rule.weight;
        }
    }
    return area;
}

class Random {
  public:
    explicit Random(unsigned seed)
        : m_engine(seed) {}
    double between(double low, double high) {
        return low + (high - low) * double(m_engine() % 100000) / 100000;
    }
    template <class T>
    T one_of(std::initializer_list<T> list) {
        return *(list.begin() + std::ptrdiff_t(m_engine() % list.size()));
    }

  private:
    std::mt19937 m_engine;
};

std::string mm(double x) {
    return std::to_string(x) + " mm";
}

void check_machine(const Design& design, int& built) {
    const auto machine = build_machine(design);
    if (!machine) {
        for (const Problem& p : machine.problems()) QVERIFY(!p.path.empty() && p.sentence.size() > 15);
        return;
    }
    ++built;
    for (const Cell* cell : {&machine->stator, &machine->rotor}) {
        const auto mesh = triangulate(*cell, 1.6);
        if (!mesh) QFAIL(mesh.problems().front().sentence.c_str());
        const double ring =
            cell->half_pitch / 2 *
            std::abs(cell->gap_radius * cell->gap_radius - cell->other_radius * cell->other_radius);
        CLOSE(area_of(*mesh) / ring, 1, 2e-3);
        QVERIFY2(mesh->triangles.size() < 60000, qPrintable(QString::number(mesh->triangles.size())));
        // Every region of the cell got its triangles.
        std::vector<bool> seen(cell->regions.size(), false);
        for (const auto& t : mesh->triangles) seen[std::size_t(t.region)] = true;
        QVERIFY(std::all_of(seen.begin(), seen.end(), [](bool b) { return b; }));
    }
    const Section section = make_section(*machine);
    for (const auto& region : section.stator) QVERIFY(area(region.polygon) > 0);
    for (const auto& region : section.rotor) QVERIFY(area(region.polygon) > 0);
}

} // namespace

class TestShapes : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void parallel_teeth() {
        Random random(17);
        int built = 0;
        for (int round = 0; round < 120; ++round) {
            const double bore = random.between(30, 300), slots = random.one_of({6, 9, 12, 24, 36, 48});
            const double pitch = std::numbers::pi * bore / slots;
            Design d = design_of({{"stator.bore_diameter", mm(bore)},
                                  {"stator.outer_diameter", mm(bore * random.between(1.3, 2))},
                                  {"stator.slots", std::to_string(int(slots))},
                                  {"rotor.poles", std::to_string(random.one_of({2, 4, 8, 10, 14, 20}))},
                                  {"stator.slot.tooth_width", mm(pitch * random.between(0.2, 0.8))},
                                  {"stator.slot.opening", mm(pitch * random.between(0.05, 0.6))},
                                  {"stator.slot.depth", mm(bore * random.between(0.05, 0.4))},
                                  {"stator.slot.tip_depth", mm(bore * random.between(0, 0.04))},
                                  {"stator.slot.tip_angle", std::to_string(random.between(0, 50)) + " deg"},
                                  {"stator.slot.corner_radius", mm(random.one_of({0.0, 0.5, 1.0, 3.0}))},
                                  {"gap", mm(bore * random.between(0.003, 0.03))},
                                  {"rotor.magnet.thickness", mm(bore * random.between(0.02, 0.15))},
                                  {"rotor.magnet.arc", std::to_string(random.between(0.3, 1))},
                                  {"rotor.shaft_diameter", mm(bore * random.between(0, 0.7))}});
            check_machine(d, built);
            if (QTest::currentTestFailed()) return;
        }
        qInfo("%d of 120 can be built", built);
        QVERIFY(built >= 20);
    }
    void radial_slots() {
        Random random(4);
        int built = 0;
        for (int round = 0; round < 80; ++round) {
            const int slots = random.one_of({6, 9, 12, 18, 36});
            const double pitch = 360.0 / slots;
            Design d = design_of(
                {{"stator.slot.kind", "radial"},
                 {"stator.slots", std::to_string(slots)},
                 {"rotor.poles", std::to_string(random.one_of({4, 6, 8, 10, 12}))},
                 {"stator.slot.body_angle", std::to_string(pitch * random.between(0.2, 1.1)) + " deg"},
                 {"stator.slot.opening_angle", std::to_string(pitch * random.between(0.1, 0.5)) + " deg"},
                 {"stator.slot.depth", mm(random.between(3, 24))},
                 {"stator.slot.tip_depth", mm(random.one_of({0.0, 0.5, 2.0}))},
                 {"winding.layers", random.one_of<const char*>({"1", "2"})}});
            check_machine(d, built);
            if (QTest::currentTestFailed()) return;
        }
        QVERIFY(built >= 20);
    }
    void a_full_ring_of_magnet_and_a_solid_rotor() {
        int built = 0;
        check_machine(design_of({{"rotor.magnet.arc", "1"}}), built);
        check_machine(design_of({{"rotor.shaft_diameter", "0 mm"}}), built);
        check_machine(design_of({{"rotor.magnet.arc", "1"},
                                 {"rotor.shaft_diameter", "0 mm"},
                                 {"rotor.poles", "2"},
                                 {"stator.slots", "6"},
                                 {"stator.slot.tooth_width", "10 mm"}}),
                      built);
        QCOMPARE(built, 3);
    }
    void mouth_and_opening_may_be_equal() {
        int built = 0;
        check_machine(design_of({{"stator.slot.kind", "radial"},
                                 {"stator.slot.opening_angle", "16 deg"},
                                 {"stator.slot.body_angle", "16 deg"}}),
                      built);
        QCOMPARE(built, 1);
    }
};
QTEST_APPLESS_MAIN(TestShapes)
#include "test_shapes.moc"
