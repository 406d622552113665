// Massive parts: layered rotors against exact solutions and a published benchmark, the balance of powers with a
// massive hub.

#include "drawing/pitch.h"
#include "figure/eddy.h"
#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "shape/dxf/writer.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fstream>
#include <set>

using namespace mavlo;

namespace {

std::vector<Piece> circle(double radius) {
    return {{{radius, 0}, {-radius, 0}, 1, 0}, {{-radius, 0}, {radius, 0}, 1, 0}};
}

/// A block between two radii, `width` wide about an angle (rad).
std::vector<Piece> block(double inner, double outer, double middle, double width) {
    const double a = middle - width / 2, b = middle + width / 2, bulge = std::tan(width / 4);
    return {{polar(inner, a), polar(inner, b), bulge, 0},
            {polar(inner, b), polar(outer, b), 0, 0},
            {polar(outer, b), polar(outer, a), -bulge, 0},
            {polar(outer, a), polar(inner, a), 0, 0}};
}

ImportedDrawing imported(const std::vector<Piece>& pieces, ImportOptions options) {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("part.dxf").toStdString();
    std::ofstream(file, std::ios::binary) << dxf_text(pieces, {"lines"});
    options.unit = "mm";
    auto drawing = import_drawing(file, options);
    if (!drawing) qFatal("%s", to_string(drawing.problems().front()).c_str());
    return std::move(*drawing);
}

/// With the region at each of these radii (m, on the x axis) given a role.
Design with_drawn(const Design& design, const std::vector<Piece>& pieces, DrawnSide side, int pitches,
                  const std::vector<std::pair<double, Role>>& roles) {
    ImportOptions options;
    options.rotor = side == DrawnSide::Rotor;
    options.stator = !options.rotor;
    options.poles = pitches;
    const ImportedDrawing first = imported(pieces, options);
    for (const auto& [radius, role] : roles) {
        const ImportedRegion* region = first.region_at({radius, 0});
        if (!region) qFatal("no region at %g", radius);
        options.roles[region->number] = role;
    }
    auto out = with_part(design, imported(pieces, options), side);
    if (!out) qFatal("%s", to_string(out.problems().front()).c_str());
    return *out;
}

Answer at_normal(const Design& design, const std::string& question, std::map<std::string, std::string> with) {
    return asked(design, question, std::move(with), Quality::Normal);
}

std::string turning(double omega) {
    return std::to_string(omega * 30 / pi) + " rpm";
}

/// The three-phase induction problem of the TEAM workshop, number 30a: massive rings, coils without teeth.
Design benchmark() {
    Design design = design_of({{"machine.stack_length", "1000 mm"},
                               {"gap", "2 mm"},
                               {"stator.outer_diameter", "114 mm"},
                               {"stator.bore_diameter", "64 mm"},
                               {"stator.slots", "6"},
                               {"stator.steel", "linear(30)"},
                               {"stator.stacking_factor", "1"},
                               {"stator.outer_boundary", "open"},
                               {"rotor.poles", "2"},
                               {"rotor.kind", "solid"},
                               {"rotor.steel", "linear(30)"},
                               {"rotor.shaft_diameter", "0 mm"},
                               {"winding.layers", "1"},
                               {"winding.turns", "1"},
                               {"rating.current", std::to_string(2045.175 * std::sqrt(2.0)) + " A"}});
    std::vector<Piece> stator;
    for (double radius : {0.052, 0.057})
        for (const Piece& p : circle(radius)) stator.push_back(p);
    for (int k = 0; k < 6; ++k)
        for (const Piece& p : block(0.032, 0.052, k * pi / 3, pi / 4)) stator.push_back(p);
    design = with_drawn(design, stator, DrawnSide::Stator, 6, {});
    std::vector<Piece> rotor = circle(0.02);
    for (const Piece& p : circle(0.03)) rotor.push_back(p);
    design = with_drawn(design, rotor, DrawnSide::Rotor, 2, {{0.01, Role::Iron}, {0.025, Role::Solid}});
    design.texts["gap"] = "2 mm";
    design.texts["rotor.solid"] = "yes";
    design.texts["rotor.resistivity"] = std::to_string(1e9 / 1.6e6) + "e-9 Ohm.m";
    design.texts["rotor.shell.material"] = "conductor(" + std::to_string(1e9 / 3.72e7) + "e-9 Ohm.m)";
    return design;
}

} // namespace

