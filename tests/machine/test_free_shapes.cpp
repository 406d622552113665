// Shapes drawn onto poles and slots: areas, formulas, symmetry, collisions, fields.

#include "figure/mass.h"
#include "machine/shape_edit.h"
#include "mesh_area.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <fmt/format.h>
#include <random>

using namespace mavlo;

namespace {

FreeShape circle(const char* x, const char* y, const char* radius, const char* side = "rotor") {
    FreeShape shape;
    shape.name = "hole";
    shape.side = side;
    shape.x = x;
    shape.y = y;
    shape.radius = radius;
    return shape;
}

FreeShape polygon(std::initializer_list<std::pair<const char*, const char*>> corners) {
    FreeShape shape;
    shape.name = "pocket";
    for (const auto& [x, y] : corners) shape.corners.push_back({x, y, 0, "0 mm"});
    return shape;
}

Design with(Design design, const FreeShape& shape) {
    design.shapes.push_back(shape);
    return design;
}

/// A plain iron ring of a rotor: 27 - 1 mm outside, no magnets, four poles.
Design ring() {
    return design_of({{"rotor.kind", "salient"},
                      {"rotor.poles", "4"},
                      {"rotor.pole_arc", "40 deg"},
                      {"rotor.pole_depth", "3 mm"}});
}

/// Area of a use in one pitch of the rotor, by its mesh, m2.
double area_of(const Machine& m, Use use, bool stator = false) {
    const Tile& tile = (stator ? m.section.stator() : m.section.rotor()).tile;
    const auto mesh = triangulate(tile, 1);
    if (!mesh) qFatal("no mesh: %s", mesh.problems().front().sentence.c_str());
    const double area =
        area_of(*mesh, [&](int region) { return tile.regions[std::size_t(region)].use == use; });
    return tile.mirrored ? 2 * area : area;
}

std::string refusal(const Design& design, const char* shape) {
    const auto machine = build_machine(design, {});
    return machine ? std::string() : sentence_at(machine.problems(), std::string("drawings.shapes.") + shape);
}

} // namespace

