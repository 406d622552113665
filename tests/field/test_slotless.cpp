// The field of a smooth machine against the exact series of Zhu, Howe, Bolte and Ackermann (1993).

#include "figure/sample.h"
#include "figure/spectrum.h"
#include "support.h"
#include "test_program.h"

#include <numbers>

using namespace mavlo;

namespace {

Design smooth(const nlohmann::json& g, const std::string& magnetisation, const std::string& iron) {
    auto mm = [](double x) { return std::to_string(x * 1e3) + " mm"; };
    return design_of(
        {{"gap", mm(g["R_stator_bore"].get<double>() - g["R_magnet"].get<double>())},
         {"stator.outer_diameter", mm(2 * g["R_stator_outer"].get<double>())},
         {"stator.bore_diameter", mm(2 * g["R_stator_bore"].get<double>())},
         {"stator.slot.kind", "none"},
         {"stator.steel", iron},
         {"rotor.steel", iron},
         {"stator.stacking_factor", "1"},
         {"rotor.stacking_factor", "1"},
         {"rotor.poles", "6"},
         {"rotor.magnet.thickness", mm(g["R_magnet"].get<double>() - g["R_rotor_iron"].get<double>())},
         {"rotor.magnet.arc", "0.8"},
         {"rotor.magnet.magnetisation", magnetisation},
         {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
         {"rotor.shaft_diameter", "0 mm"}});
}

} // namespace

class TestSlotless : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void harmonics_match_the_series_data() {
        QTest::addColumn<int>("index");
        const auto data = reference("slotless_pm.json");
        for (std::size_t i = 0; i < data["cases"].size(); ++i)
            QTest::newRow(
                ("case " + data["cases"][i]["magnetisation"].dump() + data["cases"][i]["mu_iron"].dump())
                    .c_str())
                << int(i);
    }
    void harmonics_match_the_series() {
        QFETCH(int, index);
        const auto data = reference("slotless_pm.json");
        const auto& c = data["cases"][std::size_t(index)];
        const std::string iron = c["mu_iron"].is_number()
                                     ? "linear(" + std::to_string(int(c["mu_iron"].get<double>())) + ")"
                                     : "linear(inf)";
        const Machine m = machine_of(smooth(data["geometry"], c["magnetisation"], iron));
        const auto model = prepare_field(m);
        QVERIFY(bool(model));
        const auto field = FieldSolver(*model).solve(0, {});
        QVERIFY(bool(field));
        const auto ring = (*model)->gap().ring(gap_traces(**model, *field), m.middle_of_gap(), 4096);
        const auto radial = harmonics(ring.radial), tangential = harmonics(ring.tangential);
        const double fundamental = c["harmonics"][0]["Br_mid"];
        double worst = 0;
        for (const auto& h : c["harmonics"]) {
            const int k = h["k"];
            const double tolerance = (k == 1 ? 1e-3 : 3e-3) * fundamental;
            const std::size_t order = std::size_t(k * m.pole_pairs());
            worst = std::max(worst, std::abs(radial[order].real() - h["Br_mid"].get<double>()) / fundamental);
            if (k == 1) qInfo("fundamental differs by %.1e", worst);
            CLOSE(radial[order].real(), h["Br_mid"].get<double>(), tolerance);
            CLOSE(-tangential[order].imag(), h["Bt_mid"].get<double>(), tolerance);
            CLOSE(radial[order].imag(), 0, 1e-6);
        }
        qInfo("worst harmonic differs by %.1e of the fundamental", worst);
    }
    void a_smooth_stator_cogs_by_nothing() {
        const auto data = reference("slotless_pm.json");
        const Machine m = machine_of(smooth(data["geometry"], "parallel", "M330-35A"));
        const auto model = prepare_field(m);
        QVERIFY(bool(model));
        FieldSolver solver(*model);
        const auto first = solver.solve(0, {});
        QVERIFY(bool(first));
        const auto ring = (*model)->gap().ring(gap_traces(**model, *first), m.middle_of_gap(), 1024);
        const double b = rms(ring.radial);
        const double pull =
            2 * std::numbers::pi * m.middle_of_gap() * m.stack_length * b * b / (2 * mu0) * m.middle_of_gap();
        FieldSolution last = *first;
        for (int i = 0; i < 50; ++i) {
            const auto field = solver.solve(0.0137 * i + 0.003 * i * i, {}, &last);
            QVERIFY(bool(field));
            QVERIFY2(std::abs(field->torque) < 1e-6 * pull, qPrintable(QString::number(field->torque / pull)));
            last = *field;
        }
    }
};
MAVLO_TEST(slotless, TestSlotless, Nothing)
#include "test_slotless.moc"
