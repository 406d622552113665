#include "field/quadrature.h"
#include "mesh/body_mesh.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <map>
#include <numbers>

using namespace mavlo;

namespace {

double mesh_area(const BodyMesh& mesh) {
    double area = 0;
    for (const auto& e : mesh.elements) {
        std::array<Point, 6> nodes;
        for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(e.node[k])];
        for (const auto& rule : curved_rule())
            area += quadratic_shape(nodes, rule.a, rule.b).jacobian * rule.weight;
    }
    return area;
}

const Tile& stator_of(const Machine& m) {
    return m.section.stator().tile;
}
const Tile& rotor_of(const Machine& m) {
    return m.section.rotor().tile;
}

BodyMesh mesh_of(const Machine& m, const Body& body, const TileMesh& tile) {
    const int number = int(&body - m.section.bodies.data());
    return body_mesh(body, number, tile, m.sector().pitches[std::size_t(number)], m.sector().sign, false);
}

} // namespace

class TestMesh : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void area_is_that_of_the_rings_data() {
        QTest::addColumn<QString>("kind");
        for (const char* kind : {"parallel-tooth", "radial", "none"}) QTest::newRow(kind) << kind;
    }
    void area_is_that_of_the_rings() {
        QFETCH(QString, kind);
        const Machine m = machine_of(design_of({{"stator.slot.kind", kind.toStdString()}}), {true});
        for (double factor : {1.6, 1.0, 0.7}) {
            const auto stator = triangulate(stator_of(m), factor), rotor = triangulate(rotor_of(m), factor);
            QVERIFY(stator && rotor);
            const BodyMesh s = mesh_of(m, m.section.stator(), *stator),
                           r = mesh_of(m, m.section.rotor(), *rotor);
            const double hole = rotor_of(m).far_radius;
            const double ring = pi * (std::pow(stator_of(m).far_radius, 2) - std::pow(m.stator_radius(), 2));
            // Quadratic edges follow an arc of angle d to the fourth order.
            CLOSE(mesh_area(s) / ring, 1, 2e-5);
            CLOSE(mesh_area(r) / (pi * (m.rotor_radius() * m.rotor_radius() - hole * hole)), 1, 2e-5);
            QVERIFY(s.smallest_angle > 15 * pi / 180);
            QVERIFY(r.smallest_angle > 15 * pi / 180);
        }
    }
    void jacobians_are_positive_everywhere() {
        const Machine m = machine_of({});
        const auto half = triangulate(stator_of(m), 1);
        QVERIFY(bool(half));
        const BodyMesh mesh = mesh_of(m, m.section.stator(), *half);
        for (const auto& e : mesh.elements) {
            std::array<Point, 6> nodes;
            for (std::size_t k = 0; k < 6; ++k) nodes[k] = mesh.nodes[std::size_t(e.node[k])];
            for (const auto& [a, b] : {std::pair{0.0, 0.0}, {1.0, 0.0}, {0.0, 1.0}, {0.33, 0.33}})
                QVERIFY(quadratic_shape(nodes, a, b).jacobian > 0);
        }
    }
    void mesh_has_the_machines_own_symmetry() {
        const Machine m = machine_of({}, {true});
        const auto half = triangulate(stator_of(m), 1);
        const BodyMesh mesh = mesh_of(m, m.section.stator(), *half);
        auto key = [](Point p) { return std::pair{std::lround(p.x * 1e9), std::lround(p.y * 1e9)}; };
        std::map<std::pair<long, long>, int> places;
        for (const Point& p : mesh.nodes) ++places[key(p)];
        auto stands = [&](Point p) {
            for (long dx : {0L, -1L, 1L})
                for (long dy : {0L, -1L, 1L})
                    if (places.contains({key(p).first + dx, key(p).second + dy})) return true;
            return false;
        };
        for (const Point& p : mesh.nodes) {
            QVERIFY(stands({p.x, -p.y}));
            QVERIFY(stands(rotated(p, 2 * std::numbers::pi / m.slots)));
        }
    }
    void gap_edges_close_the_sector() {
        const Machine m = machine_of({});
        const auto half = triangulate(rotor_of(m), 1);
        const BodyMesh mesh = mesh_of(m, m.section.rotor(), *half);
        double covered = 0;
        for (const auto& e : mesh.gap) covered += e.to - e.from;
        CLOSE(covered, m.sector().angle(), 1e-9);
    }
    void finer_quality_has_more_elements() {
        const Machine m = machine_of({});
        const auto draft = triangulate(stator_of(m), size_factor(Quality::Draft)),
                   normal = triangulate(stator_of(m), size_factor(Quality::Normal)),
                   fine = triangulate(stator_of(m), size_factor(Quality::Fine));
        QVERIFY(draft->triangles.size() < normal->triangles.size() &&
                2 * normal->triangles.size() < fine->triangles.size());
    }
    void quadrature_integrates_its_degree() {
        auto integrate = [](auto rule, int i, int j) {
            double sum = 0;
            for (const auto& p : rule) sum += p.weight * std::pow(p.a, i) * std::pow(p.b, j);
            return sum;
        };
        auto exact = [](int i, int j) {
            return std::tgamma(i + 1) * std::tgamma(j + 1) / std::tgamma(i + j + 3);
        };
        for (int i = 0; i <= 4; ++i)
            for (int j = 0; i + j <= 4; ++j) {
                CLOSE(integrate(curved_rule(), i, j), exact(i, j), 1e-12);
                if (i + j <= 2) CLOSE(integrate(straight_rule(), i, j), exact(i, j), 1e-14);
            }
    }
};
MAVLO_TEST(mesh, TestMesh, Nothing)
#include "test_mesh.moc"
