// Rooms of air that are filled: pockets, barriers and wedges of a material of their own.

#include "figure/machine_model.h"
#include "figure/mass.h"
#include "figure/park.h"
#include "machine/hash.h"
#include "project/project.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

Design shape(const char* name, std::initializer_list<std::pair<const char*, std::string>> with) {
    Design design = new_project(name)->variants.front().design;
    for (const auto& [path, text] : with) design.texts[path] = text;
    return design;
}

FieldSolution field(const Machine& machine, double amperes = 0) {
    const auto model = *prepare_field(machine, {Quality::Draft});
    const double angle = 0.2 / machine.poles;
    return *FieldSolver(model).solve(
        angle,
        to_phases(current_vector(amperes, 0.3), electrical_angle(machine, angle), machine.winding.layout.lags));
}

double largest_linkage(const FieldSolution& f) {
    double most = 0;
    for (double linkage : f.flux_linkage) most = std::max(most, std::abs(linkage));
    return most;
}

/// Of phase U's own current, without the magnets', Wb.
double self_linkage(const Machine& machine) {
    FieldSolver solver(*prepare_field(machine, {Quality::Draft}));
    PortValues one(std::size_t(machine.winding.phases), 0.0), none = one;
    one[0] = 0.1 * machine.rating.current;
    const double with = solver.solve(0, one)->flux_linkage[0];
    return with - solver.solve(0, none)->flux_linkage[0];
}

double fillings(const Machine& machine) {
    return active_mass(**prepare_field(machine, {Quality::Draft})).fillings;
}

/// Of open slots on parallel sides, behind a tip, with a wedge.
Design wedged(const std::string& filling) {
    return shape("surface", {{"stator.slot.opening", "4 mm"},
                             {"stator.slot.tip_depth", "1 mm"},
                             {"stator.slot.wedge", "1.5 mm"},
                             {"stator.slot.wedge_filling", filling}});
}

} // namespace

class TestFillings : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void what_does_not_magnetise_is_as_air_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("path");
        QTest::newRow("vee") << "vee"
                             << "rotor.pocket.filling";
        QTest::newRow("second layer") << "double-vee"
                                      << "rotor.second.pocket.filling";
        QTest::newRow("spoke") << "spoke"
                               << "rotor.pocket.filling";
        QTest::newRow("barriers") << "reluctance"
                                  << "rotor.barrier.filling";
    }
    void what_does_not_magnetise_is_as_air() {
        QFETCH(QString, name);
        QFETCH(QString, path);
        const std::string kind = name.toStdString(), filling = path.toStdString();
        const Machine air = machine_of(shape(kind.c_str(), {}));
        const Machine resin = machine_of(shape(kind.c_str(), {{filling.c_str(), "impregnating resin"}}));
        const Machine steel = machine_of(shape(kind.c_str(), {{filling.c_str(), "linear(800)"}}));
        QVERIFY(resin.substance(filling));
        QVERIFY(!air.substance(filling));
        const double current = 0.7 * air.rating.current;
        CLOSE(field(resin, current).torque, field(air, current).torque,
              1e-9 * std::abs(field(air, current).torque));
        // Steel in the pockets shorts the magnets or takes the saliency away.
        QVERIFY(std::abs(field(steel, current).torque) < 0.99 * std::abs(field(air, current).torque));
        QVERIFY(fillings(resin) > 0);
        QCOMPARE(fillings(air), 0.0);
    }
    void a_wedge_of_its_own_material_is_parted_from_the_mouth() {
        const Machine air = machine_of(wedged("air")), one = machine_of(wedged("linear(1)"));
        const Machine magnetic = machine_of(wedged("magnetic wedge"));
        const auto regions = [](const Machine& m, const char* path) {
            const auto& list = m.section.stator().tile.regions;
            return std::count_if(list.begin(), list.end(), [&](const Region& r) { return r.path == path; });
        };
        QCOMPARE(regions(air, "stator.slot.wedge"), 0);
        QCOMPARE(regions(magnetic, "stator.slot.wedge"), 1);
        QCOMPARE(regions(magnetic, "stator.slot.mouth"), 1);
        CLOSE(largest_linkage(field(one)), largest_linkage(field(air)), 2e-3 * largest_linkage(field(air)));
        // Conductors keep their room.
        CLOSE(magnetic.winding.slot_area, air.winding.slot_area, 1e-12);
        // A magnetic wedge leads flux from tooth to tooth: the slot's leakage is larger.
        QVERIFY(self_linkage(magnetic) > 1.02 * self_linkage(air));
    }
    void a_magnet_fills_nothing() {
        const auto machine = build_machine(shape("vee", {{"rotor.pocket.filling", "NdFeB 310/130"}}));
        QVERIFY(!machine);
        QVERIFY(sentence_at(machine.problems(), "rotor.pocket.filling").find("magnet") != std::string::npos);
    }
    void a_wedge_without_thickness_has_no_material() {
        QVERIFY(!is_used(shape("surface", {}), "stator.slot.wedge_filling"));
        QVERIFY(is_used(wedged("air"), "stator.slot.wedge_filling"));
    }
    void materials_in_use_do_not_count_air() {
        for (const MaterialPlace& place : materials_named(shape("vee", {}))) QVERIFY(place.name != "air");
        const auto places = materials_named(shape("vee", {{"rotor.pocket.filling", "impregnating resin"}}));
        QVERIFY(std::any_of(places.begin(), places.end(),
                            [](const MaterialPlace& p) { return p.path == "rotor.pocket.filling"; }));
    }
    void an_insulator_keeps_its_permeability() {
        const Material wedge = shipped_materials().at("magnetic wedge");
        CLOSE(wedge.curve.linear_mu_r(), 3.5, 1e-12);
        const auto again = read_material("magnetic wedge", to_json(wedge));
        QVERIFY(bool(again));
        QVERIFY(again->curve == wedge.curve);
        QVERIFY(!read_material("bad", nlohmann::json{{"kind", "insulator"}, {"mu_r", 0.2}}));
    }
};
MAVLO_TEST(fillings, TestFillings, Nothing)
#include "test_fillings.moc"
