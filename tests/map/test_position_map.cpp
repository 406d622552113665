// The map over currents and position: its harmonics, its mirror image, and the machine that a supply sees.

#include "circuit/phase_ports.h"
#include "map/map_machine.h"
#include "map/position_map.h"
#include "support.h"
#include "test_program.h"

#include <functional>
#include <numbers>

using namespace mavlo;
using std::numbers::pi;

namespace {

constexpr double psi = 0.3, ld = 1.2e-3, lq = 3.0e-3, most = 40;
constexpr int points = 36;

/// A machine whose linkages waver with the sixth order and whose torque has the twelfth, alike for its mirror
/// image.
struct Wavy {
    static double d(double t, Dq i) {
        return psi + ld * i.d + 0.02 * std::cos(6 * t) - 1e-4 * i.q * std::sin(6 * t);
    }
    static double q(double t, Dq i) {
        return lq * i.q + 0.01 * std::sin(6 * t) + 2e-4 * i.q * std::cos(12 * t);
    }
    static double zero(double t, Dq i) { return 0.005 * std::cos(3 * t) + 1e-5 * i.q * std::sin(3 * t); }
    static double torque(double t, Dq i) {
        return 2 * i.q + 0.5 * std::sin(12 * t) + 0.01 * i.q * std::cos(12 * t);
    }
};

std::vector<double> sampled(const std::function<double(double, Dq)>& value, Dq current, double start) {
    std::vector<double> out;
    for (int k = 0; k < points; ++k) out.push_back(value(start + 2 * pi * k / points, current));
    return out;
}

PositionMap wavy_map() {
    std::vector<double> id, iq;
    for (int k = -4; k <= 4; ++k) id.push_back(most * k / 4);
    for (int k = 0; k <= 4; ++k) iq.push_back(most * k / 4);
    std::vector<PositionWaves> waves;
    constexpr double start = 0.4;
    for (double q : iq)
        for (double d : id) {
            const auto of = [&](const std::function<double(double, Dq)>& value) {
                return harmonics_over_position(sampled(value, {d, q}, start), start, orders_of(points));
            };
            waves.push_back({{d, q}, of(Wavy::d), of(Wavy::q), of(Wavy::zero), of(Wavy::torque)});
        }
    return PositionMap(id, iq, waves);
}

const std::vector<double> angles{0, 0.3, 1.1, 2.9, 5.5};
const std::vector<Dq> vectors{{-11, 7}, {3, -13}, {-33, 29}, {0, 0}, {25, -38}};

} // namespace