class TestSolid : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_benchmark_turns_data() {
        QTest::addColumn<QString>("amplitudes");
        QTest::addColumn<double>("omega");
        QTest::addColumn<double>("torque");
        QTest::newRow("three phases, 200 rad/s") << "auto" << 200.0 << 6.505013;
        if (!by_night()) return;
        QTest::newRow("three phases at rest") << "auto" << 0.0 << 3.825857;
        QTest::newRow("three phases, 600 rad/s") << "auto" << 600.0 << -5.75939;
        QTest::newRow("one phase") << "1, 0, 0" << 278.5546 << 0.442137;
    }
    /// Torque a metre as published with the problem (K.R. Davey, IEEE Trans. Magn. 34(5), 1998).
    void the_benchmark_turns() {
        QFETCH(QString, amplitudes);
        QFETCH(double, omega);
        QFETCH(double, torque);
        static const Design design = benchmark();
        const Answer answer = at_normal(design, "in-time",
                                        {{"supply", "currents"},
                                         {"method", "field"},
                                         {"frequency", "60 Hz"},
                                         {"speed", turning(omega)},
                                         {"amplitudes", amplitudes.toStdString()},
                                         {"points", "180"}});
        qInfo("%.6f N.m, published %.6f", of(answer, "torque_mean"), torque);
        CLOSE(of(answer, "torque_mean") / torque, 1, 1e-3);
    }
    /// A plain rotor of massive steel, by a drawing of one circle, against the exact layers.
    void a_massive_core_against_layers_data() {
        QTest::addColumn<int>("row");
        for (int row : {2, 0, 4})
            if (row == 2 || by_night()) QTest::addRow("row %d", row) << row;
    }
    void a_massive_core_against_layers() {
        QFETCH(int, row);
        const auto c = reference("solid_rotor.json")["cases"]["p1c"];
        const auto& wanted = c["results"][std::size_t(row)];
        const auto &stator = c["stator"], &slot = stator["segments"][0], &steel = c["rotor_layers"][0];
        const auto mm_of = [](const nlohmann::json& x) {
            return std::to_string(x.get<double>() * 1e3) + " mm";
        };
        const std::string width = std::to_string(slot["width_deg"].get<double>()) + " deg";
        Design design = design_of(
            {{"machine.stack_length", "1000 mm"},
             {"stator.outer_diameter", std::to_string(2e3 * stator["r_back"].get<double>()) + " mm"},
             {"stator.bore_diameter", std::to_string(2e3 * stator["r_gap"].get<double>()) + " mm"},
             {"stator.slots", std::to_string(stator["slots"].get<int>())},
             {"stator.steel", "linear(inf)"},
             {"stator.slot.kind", "radial"},
             {"stator.slot.opening_angle", width},
             {"stator.slot.body_angle", width},
             {"stator.slot.depth",
              std::to_string(1e3 * (slot["r_to"].get<double>() - stator["r_gap"].get<double>())) + " mm"},
             {"stator.slot.tip_depth", "0 mm"},
             {"rotor.poles", "2"},
             {"rotor.steel", "linear(" + std::to_string(steel["mu_r"].get<double>()) + ")"},
             {"winding.layers", "1"},
             {"winding.turns", std::to_string(c["turns"][0][0].get<int>())},
             {"rating.current", std::to_string(c["current"][0][0].get<double>()) + " A"}});
        design = with_drawn(design, circle(steel["r_out"].get<double>()), DrawnSide::Rotor, 2, {});
        design.texts["gap"] = mm_of(stator["r_gap"].get<double>() - steel["r_out"].get<double>());
        design.texts["rotor.solid"] = "yes";
        design.texts["rotor.resistivity"] = std::to_string(1e9 / steel["sigma"].get<double>()) + "e-9 Ohm.m";
        const Answer answer = at_normal(design, "in-time",
                                        {{"supply", "currents"},
                                         {"method", "field"},
                                         {"frequency", std::to_string(c["frequency"].get<double>()) + " Hz"},
                                         {"speed", turning(wanted["omega"].get<double>())},
                                         {"points", "240"}});
        const double torque = wanted["torque"], loss = wanted["rotor_loss"];
        qInfo("torque %.5f of %.5f N.m, loss %.3f of %.3f W", of(answer, "torque_mean"), torque,
              of(answer, "solid_loss_rotor"), loss);
        CLOSE(of(answer, "torque_mean") / torque, 1, 0.005);
        CLOSE(of(answer, "solid_loss_rotor") / loss, 1, 0.01);
    }
    /// What turns without current is dragged by exactly what it loses; `load` finds the same loss.
    void a_massive_hub_drags() {
        if (!by_night()) QSKIP("at night");
        Design design = new_project("surface")->variants.front().design;
        design.texts["rotor.solid"] = "yes";
        const char* points = by_night() ? "180" : "96";
        const std::map<std::string, std::string> fed{
            {"supply", "currents"}, {"method", "field"}, {"points", points}, {"speed", "1500 rpm"}};
        auto idle = fed;
        idle["current"] = "0 A";
        const Answer free = at_normal(design, "in-time", idle);
        const double drag = -of(free, "torque_mean") * 1500 * pi / 30,
                     lost = of(free, "solid_loss_rotor") + of(free, "magnet_loss");
        qInfo("dragged by %.4f W, lost %.4f W", drag, lost);
        QVERIFY(lost > 0.05);
        CLOSE(drag / lost, 1, 0.01);
        // A skin of some millimetres, which the mesh resolves.
        design.texts["rotor.steel"] = "linear(50)";
        design.texts["rotor.resistivity"] = "2e-6 Ohm.m";
        const Answer in_time = at_normal(design, "in-time", fed),
                     load = at_normal(design, "load", {{"speed", "1500 rpm"}, {"points", points}});
        qInfo("with current %.4f W in time, %.4f W by load", of(in_time, "solid_loss_rotor"),
              of(load, "solid_loss_rotor"));
        CLOSE(of(load, "solid_loss_rotor") / of(in_time, "solid_loss_rotor"), 1, 0.03);
        // A map knows nothing of it, and says so.
        const Answer range = at_normal(design, "working-point", {{"map_steps", "4"}});
        QVERIFY(!range.figure("efficiency") && range.sentence.find("massive steel") != std::string::npos);
    }
    void pieces_are_found_data() {
        QTest::addColumn<QString>("shape");
        for (const char* shape : {"surface", "spoke", "vee", "outer-spoke"})
            if (shape != std::string_view("outer-spoke") || by_night()) QTest::newRow(shape) << shape;
    }
    /// Every element of massive steel belongs to one piece.
    void pieces_are_found() {
        QFETCH(QString, shape);
        Design design = new_project(shape.toStdString())->variants.front().design;
        design.texts["rotor.solid"] = "yes";
        const auto model = prepare_field(machine_of(design));
        QVERIFY(bool(model));
        std::size_t iron = 0;
        for (const auto& e : (*model)->elements) iron += (*model)->is_rotor_iron((*model)->part(e));
        std::set<std::size_t> found;
        std::size_t together = 0;
        const auto bodies = solid_bodies(**model);
        for (const EddyBody& body : bodies) {
            found.insert(body.elements.begin(), body.elements.end());
            together += body.elements.size();
        }
        qInfo("%zu pieces in the sector", bodies.size());
        QCOMPARE(found.size(), iron);
        QCOMPARE(together, iron);
    }
    void what_conducts_must_have_a_resistivity() {
        Design design = new_project("surface")->variants.front().design;
        design.texts["rotor.solid"] = "yes";
        design.texts["rotor.steel"] = "linear(1000)";
        const auto machine = build_machine(design);
        QVERIFY(!machine && machine.problems().front().path == "rotor.resistivity");
        design.texts["rotor.resistivity"] = "2e-7 Ohm.m";
        QVERIFY(bool(build_machine(design)));
    }
};
MAVLO_TEST(solid, TestSolid, Nothing)
#include "test_solid.moc"