class TestFreeShapes : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void holes_take_their_area_out_data() {
        QTest::addColumn<QString>("x");
        QTest::addColumn<QString>("y");
        QTest::addColumn<bool>("mirrored");
        QTest::addColumn<double>("holes"); // in a pitch
        QTest::newRow("on the axis") << "17 mm"
                                     << "0 mm" << true << 1.0;
        QTest::newRow("beside it, mirrored") << "16 mm"
                                             << "4 mm" << true << 2.0;
        QTest::newRow("beside it, once") << "16 mm"
                                         << "4 mm" << false << 1.0;
        QTest::newRow("across the axis, mirrored onto itself") << "17 mm"
                                                               << "0 mm" << false << 1.0;
        QTest::newRow("on the line between poles") << "= 11 mm"
                                                   << "= 11 mm" << true << 1.0;
        QTest::newRow("across the line between poles, once") << "11 mm"
                                                             << "11 mm" << false << 1.0;
    }
    void holes_take_their_area_out() {
        QFETCH(QString, x);
        QFETCH(QString, y);
        QFETCH(bool, mirrored);
        QFETCH(double, holes);
        const Design plain = ring();
        FreeShape hole = circle(x.toLatin1(), y.toLatin1(), "1.2 mm");
        hole.mirrored = mirrored;
        const Machine before = machine_of(plain), after = machine_of(with(plain, hole));
        QCOMPARE(after.section.rotor().tile.mirrored, mirrored);
        const double taken = area_of(before, Use::Iron) - area_of(after, Use::Iron),
                     wanted = holes * pi * 1.44e-6;
        CLOSE(taken / wanted, 1, 1e-4);
    }
    void a_pocket_follows_a_dimension() {
        const FreeShape hole = circle("= gap_diameter / 2 - 9 mm", "0 mm", "= 2 * gap");
        Design design = with(ring(), hole);
        const auto centre = [&] { return resolve(design)->shapes().at(0).corners.at(0).x; };
        const double before = centre();
        design.texts["stator.bore_diameter"] = "60 mm";
        CLOSE(centre() - before, 3e-3, 1e-9);
        design.texts["gap"] = "0.7 mm";
        CLOSE(circle_of(resolve(design)->shapes().at(0).pieces.at(0)).radius, 1.4e-3, 1e-12);
        design.shapes[0].x = "= gap_diameter / 2 - 9"; // millimetres less a number
        QVERIFY(!refusal(design, "hole").empty());
        design.shapes[0].x = "= rotor.no_such";
        QVERIFY(!refusal(design, "hole").empty());
    }
    void what_sticks_out_is_cut_off() {
        // A notch in the pole's face: a square half in the iron, half in the gap.
        const Design plain = ring();
        const double face = machine_of(plain).section.rotor().tile.face_radius;
        FreeShape notch =
            polygon({{"= 24 mm", "-1 mm"}, {"= 30 mm", "-1 mm"}, {"= 30 mm", "1 mm"}, {"= 24 mm", "1 mm"}});
        const Machine m = machine_of(with(plain, notch));
        const double depth = face - 24e-3, segment = face * face * std::asin(1e-3 / face) -
                                                     1e-3 * face * std::cos(std::asin(1e-3 / face));
        const double wanted = 2e-3 * depth + segment - 2e-3 * face * (1 - std::cos(std::asin(1e-3 / face)));
        const double taken = area_of(machine_of(plain), Use::Iron) - area_of(m, Use::Iron);
        CLOSE(taken / wanted, 1, 2e-3);
        CLOSE(m.section.rotor().tile.gap_radius, face, 1e-12);
    }
    void corners_are_rounded() {
        FreeShape square =
            polygon({{"15 mm", "-2 mm"}, {"19 mm", "-2 mm"}, {"19 mm", "2 mm"}, {"15 mm", "2 mm"}});
        const Design plain = ring();
        const double all = area_of(machine_of(plain), Use::Iron);
        CLOSE(all - area_of(machine_of(with(plain, square)), Use::Iron), 16e-6, 1e-10);
        for (auto& c : square.corners) c.fillet = "1 mm";
        CLOSE(all - area_of(machine_of(with(plain, square)), Use::Iron), 16e-6 - (4 - pi) * 1e-6, 1e-9);
        square.corners[0].fillet = "3.5 mm";
        QVERIFY(refusal(with(plain, square), "pocket").find("fillet") != std::string::npos);
        square.corners[0].fillet = "2.5 mm"; // fits its edges, but not beside the next one's
        for (auto& c : square.corners) c.fillet = "2.5 mm";
        QVERIFY(!refusal(with(plain, square), "pocket").empty());
    }
    void corners_between_arcs_and_lines_are_rounded() {
        // A half disc of 3 mm; its two corners, of 90 degrees, rounded by 0.5 mm. The rounding touches line and
        // arc from inside: its centre is 0.5 mm off the line and 2.5 mm off the disc's centre.
        FreeShape half = polygon({{"15 mm", "-3 mm"}, {"15 mm", "3 mm"}});
        half.corners[0].bulge = 1;
        for (auto& c : half.corners) c.fillet = "0.5 mm";
        const auto outline = resolve(with(ring(), half))->shapes().at(0);
        double area = 0;
        for (const Piece& p : outline.pieces) area += swept_area(p);
        const double R = 3e-3, r = 0.5e-3, along = std::sqrt((R - r) * (R - r) - r * r),
                     turn = std::asin(r / (R - r));
        // Half of it: the sector of the disc up to the rounding, the triangle below, the rounding's own sector.
        const double wanted = 2 * (R * R * (pi / 2 - turn) / 2 + along * r / 2 + r * r * (pi / 2 + turn) / 2);
        CLOSE(area / wanted, 1, 1e-9);
        for (std::size_t i = 0; i < outline.pieces.size(); ++i) { // smooth all round
            const Piece &p = outline.pieces[i], &q = outline.pieces[(i + 1) % outline.pieces.size()];
            CLOSE(distance(p.b, q.a), 0, 1e-12);
            CLOSE(cross(tangent_at(p, 1), tangent_at(q, 0)), 0, 1e-7);
        }
        half.corners[0].fillet = "1.6 mm"; // 1.5 is the largest circle that a half disc of 3 mm holds
        const std::string words = refusal(with(ring(), half), "pocket");
        QVERIFY2(words.find("1.5 mm fit") != std::string::npos || words.find("do not fit") != std::string::npos,
                 words.c_str());
    }
    void a_shape_is_trimmed_where_lines_cross_it() {
        FreeShape square =
            polygon({{"15 mm", "-2 mm"}, {"19 mm", "-2 mm"}, {"19 mm", "2 mm"}, {"15 mm", "2 mm"}});
        const auto outline = resolve(with(ring(), square))->shapes().at(0);
        // A circle of 17 mm about the machine's centre cuts it in two.
        std::vector<Piece> circle_line;
        add_arc(circle_line, {{}, 17e-3}, -0.5, 1, 0);
        const auto trimmed = trimmed_corners(outline, circle_line, {18.5e-3, 0});
        QVERIFY(trimmed);
        square.corners = *trimmed;
        const auto rest = resolve(with(ring(), square))->shapes().at(0);
        double area = 0;
        for (const Piece& p : rest.pieces) area += swept_area(p);
        const double a = std::asin(2.0 / 17); // between the chord x = 15 and the circle, up to y = +-2
        CLOSE(area, 17e-3 * 17e-3 * (a + std::sin(a) * std::cos(a)) - 4e-3 * 15e-3, 1e-12);
        QVERIFY(!trimmed_corners(outline, circle_line, {30e-3, 0}));
        QVERIFY(!trimmed_corners(outline, {}, {17e-3, 0})); // nothing would be left
        std::vector<Piece> hole;
        add_arc(hole, {{17e-3, 0}, 1e-3}, 0, 2 * pi, 0);
        QVERIFY(!trimmed_corners(outline, hole, {17e-3, 0})); // a hole is no outline
    }
    void a_pocket_may_be_filled() {
        FreeShape hole = circle("17 mm", "0 mm", "1.5 mm");
        const Machine empty = machine_of(with(ring(), hole));
        hole.material = "copper";
        const Machine filled = machine_of(with(ring(), hole));
        const auto mass = [](const Machine& m) { return active_mass(**prepare_field(m, {Quality::Draft})); };
        const double density = shipped_materials().at("copper").density,
                     wanted = 4 * pi * 2.25e-6 * filled.stack_length * density;
        CLOSE((mass(filled).total() - mass(empty).total()) / wanted, 1, 1e-3);
        hole.material = "NdFeB 310/130";
        QVERIFY(!build_machine(with(ring(), hole), {}));
    }
    void collisions_are_said_with_their_area() {
        const Design surface;
        const std::string magnet =
            refusal(with(surface, circle("= rotor.shaft_diameter / 2 + 14 mm", "0 mm", "3 mm")), "hole");
        QVERIFY2(magnet.find("a magnet") != std::string::npos && magnet.find("mm²") != std::string::npos,
                 magnet.c_str());
        const std::string winding = refusal(with(surface, circle("36 mm", "0 mm", "2 mm", "stator")), "hole");
        QVERIFY2(winding.find("the winding") != std::string::npos, winding.c_str());
        const std::string shaft = refusal(with(surface, circle("6 mm", "0 mm", "2 mm")), "hole");
        QVERIFY2(shaft.find("the shaft") != std::string::npos, shaft.c_str());
        QVERIFY(
            refusal(with(surface, circle("90 mm", "0 mm", "2 mm", "stator")), "hole").find("cuts nothing") !=
            std::string::npos);
        FreeShape bow = polygon({{"14 mm", "-2 mm"}, {"18 mm", "2 mm"}, {"14 mm", "2 mm"}, {"18 mm", "-1 mm"}});
        QVERIFY(refusal(with(ring(), bow), "pocket").find("crosses itself") != std::string::npos);
        QVERIFY(
            refusal(with(ring(), polygon({{"14 mm", "0 mm"}, {"16 mm", "0 mm"}, {"18 mm", "0 mm"}})), "pocket")
                .find("no area") != std::string::npos);
        Design twice = with(with(ring(), circle("17 mm", "0 mm", "1 mm")), circle("12 mm", "0 mm", "1 mm"));
        QVERIFY(refusal(twice, "hole").find("two shapes") != std::string::npos);
    }
    void ribs_bridge_a_pocket() {
        FreeShape pocket =
            polygon({{"14 mm", "-4 mm"}, {"18 mm", "-4 mm"}, {"18 mm", "4 mm"}, {"14 mm", "4 mm"}});
        FreeShape rib =
            polygon({{"13 mm", "-0.5 mm"}, {"19 mm", "-0.5 mm"}, {"19 mm", "0.5 mm"}, {"13 mm", "0.5 mm"}});
        rib.name = "rib";
        rib.use = Use::Iron;
        const double all = area_of(machine_of(ring()), Use::Iron);
        CLOSE(all - area_of(machine_of(with(with(ring(), pocket), rib)), Use::Iron), (32 - 4) * 1e-6, 1e-9);
    }
    void a_tooth_may_have_a_hole() {
        const Machine plain = machine_of({});
        // Tooth 0 lies half a slot pitch from the slot's axis.
        const double half = pi / plain.slots, r = 33e-3;
        FreeShape hole = circle("0 mm", "0 mm", "0.6 mm", "stator");
        hole.x = coordinate_text(r * std::cos(half));
        hole.y = coordinate_text(r * std::sin(half));
        const Machine m = machine_of(with({}, hole));
        CLOSE((area_of(plain, Use::Iron, true) - area_of(m, Use::Iron, true)) / (pi * 0.36e-6), 1, 1e-4);
    }
    void a_mirrored_shape_and_two_single_ones_give_the_same_field() {
        FreeShape one = polygon({{"20 mm", "3 mm"}, {"22 mm", "3.5 mm"}, {"21 mm", "6 mm"}});
        FreeShape left = one, right = one;
        left.mirrored = right.mirrored = false;
        right.name = "other";
        for (auto& c : right.corners) c.y = "-" + c.y;
        const auto torque = [](const Design& d) {
            const Machine m = machine_of(d);
            const auto model = prepare_field(m, {Quality::Normal, 0.7});
            return FieldSolver(*model).solve(0.13, {8, -3, -5})->torque;
        };
        const Design base =
            design_of({{"rotor.kind", "salient"}, {"rotor.poles", "4"}, {"stator.slots", "12"}});
        const double whole = torque(with(with(base, left), right)), half = torque(with(base, one));
        QVERIFY(std::abs(half) > 1e-3);
        CLOSE(whole / half, 1, 5e-3);
        QVERIFY(std::abs(torque(with(base, left)) / half - 1) > 1e-4); // one alone is another machine
    }
    void a_drawn_magnet_makes_torque_as_virtual_work_says() {
        FreeShape magnet =
            polygon({{"19 mm", "-5 mm"}, {"21.5 mm", "-5 mm"}, {"21.5 mm", "5 mm"}, {"19 mm", "5 mm"}});
        magnet.name = "magnet";
        magnet.use = Use::Magnet;
        const Design base =
            design_of({{"rotor.kind", "salient"}, {"rotor.poles", "4"}, {"stator.slots", "12"}});
        QVERIFY(refusal(with(base, magnet), "magnet").find("grade") != std::string::npos);
        magnet.material = "NdFeB 310/130";
        const Machine m = machine_of(with(base, magnet));
        QVERIFY(m.section.rotor().alternates && m.magnet());
        const auto model = prepare_field(m, {Quality::Fine});
        FieldSolver solver(*model);
        const PortValues current{4, 1, -5};
        const double step = 2e-3, angle = 0.11;
        const auto at = [&](double a) { return *solver.solve(a, current); };
        const double work = (at(angle + step).coenergy - at(angle - step).coenergy) / (2 * step);
        const auto field = at(angle);
        QVERIFY(std::abs(field.torque) > 0.05);
        CLOSE(field.torque / work, 1, 2e-3);
        QVERIFY(std::abs(field.flux_linkage[0]) > 1e-3);
        // Turned by half a turn it is the opposite pole.
        magnet.direction = "180 deg";
        const auto other = prepare_field(machine_of(with(base, magnet)), {Quality::Fine});
        CLOSE(FieldSolver(*other).solve(angle, {})->flux_linkage[0] / solver.solve(angle, {})->flux_linkage[0],
              -1, 1e-6);
    }
    void arcs_and_offsets() {
        FreeShape half = polygon({{"15 mm", "-2 mm"}, {"15 mm", "2 mm"}});
        half.corners[0].bulge = 1; // half a circle of 2 mm
        const auto outline = resolve(with(ring(), half))->shapes().at(0);
        double area = 0;
        for (const Piece& p : outline.pieces) area += swept_area(p);
        CLOSE(area, pi * 4e-6 / 2, 1e-12);
        FreeShape square =
            polygon({{"15 mm", "-2 mm"}, {"19 mm", "-2 mm"}, {"19 mm", "2 mm"}, {"15 mm", "2 mm"}});
        const auto plain = resolve(with(ring(), square))->shapes().at(0);
        const auto wider = offset_corners(plain, 0.5e-3);
        QVERIFY(wider && wider->size() == 4);
        square.corners = *wider;
        area = 0;
        const auto widened = resolve(with(ring(), square))->shapes().at(0);
        for (const Piece& p : widened.pieces) area += swept_area(p);
        CLOSE(area, 25e-6, 1e-12);
        QVERIFY(offset_corners(plain, -1e-3));
        QVERIFY(!offset_corners(plain, -2.5e-3));
    }
    void the_project_keeps_them() {
        Project project = *new_project("bar");
        FreeShape hole = circle("= gap_diameter / 4", "0 mm", "2 mm");
        FreeShape pocket = polygon({{"15 mm", "-2 mm"}, {"19 mm", "-2 mm"}, {"19 mm", "2 mm"}});
        pocket.corners[1].fillet = "0.3 mm";
        pocket.corners[2].bulge = 0.2;
        pocket.use = Use::Magnet;
        pocket.material = "Ferrite 28/26";
        project.variants.front().design.shapes = {hole, pocket};
        QVERIFY(*parse_project(project_text(project)) == project);
        auto json = nlohmann::json::parse(project_text(project));
        QVERIFY(json["materials"].contains("Ferrite 28/26"));
        json["variants"]["base"]["drawings"]["shapes"][0].erase("radius");
        const auto broken = parse_project(json.dump());
        QVERIFY(!broken && broken.problems().front().path == "drawings.shapes[0]");
        // A formula and its value are one machine; another value is another.
        Design a = with(ring(), circle("= gap_diameter / 2 - 10 mm", "0 mm", "1 mm")), b = a, c = a;
        b.shapes[0].x = "17 mm";
        c.shapes[0].x = "17.1 mm";
        QCOMPARE(canonical_text(a), canonical_text(b));
        QVERIFY(canonical_text(a) != canonical_text(c));
    }
    void random_shapes_are_refused_or_sound() {
        std::mt19937 random(11);
        const auto number = [&](double low, double high) {
            return std::uniform_real_distribution(low, high)(random);
        };
        int built = 0, meshed = 0;
        for (int round = 0; round < 150; ++round) {
            const char* kinds[] = {"surface", "bar", "spoke", "salient", "inset"};
            Design design = new_project(kinds[round % 5] == std::string("salient") ? "reluctance-salient"
                                                                                   : kinds[round % 5])
                                ->variants.front()
                                .design;
            const Machine plain = machine_of(design);
            const Tile& tile = plain.section.rotor().tile;
            const double low = std::min(tile.gap_radius, tile.far_radius),
                         high = std::max(tile.gap_radius, tile.far_radius);
            const Point centre = polar(number(low, high), number(-0.6, 0.6) * tile.pitch);
            FreeShape shape;
            shape.name = "random";
            shape.mirrored = round % 3 != 0;
            const double size = number(0.02, 0.3) * (high - low);
            const int corners = int(number(0, 7));
            if (corners < 3) {
                shape.x = coordinate_text(centre.x);
                shape.y = coordinate_text(centre.y);
                shape.radius = coordinate_text(size);
            } else {
                for (int i = 0; i < corners; ++i)
                    shape.corners.push_back(corner_at(
                        centre + polar(size * number(0.4, 1), 2 * pi * (i + number(0, 0.5)) / corners)));
                shape.corners[0].bulge = number(-0.4, 0.4);
                shape.corners[2].fillet = coordinate_text(0.1 * size);
            }
            design.shapes.push_back(shape);
            const auto machine = build_machine(design, {});
            if (!machine) {
                QVERIFY(!machine.problems().front().sentence.empty());
                continue;
            }
            ++built;
            const auto mesh = triangulate(machine->section.rotor().tile, 1.6);
            if (!mesh) continue; // said in words
            ++meshed;
            const Tile& shaped = machine->section.rotor().tile;
            const double wanted = shaped.pitch / 2 *
                                  std::abs(std::pow(shaped.gap_radius, 2) - std::pow(shaped.far_radius, 2)) *
                                  (shaped.mirrored ? 0.5 : 1);
            CLOSE(area_of(*mesh) / wanted, 1, 2e-6);
        }
        QVERIFY(built > 40 && meshed > 0.9 * built);
    }
};
MAVLO_TEST(free_shapes, TestFreeShapes, Nothing)
#include "test_free_shapes.moc"