class TestPositionMap : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void values_and_slopes_of_many_functions() {
        // A product of parabolas is met everywhere within, and goes on straight outside.
        const std::vector<double> x{0, 1, 2, 4}, y{-1, 0, 2};
        const auto f = [](double a, double b) { return (1 + a * a) * (3 - b + 0.2 * b * b); };
        const auto g = [](double a, double b) { return 2 * a - 5 * b; };
        Eigen::MatrixXd values(12, 2);
        for (int j = 0; j < 3; ++j)
            for (int i = 0; i < 4; ++i) {
                const double a = x[std::size_t(i)], b = y[std::size_t(j)];
                values.row(4 * j + i) << f(a, b), g(a, b);
            }
        const GridFunctions functions(x, y, values);
        QCOMPARE(functions.count(), Eigen::Index(2));
        for (double a : {1.2, 1.9, 2.0, 3.1})
            for (double b : {-0.6, 0.7, 1.6}) {
                const Eigen::MatrixX3d at = functions.at(a, b);
                CLOSE(at(0, 0), functions.value(0, a, b), 1e-12);
                CLOSE(at(1, 0), g(a, b), 1e-12);
                CLOSE(at(1, 1), 2, 1e-12);
                CLOSE(at(1, 2), -5, 1e-12);
                const double h = 1e-5;
                CLOSE(at(0, 1), (functions.value(0, a + h, b) - functions.value(0, a - h, b)) / (2 * h), 1e-4);
                CLOSE(at(0, 2), (functions.value(0, a, b + h) - functions.value(0, a, b - h)) / (2 * h), 1e-6);
            }
        CLOSE(functions.value(0, 1.5, 1), f(1.5, 1), 1e-9);
        for (double beyond : {0.5, 1.0, 2.0}) {
            const Eigen::MatrixX3d edge = functions.at(4, 1);
            CLOSE(functions.value(0, 4 + beyond, 1), edge(0, 0) + beyond * edge(0, 1), 1e-9);
            CLOSE(functions.at(2, 2 + beyond)(1, 0), g(2, 2 + beyond), 1e-9);
            CLOSE(functions.at(4 + beyond, -1 - beyond)(1, 0), g(4 + beyond, -1 - beyond), 1e-9);
        }
    }
    void harmonics_are_those_of_the_samples() {
        const auto wave = [](double t, Dq) { return 3 + 0.7 * std::cos(2 * t) - 0.4 * std::sin(5 * t); };
        for (double start : {0.0, 0.7, -2.0}) {
            const auto h = harmonics_over_position(sampled(wave, {}, start), start, 8);
            QCOMPARE(h.size(), std::size_t(17));
            for (std::size_t k = 0; k < h.size(); ++k)
                CLOSE(h[k], k == 0 ? 3 : k == 3 ? 0.7 : k == 10 ? -0.4 : 0, 1e-12);
        }
        QCOMPARE(orders_of(36), 17); // what only two samples a period would tell is left away
        QCOMPARE(orders_of(1), 0);
        QCOMPARE(orders_of(5000), 120);
    }
    void waves_survive_their_row() {
        const PositionWaves w{{1, 2}, {3, 4, 5}, {6, 7, 8}, {9, 10, 11}, {12, 13, 14}};
        QCOMPARE(w.row().size(), PositionWaves::columns(1));
        const PositionWaves again = PositionWaves::from_row(w.row());
        QVERIFY(again.current == w.current && again.d == w.d && again.q == w.q && again.zero == w.zero &&
                again.torque == w.torque);
        QCOMPARE(again.orders(), 1);
    }
    void the_map_meets_its_machine_also_below_zero() {
        const PositionMap map = wavy_map();
        for (double t : angles)
            for (Dq i : vectors) {
                const PositionMap::Point p = map.at(t, i);
                CLOSE(p.d.value, Wavy::d(t, i), 1e-9);
                CLOSE(p.q.value, Wavy::q(t, i), 1e-9);
                CLOSE(p.zero.value, Wavy::zero(t, i), 1e-9);
                CLOSE(p.torque.value, Wavy::torque(t, i), 1e-8);
                CLOSE(p.d.over_id, ld, 1e-9);
                CLOSE(p.q.over_iq, lq + 2e-4 * std::cos(12 * t), 1e-9);
                CLOSE(p.q.over_angle, 0.06 * std::cos(6 * t) - 24e-4 * i.q * std::sin(12 * t), 1e-8);
                CLOSE(p.d.over_angle, -0.12 * std::sin(6 * t) - 6e-4 * i.q * std::cos(6 * t), 1e-8);
            }
    }
    void outside_the_grid_only_the_means_go_on() {
        const PositionMap map = wavy_map();
        for (double t : angles) {
            const PositionMap::Point edge = map.at(t, {10, most}), beyond = map.at(t, {10, most + 25});
            CLOSE(beyond.q.value - edge.q.value, 25 * lq, 1e-9);
            CLOSE(beyond.q.over_iq, lq, 1e-9);
            CLOSE(beyond.q.over_angle, edge.q.over_angle, 1e-9);
            CLOSE(beyond.d.over_id, ld, 1e-9);
            CLOSE(beyond.d.over_iq, 0, 1e-9); // the wave's slope is left at the edge
            CLOSE(map.at(t, {-most - 30, 5}).d.value - map.at(t, {-most, 5}).d.value, -30 * ld, 1e-9);
        }
    }
    void a_mean_map_is_the_same_everywhere() {
        std::vector<FluxPoint> flat;
        for (double q : {0.0, 10.0, 20.0})
            for (double d : {-20.0, 0.0, 20.0}) {
                FluxPoint p;
                p.current = {d, q};
                p.flux_linkage = {psi + ld * d, lq * q};
                p.torque = 2 * q;
                flat.push_back(p);
            }
        const FluxMap mean({-20, 0, 20}, {0, 10, 20}, flat);
        const PositionMap map(mean);
        for (Dq i : {Dq{-7, 12}, Dq{13, -4}}) {
            const PositionMap::Point one = map.at(0.1, i), other = map.at(2.2, i);
            CLOSE(one.d.value, mean.flux_linkage(i).d, 1e-12);
            CLOSE(one.q.value, mean.flux_linkage(i).q, 1e-12);
            CLOSE(one.torque.value, mean.torque(i), 1e-12);
            QCOMPARE(one.q.value, other.q.value);
            QCOMPARE(one.d.over_angle, 0.0);
            QCOMPARE(one.zero.value, 0.0);
        }
    }
    void phases_have_the_slopes_of_their_linkages() {
        const MapMachine machine(wavy_map());
        const Currents i(9, -14, 5);
        for (double t : angles) {
            const PhaseState state = machine.at(t, i);
            const double h = 1e-5;
            const Eigen::Vector3d turning =
                (machine.at(t + h, i).linkage - machine.at(t - h, i).linkage) / (2 * h);
            CLOSE((turning - state.slope).norm(), 0, 1e-6);
            for (int k = 0; k < 3; ++k) {
                Currents more = i, less = i;
                more[k] += 1e-3;
                less[k] -= 1e-3;
                const Eigen::Vector3d slope =
                    (machine.at(t, more).linkage - machine.at(t, less).linkage) / 2e-3;
                CLOSE((slope - state.inductance.col(k)).norm(), 0, 1e-9);
            }
            CLOSE(state.linkage.mean(), Wavy::zero(t, vector_of(t, i)), 1e-9);
        }
    }
    void what_phases_have_in_common_meets_its_own_inductance() {
        const MapMachine machine(wavy_map());
        constexpr double series = 1e-4, common = 7e-4;
        const WithZeroSequence whole(machine, common, 5);
        const WithSeriesInductance phases(whole, series);
        const PhasePorts ports(phases);
        const Eigen::Vector3d star(9, -14, 5), all = Eigen::Vector3d::Constant(2);
        const PortState one = ports.at(0.4, star), other = ports.at(0.4, star + all);
        for (int k = 0; k < 3; ++k) {
            CLOSE(one.linkage[k], machine.at(0.4, star).linkage[k] + series * star[k], 1e-12);
            CLOSE(other.linkage[k] - one.linkage[k], 2 * (series + common), 1e-12);
        }
        const Eigen::Vector3d by_slope = one.inductance * all;
        CLOSE((by_slope - (other.linkage - one.linkage)).norm(), 0, 1e-12);
        // The power that turning puts into the linkages alone: of a star nothing, of the common current its
        // own.
        CLOSE(one.torque, machine.at(0.4, star).torque, 1e-12);
        const double h = 1e-5;
        const Eigen::Vector3d turning =
            (ports.at(0.4 + h, star).linkage - ports.at(0.4 - h, star).linkage) / (2 * h);
        CLOSE(other.torque - one.torque, 5 * 2 * turning.sum(), 1e-5);
    }

  private:
    static Dq vector_of(double theta, const Currents& i) {
        return to_dq({i[0], i[1], i[2]}, theta, {0, 2 * pi / 3, 4 * pi / 3});
    }
};

MAVLO_TEST(position_map, TestPositionMap, EventLoop)
#include "test_position_map.moc"
