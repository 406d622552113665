// Slotted machines with ideal iron against the exact subdomain solution (Lubin, Mezani, Rezzoug 2011).

#include "figure/park.h"
#include "figure/sample.h"
#include "figure/spectrum.h"
#include "quantity/constants.h"
#include "question/sweep.h"
#include "support.h"
#include "test_program.h"

#include <numbers>

using namespace mavlo;

namespace {

double root_mean_square_difference(const std::vector<double>& a, const std::vector<double>& b) {
    double sum = 0;
    for (std::size_t i = 0; i < a.size(); ++i) sum += (a[i] - b[i]) * (a[i] - b[i]);
    return std::sqrt(sum / double(a.size()));
}
} // namespace

class TestSlotted : public QObject {
    Q_OBJECT
    void rows() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"12s10p_radial", "9s6p_parallel"}) QTest::newRow(name) << name;
    }
    struct Case {
        nlohmann::json data;
        std::shared_ptr<const MachineModel> model;
    };
    Case load_case() {
        QFETCH(QString, name);
        Case c;
        c.data = reference("slotted_pm.json")["machines"][name.toStdString()];
        c.model = *prepare_field(machine_of(slotted_reference(c.data["geometry"])));
        return c;
    }

  private Q_SLOTS:
    void cogging_matches_data() { rows(); }
    void cogging_matches() {
        const Case c = load_case();
        const auto exact = c.data["cogging"]["torque"].get<std::vector<double>>();
        std::vector<Position> positions;
        for (double alpha : c.data["cogging"]["alpha_deg"]) positions.push_back({alpha * degree, {}});
        const auto results = sweep(c.model, positions, 0, {});
        QVERIFY(bool(results));
        std::vector<double> torque;
        for (const auto& r : *results) torque.push_back(r.torque);
        double peak = 0;
        for (double t : exact) peak = std::max(peak, std::abs(t));
        const double error = root_mean_square_difference(torque, exact) / peak;
        qInfo("cogging differs by %.2f %% of its peak (rms)", 100 * error);
        QVERIFY(error < 0.01);
    }
    void flux_linkage_matches_data() { rows(); }
    void flux_linkage_matches() {
        const Case c = load_case();
        const int points = 48;
        std::vector<Position> positions;
        const double period = 2 * std::numbers::pi / c.model->machine.pole_pairs();
        for (int i = 0; i < points; ++i) positions.push_back({period * i / points, {}});
        const auto results = sweep(c.model, positions, 0, {});
        QVERIFY(bool(results));
        std::vector<double> flux;
        for (const auto& r : *results) flux.push_back(r.flux_linkage[0]);
        const double wanted = c.data["open_circuit"]["fundamental"], found = std::abs(harmonics(flux)[1]);
        qInfo("flux linkage differs by %.3f %%", 100 * (found / wanted - 1));
        CLOSE(found, wanted, 0.001 * wanted);
        // Speed times flux linkage is the back-EMF.
        const double speed = c.data["open_circuit"]["rpm"].get<double>() * std::numbers::pi / 30;
        CLOSE(found * speed * c.model->machine.pole_pairs(),
              c.data["open_circuit"]["emf_fundamental"].get<double>(),
              0.001 * c.data["open_circuit"]["emf_fundamental"].get<double>());
    }
    void torque_under_current_matches_data() { rows(); }
    void torque_under_current_matches() {
        const Case c = load_case();
        const Machine& m = c.model->machine;
        const auto exact = c.data["load"]["torque"].get<std::vector<double>>();
        const auto alphas = c.data["open_circuit"]["alpha_deg"].get<std::vector<double>>();
        std::vector<Position> positions;
        for (std::size_t i = 0; i < exact.size(); ++i) {
            const double angle = alphas[i] * degree;
            positions.push_back({angle, to_phases({0, c.data["load"]["I_peak"]}, electrical_angle(m, angle),
                                                  m.winding.layout.lags)});
        }
        const auto results = sweep(c.model, positions, 0, {});
        QVERIFY(bool(results));
        std::vector<double> torque;
        for (const auto& r : *results) torque.push_back(r.torque);
        const double wanted = mean(exact), error = root_mean_square_difference(torque, exact) / wanted;
        qInfo("torque differs by %.3f %% of its mean (rms), its mean by %.3f %%", 100 * error,
              100 * (mean(torque) / wanted - 1));
        CLOSE(mean(torque), wanted, 0.003 * wanted);
        QVERIFY(error < 0.003);
    }
    void gap_field_matches_data() { rows(); }
    void gap_field_matches() {
        const Case c = load_case();
        const auto field = FieldSolver(c.model).solve(0, {});
        QVERIFY(bool(field));
        const auto ring =
            c.model->gap().ring(gap_traces(*c.model, *field), c.data["midgap_field"]["radius"], 2048);
        const auto waves = harmonics(ring.radial);
        const auto orders = c.data["midgap_field"]["order"].get<std::vector<int>>();
        const auto wanted = c.data["midgap_field"]["Br_cos"].get<std::vector<double>>();
        for (std::size_t i = 0; i < orders.size(); ++i)
            CLOSE(waves[std::size_t(orders[i])].real(), wanted[i], 0.004);
    }
};
MAVLO_TEST(slotted, TestSlotted, Nothing)
#include "test_slotted.moc"
