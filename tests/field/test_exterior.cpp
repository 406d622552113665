// The air beyond the machine, against closed forms of a dipole in a ring.

#include "figure/machine_model.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double remanence = 1.2, magnet_outer = 0.025, magnet_inner = 0.02, bore = 0.026, outside = 0.03;

/// A ring magnetised all through in one direction, two poles, in a stator of this permeability.
Design dipole(const std::string& stator, const std::string& boundary) {
    return design_of({{"gap", "1 mm"},
                      {"stator.outer_diameter", "60 mm"},
                      {"stator.bore_diameter", "52 mm"},
                      {"stator.slot.kind", "none"},
                      {"stator.steel", stator},
                      {"stator.outer_boundary", boundary},
                      {"rotor.steel", "linear(1)"},
                      {"stator.stacking_factor", "1"},
                      {"rotor.stacking_factor", "1"},
                      {"rotor.poles", "2"},
                      {"rotor.magnet.thickness", "5 mm"},
                      {"rotor.magnet.arc", "1"},
                      {"rotor.magnet.magnetisation", "parallel"},
                      {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
                      {"rotor.shaft_diameter", "0 mm"}});
}

/// Of a ring of mu_r round a dipole: what it lets out.
double let_out(double mu_r) {
    const double o = outside * outside, i = bore * bore;
    return 4 * mu_r * o / ((mu_r + 1) * (mu_r + 1) * o - (mu_r - 1) * (mu_r - 1) * i);
}

} // namespace

class TestExterior : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_dipole_reaches_outside_data() {
        QTest::addColumn<double>("mu_r");
        QTest::addColumn<double>("angle");
        for (double mu_r : {1.0, 5.0, 40.0}) {
            QTest::newRow(("mu_r " + std::to_string(mu_r)).c_str()) << mu_r << 0.0;
            QTest::newRow(("turned, mu_r " + std::to_string(mu_r)).c_str()) << mu_r << 0.3;
        }
    }
    void a_dipole_reaches_outside() {
        QFETCH(double, mu_r);
        QFETCH(double, angle);
        const auto model = prepare_field(machine_of(dipole("linear(" + std::to_string(mu_r) + ")", "open")));
        QVERIFY(bool(model));
        QVERIFY((*model)->exterior);
        const auto field = FieldSolver(*model).solve(angle, {});
        QVERIFY(bool(field));
        const Exterior& air = *(*model)->exterior;
        const double b = air.largest_flux_density(gather(air.unknowns(), field->potential), outside),
                     free = remanence / 2 * (magnet_outer * magnet_outer - magnet_inner * magnet_inner) /
                            (outside * outside),
                     expected = free * let_out(mu_r);
        qInfo("%.6f T, expected %.6f T", b, expected);
        CLOSE(b / expected, 1, 6e-4);
        // The torque of a round machine stays none.
        CLOSE(field->torque, 0, 1e-7);
    }
    void a_closed_boundary_holds_all_in() {
        const auto model = prepare_field(machine_of(dipole("linear(1)", "closed")));
        QVERIFY(bool(model));
        QVERIFY(!(*model)->exterior);
    }
    void steel_that_saturates_opens_it() {
        const auto open = [](const Design& design) {
            return machine_of(design).section.bodies.back().tile.open;
        };
        QVERIFY(!open(dipole("linear(1000)", "auto")));
        QVERIFY(open(dipole("M330-35A", "auto")));
        QVERIFY(!open(dipole("M330-35A", "closed")));
        QVERIFY(open(dipole("linear(1000)", "open")));
    }
    /// Where the yoke is thick and steel, nothing changes; where it is thin the field of the gap falls.
    void a_thin_yoke_leaks() {
        const auto torque_current = [](const std::string& outer, const std::string& boundary) {
            Design design = dipole("M330-35A", boundary);
            design.texts["stator.outer_diameter"] = outer;
            design.texts["rotor.steel"] = "M330-35A";
            const auto model = prepare_field(machine_of(design));
            if (!model) qFatal("no model");
            const auto field = FieldSolver(*model).solve(0, {});
            if (!field) qFatal("no field");
            return field->coenergy;
        };
        const double thick = torque_current("100 mm", "open") / torque_current("100 mm", "closed"),
                     thin = torque_current("56 mm", "open") / torque_current("56 mm", "closed");
        qInfo("coenergy open over closed: %.6f thick, %.4f thin", thick, thin);
        CLOSE(thick, 1, 1e-4);
        // A boundary of A = 0 forces through the yoke what would otherwise go outside.
        QVERIFY(std::abs(thin - 1) > 0.01);
    }
    /// Half a machine's sector, its sign reversed, holds what the whole does.
    void a_sector_is_a_part_of_the_whole() {
        Design design = dipole("M330-35A", "open");
        design.texts["rotor.poles"] = "6";
        design.texts["rotor.steel"] = "M330-35A";
        design.texts["stator.outer_diameter"] = "56 mm";
        const auto energy = [&](bool whole) {
            MachineOptions options;
            options.whole = whole;
            const auto model = prepare_field(machine_of(design, options));
            if (!model) qFatal("no model");
            const auto field = FieldSolver(*model).solve(0.1, {});
            return field ? field->energy : 0;
        };
        CLOSE(energy(false) / energy(true), 1, 1e-6);
    }
};
MAVLO_TEST(exterior, TestExterior, Nothing)
#include "test_exterior.moc"
