// Interpolation, and the drive against the closed solutions of a machine with constant inductances.

#include "map/drive.h"
#include "map/flux_map_file.h"
#include "quantity/search.h"
#include "question/map_answer.h"
#include "question/point_store.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fstream>
#include <numbers>

using namespace mavlo;
using std::numbers::pi;

namespace {

constexpr double psi = 0.3, ld = 1.2e-3, lq = 3.0e-3, pairs = 5; // 10 poles, the standard machine's

Dq linkage(Dq i) {
    return {psi + ld * i.d, lq * i.q};
}
double torque(Dq i) {
    const Dq l = linkage(i);
    return 1.5 * pairs * (l.d * i.q - l.q * i.d);
}

FluxMap linear_map(double most = 200, int steps = 20) {
    std::vector<double> id, iq;
    std::vector<FluxPoint> points;
    for (int k = 0; k <= steps; ++k) {
        id.push_back(most * (double(k) / steps - 1));
        iq.push_back(most * k / steps);
    }
    for (double q : iq)
        for (double d : id) {
            FluxPoint p;
            p.current = {d, q};
            p.flux_linkage = linkage(p.current);
            p.torque = torque(p.current);
            points.push_back(p);
        }
    return FluxMap(id, iq, points);
}

/// One function over a grid: values[j * x.size() + i] at y[j], x[i].
class GridFunction {
  public:
    GridFunction(std::vector<double> x, std::vector<double> y, const std::vector<double>& values)
        : m_functions(std::move(x), std::move(y),
                      Eigen::Map<const Eigen::VectorXd>(values.data(), Eigen::Index(values.size()))) {}
    double operator()(double x, double y) const { return m_functions.value(0, x, y); }

  private:
    GridFunctions m_functions;
};

/// No resistance, so that the limits are plain circles and ellipses.
Machine lossless() {
    Machine m = machine_of({});
    m.winding.conductor_material.resistivity = 1e-20;
    return m;
}

} // namespace

