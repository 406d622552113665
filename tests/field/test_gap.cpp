// The gap element against the textbook solution of Laplace's equation in an annulus.

#include "field/gap.h"
#include "material/bh_curve.h"
#include "quantity/constants.h"
#include "support.h"

using namespace mavlo;

namespace {

constexpr double inner_radius = 0.05, outer_radius = 0.052;

/// A circle of equal edges over a sector, as a mesh would have it.
BodyMesh circle(double radius, int edges, const Sector& sector, int first_unknown) {
    BodyMesh mesh;
    const double step = sector.angle() / edges;
    const int nodes = 2 * edges + 1;
    for (int i = 0; i < nodes; ++i) {
        mesh.nodes.push_back(polar(radius, i * step / 2));
        const bool image = i == nodes - 1;
        mesh.unknown.push_back(first_unknown + (image ? 0 : i));
        mesh.sign.push_back(std::int8_t(image ? sector.sign : 1));
    }
    mesh.unknowns = nodes - 1;
    for (int e = 0; e < edges; ++e)
        mesh.gap.push_back({{2 * e, 2 * e + 1, 2 * e + 2}, e * step, (e + 1) * step});
    return mesh;
}

struct Annulus {
    Sector sector;
    BodyMesh outer, inner;
    GapElement gap;
    Annulus(Sector s, int edges)
        : sector(s)
        , outer(circle(outer_radius, edges, s, 0))
        , inner(circle(inner_radius, edges, s, outer.unknowns))
        , gap({outer, outer_radius, 1}, {inner, inner_radius, 1}, s) {}
    /// Nodal values of cos(order theta - phase) on a circle.
    static Eigen::VectorXd wave(const BodyMesh& mesh, int order, double phase) {
        Eigen::VectorXd values(mesh.unknowns);
        for (int i = 0; i < mesh.unknowns; ++i)
            values[i] = std::cos(order * angle_of(mesh.nodes[std::size_t(i)]) - phase);
        return values;
    }
};

} // namespace

class TestGap : public QObject {
    Q_OBJECT
    static void sectors() {
        QTest::addColumn<int>("count");
        QTest::addColumn<int>("sign");
        QTest::addColumn<int>("order");
        QTest::newRow("whole machine") << 1 << 1 << 3;
        QTest::newRow("half, reversed") << 2 << -1 << 5;
        QTest::newRow("third, alike") << 3 << 1 << 6;
        QTest::newRow("tenth, reversed") << 10 << -1 << 15;
    }

  private Q_SLOTS:
    void energy_of_one_wave_data() { sectors(); }
    void energy_of_one_wave() {
        QFETCH(int, count);
        QFETCH(int, sign);
        QFETCH(int, order);
        const Annulus a({count, sign}, 400 / count);
        const Eigen::VectorXd s = 2 * Annulus::wave(a.outer, order, 0.4),
                              r = 3 * Annulus::wave(a.inner, order, -0.2);
        const double alpha = 0.07;
        const double energy = 0.5 * s.dot(a.gap.outer_block() * s) + 0.5 * r.dot(a.gap.inner_block() * r) +
                              s.dot(a.gap.coupling(alpha) * r);
        // W = pi nu0 n/2 [coth(nl)(S^2 + R^2) - 2 S R cos(shift)/sinh(nl)] for real amplitudes S, R over the
        // whole turn
        const double l = std::log(outer_radius / inner_radius), shift = order * alpha - 0.2 - 0.4;
        const double wanted =
            pi * nu0 * order / 2 *
            ((4 + 9) / std::tanh(order * l) - 2 * 6 * std::cos(shift) / std::sinh(order * l)) / count;
        CLOSE(energy / wanted, 1, 1e-5); // quadratic traces of a wave
        const auto traces = a.gap.traces(s, r, {0, alpha});
        const double torque = -pi * nu0 * order * order * 6 * std::sin(shift) / std::sinh(order * l);
        CLOSE(a.gap.torque(traces) / torque, 1, 1e-5);
    }
    void torque_is_the_derivative_of_the_coupling() {
        const Annulus a({2, -1}, 60);
        Eigen::VectorXd s(a.outer.unknowns), r(a.inner.unknowns);
        for (int i = 0; i < s.size(); ++i) s[i] = std::sin(i * i * 0.37), r[i] = std::cos(i * 1.7);
        const double alpha = 0.3, h = 1e-6;
        const double slope =
            (s.dot(a.gap.coupling(alpha + h) * r) - s.dot(a.gap.coupling(alpha - h) * r)) / (2 * h);
        CLOSE(a.gap.torque(a.gap.traces(s, r, {0, alpha})) / (-2 * slope), 1, 1e-6);
    }
    void the_field_in_between_solves_laplace() {
        const Annulus a({1, 1}, 300);
        const int order = 4;
        const auto traces =
            a.gap.traces(Annulus::wave(a.outer, order, 0), 0.5 * Annulus::wave(a.inner, order, 0.3), {});
        const double radius = 0.0513;
        const auto ring = a.gap.ring(traces, radius, 512);
        // A = (c1 r^n + c2 r^-n) per phase part; check through the two-point boundary values.
        const double l = std::log(outer_radius / inner_radius), up = std::log(radius / inner_radius),
                     down = std::log(outer_radius / radius);
        for (int i = 0; i < 512; i += 37) {
            const double theta = 2 * pi * i / 512;
            const double stator_part = std::cos(order * theta),
                         rotor_part = 0.5 * std::cos(order * theta - 0.3);
            CLOSE(ring.potential[std::size_t(i)],
                  (stator_part * std::sinh(order * up) + rotor_part * std::sinh(order * down)) /
                      std::sinh(order * l),
                  1e-6);
            const double radial = -order / radius *
                                  (std::sin(order * theta) * std::sinh(order * up) +
                                   0.5 * std::sin(order * theta - 0.3) * std::sinh(order * down)) /
                                  std::sinh(order * l);
            CLOSE(ring.radial[std::size_t(i)], radial, 1e-4);
            const double tangential =
                -order / radius * (stator_part * std::cosh(order * up) - rotor_part * std::cosh(order * down)) /
                std::sinh(order * l);
            CLOSE(ring.tangential[std::size_t(i)], tangential, 2e-3 * order / radius / std::sinh(order * l));
        }
    }
    void a_constant_costs_nothing() {
        const Annulus a({1, 1}, 40);
        const Eigen::VectorXd ones = Eigen::VectorXd::Ones(a.outer.unknowns);
        const double energy = ones.dot(a.gap.outer_block() * ones) + ones.dot(a.gap.inner_block() * ones) +
                              2 * ones.dot(a.gap.coupling(0.4) * ones);
        const double scale = ones.dot(a.gap.outer_block() * ones);
        CLOSE(energy / scale, 0, 1e-10);
    }
    void only_allowed_orders_are_kept() {
        const Annulus half({2, -1}, 40), third({3, 1}, 40);
        for (int n : half.gap.orders()) QCOMPARE(n % 2, 1);
        for (int n : third.gap.orders()) QCOMPARE(n % 3, 0);
    }
    void a_hair_thin_gap_stays_within_bounds() {
        const auto model = prepare_field_of(design_of({{"gap", "0.02 mm"}}));
        QVERIFY(model);
    }

  private:
    static bool prepare_field_of(const Design& design);
};

#include "figure/machine_model.h"
#include "test_program.h"

bool TestGap::prepare_field_of(const Design& design) {
    const auto model = prepare_field(machine_of(design), {Quality::Draft});
    return model && (*model)->gap().orders().size() < 20000;
}

MAVLO_TEST(gap, TestGap, Nothing)
#include "test_gap.moc"
