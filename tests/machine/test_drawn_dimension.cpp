// Lengths given to a drawn part afterwards: it follows them, or says why not.

#include "machine/design.h"
#include "machine/machine.h"
#include "mesh_area.h"
#include "project/project.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// Half a pole: steel with a block of magnet on the axis, 18 to 21 mm out and 2 x 5 mm wide.
DrawnPart pole() {
    const auto mm = [](double ax, double ay, double bx, double by) {
        return Piece{{1e-3 * ax, 1e-3 * ay}, {1e-3 * bx, 1e-3 * by}, 0, 0};
    };
    DrawnPart part;
    part.pitches = 4;
    part.gap_radius = 26e-3;
    part.far_radius = 7.5e-3;
    part.pieces = {mm(18, 0, 18, 5), mm(18, 5, 21, 5), mm(21, 5, 21, 0)};
    part.regions = {{{10e-3, 2e-3}, Use::Iron, {}}, {{18.2e-3, 0.3e-3}, Use::Magnet, 0.0}};
    return part;
}

Design design_with(std::vector<DrawnDimension> dimensions) {
    Design design = design_of({{"rotor.kind", "drawn"},
                               {"rotor.poles", "4"},
                               {"stator.bore_diameter", "53 mm"},
                               {"gap", "0.5 mm"},
                               {"rotor.shaft_diameter", "15 mm"}});
    design.drawings["rotor"] = pole();
    design.dimensions = std::move(dimensions);
    return design;
}

/// Of one whole pole, m2.
double magnet_area(const Design& design) {
    const Machine machine = machine_of(design);
    const Tile& tile = machine.section.rotor().tile;
    const auto mesh = triangulate(tile, 1);
    if (!mesh) qFatal("no mesh");
    return 2 * area_of(*mesh, [&](int region) { return tile.regions[std::size_t(region)].use == Use::Magnet; });
}

DrawnDimension across(const char* value) {
    return {"width", "rotor", {18e-3, -5e-3}, {18e-3, 5e-3}, value};
}
DrawnDimension thick(const char* value) {
    return {"thickness", "rotor", {21e-3, 2e-3}, {18e-3, 2e-3}, value};
}

std::string refusal(const Design& design, const std::string& name) {
    const auto machine = build_machine(design, {});
    return machine ? std::string() : sentence_at(machine.problems(), "drawings.dimensions." + name);
}

} // namespace

class TestDrawnDimension : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void what_only_measures_changes_nothing() {
        CLOSE(magnet_area(design_with({across(""), thick("")})), 30e-6, 1e-10);
        QCOMPARE(canonical_text(design_with({across("")})), canonical_text(design_with({})));
    }
    void a_line_follows_its_length() {
        // The inner side moves until the magnet is 8 mm thick; its region's point is no longer where it was.
        CLOSE(magnet_area(design_with({thick("8 mm")})), 80e-6, 1e-10);
        CLOSE(magnet_area(design_with({thick("1 mm")})), 10e-6, 1e-10);
    }
    void across_the_axis_both_sides_move() {
        // Only the inner corners were dimensioned: a trapezoid of 12 and 10 mm.
        CLOSE(magnet_area(design_with({across("12 mm")})), 33e-6, 1e-10);
        const auto values = resolve(design_with({across("12 mm")}));
        CLOSE(distance(values->dimensions()[0].from, values->dimensions()[0].to), 12e-3, 1e-9);
    }
    void several_and_formulas() {
        const Design both = design_with({thick("= 8 * gap"), across("= rotor.shaft_diameter - 3 mm")});
        CLOSE(magnet_area(both), 11e-3 * 4e-3, 1e-10);
        const auto values = resolve(both);
        CLOSE(values->dimensions()[1].to.x, 17e-3, 1e-9); // where the moved side is
        // Another value is another machine; a formula and its value are one.
        QVERIFY(canonical_text(both) != canonical_text(design_with({})));
        QCOMPARE(canonical_text(both), canonical_text(design_with({thick("4 mm"), across("12 mm")})));
        // What was clicked on the changed drawing is kept as it was read.
        const Point on_side = carried(*values->drawing("rotor"), pole(), {17e-3, 3e-3});
        CLOSE(on_side.x, 18e-3, 1e-9);
        CLOSE(on_side.y, 2.5e-3, 1e-9);
    }
    void refused_in_words() {
        DrawnDimension loose = thick("5 mm");
        loose.to = {12e-3, 2e-3};
        QVERIFY(refusal(design_with({loose}), "thickness").find("Nothing of the drawing") != std::string::npos);
        QVERIFY(!refusal(design_with({thick("= nonsense")}), "thickness").empty());
        QVERIFY(!refusal(design_with({thick("0 mm")}), "thickness").empty());
        Design design = design_with({});
        design.drawings["rotor"].pieces.push_back({{21e-3, 5e-3}, polar(26e-3, 0.2), 0, 0});
        design.dimensions = {{"face", "rotor", {21e-3, 5e-3}, polar(26e-3, 0.2), "7 mm"}};
        QVERIFY(refusal(design, "face").find("dimensions of the machine") != std::string::npos);
    }
    void the_project_keeps_them() {
        Project project = *new_project("surface");
        project.variants.front().design.dimensions = {across("= gap + 5 mm"), thick("")};
        const auto read = parse_project(project_text(project));
        QCOMPARE(project_text(*read), project_text(project));
        QCOMPARE(read->variants.front().design.dimensions.size(), std::size_t(2));
        auto json = nlohmann::json::parse(project_text(project));
        json["variants"]["base"]["drawings"]["dimensions"][1].erase("to");
        const auto broken = parse_project(json.dump());
        QVERIFY(!broken && broken.problems().front().path == "drawings.dimensions[1]");
    }
};
MAVLO_TEST(drawn_dimension, TestDrawnDimension, Nothing)
#include "test_drawn_dimension.moc"