class TestMap : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void interpolation_meets_its_points_and_is_smooth() {
        std::vector<double> x{0, 1, 2.5, 3, 5}, y{-1, 0, 2, 3}, z;
        const auto f = [](double a, double b) { return std::tanh(a - 2) * (1 + b * b / 10) + b; };
        for (double b : y)
            for (double a : x) z.push_back(f(a, b));
        const GridFunction g(x, y, z);
        for (std::size_t j = 0; j < y.size(); ++j)
            for (std::size_t i = 0; i < x.size(); ++i) CLOSE(g(x[i], y[j]), z[j * x.size() + i], 1e-14);
        const double h = 1e-6;
        for (double b : {-0.5, 0.7, 2.6})
            for (double a : {1.0, 2.5, 3.0}) // across the lines of the grid: value and slope go on
                CLOSE((g(a + h, b) - g(a, b)) / h, (g(a, b) - g(a - h, b)) / h, 1e-4);
    }
    void what_rises_is_kept_rising() {
        const std::vector<double> x{0, 1, 2, 3, 4, 5}, steep{0, 0.01, 0.02, 1, 1.01, 1.02};
        std::vector<double> z = steep;
        z.insert(z.end(), steep.begin(), steep.end());
        const GridFunction g(x, {0, 1}, z);
        double last = g(0, 0.5);
        for (double t = 0.01; t <= 5; t += 0.01) {
            const double now = g(t, 0.5);
            QVERIFY(now >= last - 1e-12);
            last = now;
        }
        // A parabola's top is not cut off.
        std::vector<double> top;
        for (double t : x) top.push_back(-(t - 2.2) * (t - 2.2));
        z = top;
        z.insert(z.end(), top.begin(), top.end());
        CLOSE(GridFunction(x, {0, 1}, z)(2.2, 0.3), 0, 0.02);
        CLOSE(g(6, 0.5), g(5, 0.5) + 0.01, 5e-3); // beyond the edge by its slope
    }
    void the_map_is_its_own_mirror_image() {
        const FluxMap map = linear_map();
        CLOSE(map.torque({-30, 40}), torque({-30, 40}), 1e-6);
        CLOSE(map.torque({-30, -40}), -map.torque({-30, 40}), 1e-12);
        CLOSE(map.flux_linkage({-33, -47}).q, lq * -47, 1e-9);
        CLOSE(map.flux_linkage({-33, -47}).d, psi - ld * 33, 1e-9);
    }
    void most_torque_per_ampere() {
        // id = psi/(4 dL) - sqrt(psi^2/(16 dL^2) + I^2/2), dL = Lq - Ld (S. Morimoto et al., IEEE Trans. Ind.
        // Appl. 26(5), 1990)
        const Drive drive(lossless(), linear_map(), {150, 400});
        for (double current : {40.0, 90.0, 150.0}) {
            const double a = psi / (4 * (lq - ld)), id = a - std::sqrt(a * a + current * current / 2);
            const Dq found = drive.strongest_vector(current);
            CLOSE(std::hypot(found.d, found.q), current, 1e-9);
            CLOSE(found.d, id, 0.01 * current);
            CLOSE(drive.map().torque(found), torque({id, std::sqrt(current * current - id * id)}),
                  1e-3 * torque(found));
        }
        CLOSE(drive.characteristic_current(), psi / ld, 1e-3 * psi / ld); // beyond the map
    }
    void limits_are_met_at_every_speed() {
        const DriveLimits limits{150, 300};
        const Drive drive(lossless(), linear_map(), limits);
        const Dq best = drive.strongest_vector(150);
        const double flux = std::hypot(linkage(best).d, linkage(best).q),
                     base = limits.voltage / (pairs * flux);
        for (double factor : {0.5, 0.98, 1.3, 2.0, 3.0}) {
            const auto p = drive.strongest(factor * base);
            QVERIFY(p && drive.allowed(*p));
            if (factor < 1) CLOSE(p->torque / torque(best), 1, 2e-3);
            if (factor > 1.02) {
                QVERIFY(p->torque < torque(best));
                CLOSE(p->voltage, limits.voltage, 2e-3 * limits.voltage);
                // No allowed current gives more: a fine search of the plane.
                double most = 0;
                for (double d = -150; d <= 0; d += 0.5)
                    for (double q = 0; q <= 150; q += 0.5)
                        if (drive.allowed(drive.at({d, q}, factor * base)))
                            most = std::max(most, torque({d, q}));
                QVERIFY(p->torque > most * 0.998);
                CLOSE(p->torque / most, 1, 0.04); // of the half amperes searched
            }
        }
        QVERIFY(drive.strongest(base, -1)->torque < 0);
    }
    void the_best_currents_are_the_least() {
        const Drive drive(lossless(), linear_map(), {150, 1e6}, Aim::LeastCurrent);
        const auto p = drive.best(80.0, 10);
        QVERIFY(p.has_value());
        CLOSE(p->torque, 80, 1e-6);
        double least = 1e9;
        for (double d = -150; d <= 0; d += 0.5) {
            const double q = 80 / (1.5 * pairs * (psi + (ld - lq) * d));
            least = std::min(least, std::hypot(d, q));
        }
        CLOSE(p->amplitude() / least, 1, 2e-4);
        QVERIFY(!drive.best(1e5, 10));
        // Power goes where it should.
        const OperatingPoint at = drive.at({-20, 60}, 100);
        CLOSE(at.power.terminals() - at.power.known_shaft(), at.power.known_total(), 1e-9);
        CLOSE(1.5 * at.voltage * at.amplitude() * at.power_factor, at.torque * 100, 1e-3 * at.torque * 100);
    }
    void voltages_of_the_inverter() {
        CLOSE(voltage_limit(VoltageRule::Sine, 600, 1, Connection::Star, 3), 300, 1e-9);
        CLOSE(voltage_limit(VoltageRule::SpaceVector, 600, 1, Connection::Star, 3), 346.410, 1e-3);
        CLOSE(voltage_limit(VoltageRule::SixStep, 600, 0.5, Connection::Star, 3), 190.986, 1e-3);
        CLOSE(voltage_limit(VoltageRule::SpaceVector, 600, 1, Connection::Delta, 3), 600, 1e-9);
        // Two sets of three; an open phase between two legs.
        CLOSE(voltage_limit(VoltageRule::SpaceVector, 600, 1, Connection::Star, 6), 346.410, 1e-3);
        CLOSE(voltage_limit(VoltageRule::Sine, 600, 1, Connection::Open, 3), 600, 1e-9);
        CLOSE(voltage_limit(VoltageRule::SixStep, 600, 1, Connection::Open, 5), 4 * 600 / pi, 1e-9);
        QVERIFY(!voltage_rule("square"));
    }
    /// The zero sequence that makes most of the link puts the highest and the lowest of the phases' voltages at
    /// its rails at the same time: the largest of all differences between two of them is the link's voltage.
    void odd_phases_share_a_star_point_and_reach_the_link_between_two_of_them() {
        for (int n : {3, 5, 7, 11}) {
            const double peak = voltage_limit(VoltageRule::SpaceVector, 600, 1, Connection::Star, n);
            double most = 0;
            for (int k = 0; k < 3600; ++k)
                for (int a = 0; a < n; ++a)
                    for (int b = 0; b < n; ++b)
                        most = std::max(most, peak * (std::cos(2 * pi * (k / 3600.0 - double(a) / n)) -
                                                      std::cos(2 * pi * (k / 3600.0 - double(b) / n))));
            CLOSE(most, 600, 0.01);
        }
    }
    void roots_and_valleys() {
        CLOSE(*rising_root([](double x) { return x * x * x - 2; }, 0, 2), std::cbrt(2.0), 1e-9);
        QVERIFY(!rising_root([](double x) { return x + 3; }, 0, 1));
        CLOSE(least_between([](double x) { return (x - 0.3) * (x - 0.3); }, -1, 2, 1e-6), 0.3, 1e-5);
    }
    void maps_travel_in_answers() {
        Answer answer;
        add_flux_maps(answer, linear_map(100, 4));
        const auto back = flux_map_of(*answer_from_json(answer_to_json(answer)));
        QVERIFY(bool(back));
        CLOSE(back->torque({-10, 20}), linear_map(100, 4).torque({-10, 20}), 1e-12);
        QVERIFY(!flux_map_of(Answer{}));
    }
    void maps_are_files() {
        const QTemporaryDir folder;
        const FluxMap map = linear_map(100, 4);
        for (const char* name : {"m.h5", "m.csv"}) {
            const auto file = folder.filePath(QString::fromLatin1(name)).toStdString();
            QVERIFY(!write_flux_map(map, file));
            const auto back = read_flux_map(file);
            QVERIFY2(bool(back), name);
            for (std::size_t k = 0; k < map.points().size(); ++k)
                for (std::size_t c = 0; c < FluxPoint::columns; ++c)
                    CLOSE(back->points()[k].row()[c], map.points()[k].row()[c],
                          1e-11 * (1 + std::abs(map.points()[k].row()[c])));
        }
        QVERIFY(write_flux_map(map, "/nowhere/m.h5") &&
                write_flux_map(map, folder.filePath("m.xls").toStdString()));
        const auto bad = [&](const char* name, const char* text) {
            std::ofstream(folder.filePath(QString::fromLatin1(name)).toStdString()) << text;
            return !read_flux_map(folder.filePath(QString::fromLatin1(name)).toStdString());
        };
        QVERIFY(bad("a.csv", "") && bad("b.csv", "id,iq\n0,1\n") && bad("c.h5", "no hdf5"));
        QVERIFY(bad("d.csv", "id,iq,flux_linkage_d,flux_linkage_q,torque\n0,0,1,0,0\n-1,0,1,0\n"));
        QVERIFY(bad("e.csv", "id,iq,flux_linkage_d,flux_linkage_q,torque\n0,0,1,0,0\n-1,0,1,0,0\n0,1,1,1,1\n"));
        QVERIFY(
            !bad("f.csv",
                 "id,iq,flux_linkage_d,flux_linkage_q,torque\n0,0,1,0,0\n-1,0,1,0,0\n0,1,1,1,1\n-1,1,1,1,1\n"));
    }
    void stored_points_survive_a_cut() {
        const QTemporaryDir folder;
        const PointStore store = PointStore(folder.path().toStdString()).of("a machine");
        store.append("flux", {1, 2, 3.5});
        store.append("flux", {2, 2, -1e-9});
        QVERIFY(store.of("another").read("flux", 2, 3).empty());
        { // as a killed program leaves it
            std::ofstream file(
                QDir(folder.path()).filePath(QDir(folder.path()).entryList(QDir::Files).front()).toStdString(),
                std::ios::app);
            file << "3,2,7.12";
        }
        QCOMPARE(store.read("flux", 2, 3).size(), std::size_t(2));
        store.append("flux", {4, 2, 8});
        const auto rows = store.read("flux", 2, 3);
        QCOMPARE(rows.size(), std::size_t(3 + rows.contains({3, 2})));
        CLOSE(rows.at({4, 2})[2], 8, 0);
        CLOSE(rows.at({2, 2})[2], -1e-9, 0);
        QVERIFY(!PointStore().keeps() && PointStore().read("flux", 2, 3).empty());
    }
};
MAVLO_TEST(map, TestMap, Nothing)
#include "test_map.moc"
