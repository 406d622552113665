#include "material/material.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

class TestMaterial : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void shipped_library_is_complete() {
        const auto& library = shipped_materials();
        for (const char* name : {"M330-35A", "M400-50A", "NdFeB 310/130", "Ferrite 28/26", "copper"})
            QVERIFY2(library.contains(name), name);
        QVERIFY(library.at("M330-35A").thickness != library.at("M400-50A").thickness);
        for (const auto& [name, material] : library) QVERIFY2(!material.note.empty(), name.c_str());
    }
    void steel_curve_passes_its_points_and_is_monotone() {
        for (const char* name : {"M330-35A", "M400-50A"}) {
            const BhCurve& curve = shipped_materials().at(name).curve;
            for (const BhPoint& p : curve.points()) CLOSE(curve.at(p.b).h, p.h, 1e-9 * (1 + p.h));
            double last = -1;
            for (double b = 0; b < 4; b += 1e-3) {
                const auto v = curve.at(b);
                QVERIFY(v.h > last);
                QVERIFY(v.dh_db > 0 && v.dh_db <= nu0 * (1 + 1e-12));
                last = v.h;
            }
        }
    }
    void slope_and_energy_are_the_derivative_and_integral() {
        const BhCurve& curve = shipped_materials().at("M330-35A").curve;
        double energy = 0;
        const double h = 1e-5;
        for (double b = 0; b < 3; b += h) {
            energy += curve.at(b + h / 2).h * h;
            if (std::fmod(b, 0.05) < h) {
                const double slope = (curve.at(b + h).h - curve.at(b).h) / h;
                CLOSE(curve.at(b + h / 2).dh_db, slope, 2e-2 * slope);
                CLOSE(curve.at(b + h).energy, energy, 1e-6 * energy + 1e-6);
            }
        }
    }
    /// What dissolved silicon adds to iron's resistivity stays; what heat adds is iron's.
    void warm_steel_loses_less() {
        const Material& steel = shipped_materials().at("M330-35A");
        CLOSE(steel.resistivity_at(393.15) - steel.resistivity_at(293.15), 100 * 6.3e-10, 1e-15);
        const IronLossLaw cold = steel.loss_at(293.15), warm = steel.loss_at(393.15);
        QVERIFY(cold == steel.loss);
        const double ratio = steel.resistivity / (steel.resistivity + 63e-9);
        CLOSE(warm.classical / cold.classical, ratio, 1e-12);
        CLOSE(warm.excess, cold.excess * std::sqrt(ratio), 1e-12);
        CLOSE(warm.hysteresis, cold.hysteresis, 0);
        // Between one and the share of all that eddy currents lose.
        const double p = warm.loss(400, 1) / cold.loss(400, 1);
        QVERIFY(p < 1 && p > ratio);
        const Material& mild = shipped_materials().at("mild steel"); // it says its own coefficient
        CLOSE(mild.resistivity_at(393.15) / mild.resistivity, 1.5, 1e-12);
        Material unknown = steel;
        unknown.resistivity = 0;
        QVERIFY(unknown.loss_at(393.15) == steel.loss);
        const Material& copper = shipped_materials().at("copper");
        CLOSE(copper.resistivity_at(393.15) / copper.resistivity, 1.393, 1e-12);
    }
    void heat_across_sheets() {
        Material steel = shipped_materials().at("M330-35A");
        CLOSE(1 / steel.stack_conductivity(0.95), 0.95 / 26 + 0.05 / 0.1, 1e-12);
        CLOSE(steel.stack_conductivity(1), 26, 1e-12);
        steel.thermal_conductivity_across = 3;
        CLOSE(steel.stack_conductivity(0.95), 3, 0);
        const auto again = read_material(steel.name, to_json(steel));
        QVERIFY(again && *again == steel);
        const Material& mild = shipped_materials().at("mild steel"); // no sheet
        CLOSE(mild.stack_conductivity(0.95), mild.thermal_conductivity, 0);
    }
    void far_beyond_its_points_steel_is_vacuum() {
        const BhCurve& curve = shipped_materials().at("M400-50A").curve;
        CLOSE(curve.at(4).dh_db / nu0, 1, 1e-6);
    }
    void stacked_curve_mixes_steel_and_air() {
        const BhCurve& steel = shipped_materials().at("M330-35A").curve;
        const BhCurve stack = steel.stacked(0.95);
        for (const BhPoint& p : steel.points())
            CLOSE(stack.at(0.95 * p.b + 0.05 * mu0 * p.h).h, p.h, 1e-9 * (1 + p.h));
        CLOSE(BhCurve::linear(1000).stacked(0.9).linear_mu_r(), 900.1, 1e-9);
    }
    void bad_curves_are_refused_with_the_row_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("word");
        QTest::newRow("falling B") << R"({"kind":"steel","bh":[[100,1],[200,1.2],[300,1.1],[400,1.5]]})"
                                   << "row 3";
        QTest::newRow("falling H") << R"({"kind":"steel","bh":[[100,1],[90,1.2],[300,1.4]]})"
                                   << "row 2";
        QTest::newRow("one point") << R"({"kind":"steel","bh":[[100,1]]})"
                                   << "at least two";
        QTest::newRow("no pair") << R"({"kind":"steel","bh":[[100,1],[200]]})"
                                 << "not a pair";
        QTest::newRow("no curve") << R"({"kind":"steel"})"
                                  << "mu_r";
        QTest::newRow("no kind") << R"({"bh":[]})"
                                 << "steel";
        QTest::newRow("strange key") << R"({"kind":"steel","mu_r":1000,"colour":"blue"})"
                                     << "not known";
        QTest::newRow("wrong unit") << R"({"kind":"magnet","remanence":"5 mm","recoil_mu_r":1.05})"
                                    << "flux density";
        QTest::newRow("no remanence") << R"({"kind":"magnet","recoil_mu_r":1.05})"
                                      << "missing";
        QTest::newRow("permeability") << R"({"kind":"steel","mu_r":0.2})"
                                      << "1 or more";
    }
    void bad_curves_are_refused_with_the_row() {
        QFETCH(QString, text);
        QFETCH(QString, word);
        const auto material = read_material("x", nlohmann::json::parse(text.toStdString()));
        QVERIFY(!material);
        QString all;
        for (const auto& p : material.problems()) all += QString::fromStdString(to_string(p)) + '\n';
        QVERIFY2(all.contains(word), qPrintable(all));
    }
    void inline_materials() {
        const auto iron = find_material("linear(5000)", {MaterialKind::Steel}, {});
        QVERIFY(iron && iron->curve.linear_mu_r() == 5000);
        QCOMPARE(find_material("linear(inf)", {MaterialKind::Steel}, {})->curve.linear_mu_r(), ideal_mu_r);
        const auto magnet = find_material("magnet(1.2 T, 1.05)", {MaterialKind::Magnet}, {});
        QVERIFY(bool(magnet));
        CLOSE(magnet->magnet.remanence_at(400), 1.2, 0);
        for (const char* bad :
             {"linear(0)", "linear()", "magnet(1.2, 1.05)", "magnet(1.2 T)", "magnet(-1 T, 1)", "linear(nan)"})
            QVERIFY2(!parse_inline_material(bad), bad);
        QVERIFY(!find_material("linear(5000)", {MaterialKind::Magnet}, {}));
        QVERIFY(!find_material("unobtainium", {MaterialKind::Steel}, {}));
    }
    void own_materials_come_before_shipped_ones() {
        MaterialLibrary own;
        own["copper"] = shipped_materials().at("copper");
        own["copper"].resistivity = 1;
        CLOSE(find_material("copper", {MaterialKind::Conductor}, own)->resistivity, 1, 0);
    }
    void temperatures_follow_their_coefficients() {
        const MagnetData& m = shipped_materials().at("NdFeB 310/130").magnet;
        CLOSE(m.remanence_at(373.15), m.remanence * (1 - 0.0011 * 80), 1e-12);
        CLOSE(m.coercivity_at(373.15), m.coercivity * (1 - 0.006 * 80), 1e-6);
        const Material& copper = shipped_materials().at("copper");
        CLOSE(copper.resistivity_at(393.15) / copper.resistivity, 1.393, 1e-9);
    }
    void warm_curves_are_interpolated() {
        const auto steel = read_material("x", nlohmann::json::parse(R"({"kind":"steel",
            "bh":[[100,1.0],[1000,1.5],[10000,1.8]],
            "bh_at":{"120 degC":[[100,0.9],[1000,1.4],[10000,1.7]]}})"));
        QVERIFY(bool(steel));
        CLOSE(steel->curve_at(293.15).flux_density(1000), 1.5, 1e-9);
        CLOSE(steel->curve_at(393.15).flux_density(1000), 1.4, 1e-9);
        CLOSE(steel->curve_at(343.15).flux_density(1000), 1.45, 1e-9);
        CLOSE(steel->curve_at(600).flux_density(1000), 1.4, 1e-9);
        CLOSE(steel->curve_at(200).flux_density(1000), 1.5, 1e-9);
        QVERIFY(!read_material(
            "x", nlohmann::json::parse(R"({"kind":"steel","bh":[[100,1],[200,2]],"bh_at":{"warm":[]}})")));
    }
    void the_shelf_has_steels_magnets_and_what_belongs_to_them() {
        int sheets = 0, magnets = 0, insulators = 0;
        for (const auto& [name, m] : shipped_materials()) {
            sheets += m.kind == MaterialKind::Steel && m.thickness >= 0.2e-3 && m.thickness <= 0.65e-3 &&
                      m.loss.known();
            magnets += m.kind == MaterialKind::Magnet;
            insulators += m.kind == MaterialKind::Insulator;
            QVERIFY2(m.density > 500 && m.specific_heat > 300 && m.thermal_conductivity > 0.05, name.c_str());
            if (m.loss.known()) QVERIFY2(m.loss.fit_error < 0.08, name.c_str());
            if (m.kind == MaterialKind::Magnet)
                QVERIFY2(m.magnet.coercivity > 0 && m.highest_temperature > 340, name.c_str());
        }
        QVERIFY(sheets >= 9 && magnets >= 12 && insulators >= 5);
        for (const char* name : {"CoFe 49", "SMC", "mild steel", "aluminium"})
            QVERIFY(shipped_materials().contains(name));
    }
    void losses_follow_a_power_law_where_it_is_chosen() {
        std::vector<LossPoint> points;
        for (double f : {50., 200., 1000.})
            for (double b : {0.4, 0.8, 1.2, 1.6})
                points.push_back({f, b, 0.01 * std::pow(f, 1.35) * std::pow(b, 1.9 + 0.2 * b)});
        const auto law = fit_iron_loss(points, 0, LossLaw::Power);
        QVERIFY(bool(law));
        CLOSE(law->alpha, 1.35, 1e-9);
        CLOSE(law->exponent, 1.9, 1e-9);
        CLOSE(law->bend, 0.2, 1e-9);
        QVERIFY(law->fit_error < 1e-9);
        QVERIFY(law->extrapolates(20, 1) && law->extrapolates(50, 1.7) && !law->extrapolates(500, 1));
    }
};
MAVLO_TEST(material, TestMaterial, Nothing)
#include "test_material.moc"
