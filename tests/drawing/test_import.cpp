// Drawings from elsewhere: read, healed, understood, refused, and solved as a machine.

#include "drawing/pitch.h"
#include "drawing/section.h"
#include "figure/machine_model.h"
#include "figure/park.h"
#include "machine/drawing.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "shape/dxf/writer.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fstream>
#include <random>

using namespace mavlo;

namespace {

class Files {
  public:
    std::string write(const std::string& text, const char* name = "a.dxf") const {
        const std::string file = m_folder.filePath(QString::fromLatin1(name)).toStdString();
        std::ofstream(file, std::ios::binary) << text;
        return file;
    }

  private:
    QTemporaryDir m_folder;
};

/// A rotor of 8 poles with a block across each: the block's sides and two air ends with round corners.
struct BarRotor {
    double outer = 40e-3, shaft = 12e-3, depth = 30e-3, width = 14e-3, height = 4e-3, end = 2e-3;

    void pole(std::vector<Piece>& to, double angle, int magnets = 1) const {
        std::vector<Piece> list;
        const double x0 = depth - height, x1 = depth, y = width / 2;
        for (double side : {-1.0, 1.0}) {
            list.push_back({{x0, side * y}, {x1, side * y}, 0, magnets});
            list.push_back({{x0, side * y}, {x0, side * (y + end)}, 0, 0});
            list.push_back({{x1, side * y}, {x1, side * (y + end)}, 0, 0});
            // A half circle as the end.
            list.push_back({{x0, side * (y + end)}, {x1, side * (y + end)}, side > 0 ? -1.0 : 1.0, 0});
        }
        list.push_back({{x0, -y}, {x0, y}, 0, magnets});
        list.push_back({{x1, -y}, {x1, y}, 0, magnets});
        for (Piece p : list) to.push_back({rotated(p.a, angle), rotated(p.b, angle), p.bulge, p.layer});
    }
    std::vector<Piece> whole(double from = 0) const {
        std::vector<Piece> list;
        add_arc(list, {{}, outer}, 0, 2 * pi, 0);
        add_arc(list, {{}, shaft}, 0, 2 * pi, 0);
        for (int k = 0; k < 8; ++k) pole(list, from + k * pi / 4);
        return list;
    }
    /// From one angle over a part of a turn, closed by cuts; the pole's axis at `axis`.
    std::vector<Piece> sector(double from, double span, double axis) const {
        std::vector<Piece> list;
        add_arc(list, {{}, outer}, from, span, 0);
        add_arc(list, {{}, shaft}, from, span, 0);
        for (double angle : {from, from + span})
            list.push_back({polar(shaft, angle), polar(outer, angle), 0, 0});
        pole(list, axis);
        return list;
    }
    double magnet_area() const { return 8 * width * height; }
    double pocket_area() const { return 8 * 2 * (end * height + pi * height * height / 8); }
    double iron_area() const { return pi * (outer * outer - shaft * shaft) - magnet_area() - pocket_area(); }
};

const std::vector<std::string> two_layers{"OUTLINE", "BLOCKS"};

ImportedDrawing read(const Files& files, const std::string& text, const ImportOptions& options = {}) {
    auto drawing = import_drawing(files.write(text), options);
    if (!drawing) qFatal("%s", drawing.problems().front().sentence.c_str());
    return *drawing;
}

std::string refusal(const Files& files, const std::string& text) {
    const auto drawing = import_drawing(files.write(text), {});
    return drawing ? std::string() : drawing.problems().front().sentence;
}

bool says(const std::vector<std::string>& list, const char* word) {
    return std::any_of(list.begin(), list.end(),
                       [&](const std::string& s) { return s.find(word) != std::string::npos; });
}

} // namespace

class TestImport : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_whole_rotor_is_understood() {
        const BarRotor rotor;
        const auto d = read({}, dxf_text(rotor.whole(7 * degree), two_layers));
        QCOMPARE(d.unit, std::string("mm"));
        const ImportedPart& part = *d.part(DrawnSide::Rotor);
        QCOMPARE(part.portion.pitches, 8);
        QVERIFY(part.portion.mirrored && part.portion.whole());
        CLOSE(std::remainder(part.portion.axis - 7 * degree, pi / 4), 0, 1e-6);
        QCOMPARE(d.whole.at(Role::Magnet).count, 8);
        QCOMPARE(d.whole.at(Role::Air).count, 16);
        CLOSE(d.whole.at(Role::Magnet).area / rotor.magnet_area(), 1, 1e-9);
        CLOSE(d.whole.at(Role::Air).area / rotor.pocket_area(), 1, 1e-9);
        CLOSE(d.whole.at(Role::Iron).area / rotor.iron_area(), 1, 1e-9);
        CLOSE(d.whole.at(Role::Shaft).area / (pi * 12e-3 * 12e-3), 1, 1e-9);
        // Across the blocks' thin side, outwards and inwards by turns.
        int outward = 0;
        for (const ImportedRegion& r : d.regions) {
            if (r.role != Role::Magnet) continue;
            const double off = std::remainder(*r.direction - angle_of(r.centroid), 2 * pi);
            QVERIFY(std::abs(off) < 1e-6 || std::abs(std::abs(off) - pi) < 1e-6);
            outward += std::abs(off) < 1;
        }
        QCOMPARE(outward, 4);
    }
    void sectors_at_any_angle_are_one_pole_or_half_of_one() {
        const BarRotor rotor;
        const auto pole = read({}, dxf_text(rotor.sector(11 * degree, pi / 4, 33.5 * degree), two_layers));
        QCOMPARE(pole.parts[0].portion.pitches, 8);
        CLOSE(pole.parts[0].portion.covers, 0.125, 1e-9);
        CLOSE(pole.parts[0].portion.axis, 33.5 * degree, 1e-6);
        QVERIFY(!pole.parts[0].portion.half);
        QCOMPARE(pole.whole.at(Role::Magnet).count, 8);
        CLOSE(pole.whole.at(Role::Iron).area / rotor.iron_area(), 1, 1e-9);
        // Half a pole: everything beyond its axis cut away.
        std::vector<Piece> half;
        for (Piece p : rotor.sector(0, pi / 8, 0)) {
            if (p.a.y < -1e-9 || p.b.y < -1e-9) {
                if (!p.straight() || p.a.y * p.b.y > -1e-12) continue;
                (p.a.y < 0 ? p.a : p.b).y = 0;
            }
            half.push_back(p);
        }
        const auto d = read({}, dxf_text(half, two_layers));
        QVERIFY(d.parts[0].portion.half && d.parts[0].portion.mirrored);
        QCOMPARE(d.parts[0].portion.pitches, 8);
        QCOMPARE(d.whole.at(Role::Magnet).count, 8);
        CLOSE(d.whole.at(Role::Magnet).area / rotor.magnet_area(), 1, 1e-9);
        QVERIFY(says(d.notes, "16")); // it could be a whole pole of twice as many
    }
    void units_and_places_do_not_matter() {
        const BarRotor rotor;
        auto pieces = rotor.whole();
        for (Piece& p : pieces) { // written as mm, meant as inches, far off the origin
            p.a = (1 / 25.4) * p.a + Point{5, -3};
            p.b = (1 / 25.4) * p.b + Point{5, -3};
        }
        std::string text = dxf_text(pieces, two_layers);
        ImportOptions options;
        options.unit = "in";
        const auto named = read({}, text, options);
        CLOSE(named.whole.at(Role::Iron).area / rotor.iron_area(), 1, 1e-9);
        CLOSE(named.centre.x, 5000, 1e-6);
        CLOSE(named.centre.y, -3000, 1e-6);
        text.replace(text.find("$INSUNITS\n 70\n4"), 15, "$INSUNITS\n 70\n0");
        const auto judged = read({}, text);
        QCOMPARE(judged.unit, std::string("in"));
        QVERIFY(says(judged.notes, "names no unit"));
    }
    void damage_below_the_tolerance_is_healed_and_said() {
        const BarRotor rotor;
        auto pieces = rotor.whole();
        const std::size_t first = 8;                        // after the circles: the first pole's sides
        pieces.push_back(pieces[first + 1]);                // twice
        pieces[first].a = pieces[first].a + Point{0, 4e-6}; // a gap
        pieces[first + 2].b = pieces[first + 2].b + Point{0, -6e-6}; // past its corner
        const Point a = pieces[first + 9].a, b = pieces[first + 9].b;
        pieces[first + 9].b = a + 0.7 * (b - a); // overlapping halves of one line
        pieces.push_back({a + 0.4 * (b - a), b, 0, 1});
        const auto d = read({}, dxf_text(pieces, two_layers));
        QVERIFY(says(d.healed, "count once") && says(d.healed, "gaps") && says(d.healed, "overlap"));
        CLOSE(d.whole.at(Role::Magnet).area / rotor.magnet_area(), 1, 1e-3);
        QCOMPARE(d.whole.at(Role::Magnet).count, 8);
    }
    void what_cannot_be_closed_is_refused_with_its_place() {
        const BarRotor rotor;
        auto pieces = rotor.whole();
        pieces[8 + 1].b = pieces[8 + 1].b + Point{0, 0.4e-3};
        pieces.erase(pieces.begin() + 8 + 3); // a pocket lacks its round end
        const std::string sentence = refusal({}, dxf_text(pieces, two_layers));
        QVERIFY2(sentence.find("ends open at (2") != std::string::npos, sentence.c_str());
        QVERIFY(sentence.find("OUTLINE") != std::string::npos);
    }
    void construction_lines_frames_and_hidden_layers_are_left_out() {
        const BarRotor rotor;
        auto pieces = rotor.whole();
        for (int k = 0; k < 4; ++k) // axes of the poles, through everything
            pieces.push_back({polar(45e-3, k * pi / 4), polar(45e-3, k * pi / 4 + pi), 0, 2});
        const Point corners[] = {{-90e-3, -60e-3}, {90e-3, -60e-3}, {90e-3, 60e-3}, {-90e-3, 60e-3}};
        for (std::size_t k = 0; k < 4; ++k) pieces.push_back({corners[k], corners[(k + 1) % 4], 0, 3});
        const auto d = read({}, dxf_text(pieces, {"OUTLINE", "BLOCKS", "HELP", "FRAME"}));
        QCOMPARE(d.whole.at(Role::Magnet).count, 8);
        CLOSE(d.whole.at(Role::Iron).area / rotor.iron_area(), 1, 1e-9);
        QVERIFY(says(d.left_out.sentences, "HELP") && says(d.left_out.sentences, "frame"));
        QCOMPARE(d.left_out.lines.size(),
                 std::size_t(4 + 4)); // where they stood: the axes, and the frame about them
        double reach = 0;
        for (const Piece& p : d.left_out.lines) reach = std::max(reach, norm(p.a));
        CLOSE(reach / std::hypot(90e-3, 60e-3), 1, 1e-6);
    }
    void broken_files_get_a_sentence() {
        const std::string good = dxf_text(BarRotor().whole(), two_layers);
        QVERIFY(refusal({}, good.substr(0, good.size() / 2)).find("cut off") != std::string::npos);
        QVERIFY(refusal({}, "").find("empty") != std::string::npos);
        QVERIFY(refusal({}, "AC1015 and more").find("DWG") != std::string::npos);
        QVERIFY(refusal({}, "Dear colleague\n").find("no DXF") != std::string::npos);
        std::string wrong = good;
        wrong.replace(wrong.find("\n 40\n") + 5, 2, "4x");
        QVERIFY2(refusal({}, wrong).find("is no number") != std::string::npos, refusal({}, wrong).c_str());
        QVERIFY(refusal({}, "  0\nSECTION\n  2\nENTITIES\n  0\nENDSEC\n  0\nEOF\n").find("no lines") !=
                std::string::npos);
        QVERIFY(!import_drawing("/nowhere/a.dxf", {}));
    }
    void a_thousand_mutations_never_crash() {
        const std::string good = dxf_text(BarRotor().sector(0, pi / 4, pi / 8), two_layers);
        std::mt19937 random(5);
        const Files files;
        int read_well = 0;
        for (int round = 0; round < 500; ++round) {
            std::string text = good;
            for (int k = 0; k < 3; ++k) {
                const std::size_t at = random() % text.size();
                switch (random() % 4) {
                case 0:
                    text[at] = char(random() % 256);
                    break;
                case 1:
                    text.erase(at, 1 + random() % 30);
                    break;
                case 2:
                    text.insert(at, text.substr(random() % text.size(), 20));
                    break;
                default:
                    text[at] = char('0' + random() % 10);
                }
            }
            const auto result = import_drawing(files.write(text), {});
            if (result)
                ++read_well;
            else
                QVERIFY(result.problems().front().sentence.size() > 15);
        }
        QVERIFY(read_well > 0 && read_well < 500);
    }
    void blocks_ellipses_splines_and_bulges_are_read() {
        // A ring of two polylines, with a block mirrored and turned into it: an ellipse, and a circle as a
        // spline.
        const std::string text = R"(  0
SECTION
  2
HEADER
  9
$INSUNITS
 70
4
  0
ENDSEC
  0
SECTION
  2
BLOCKS
  0
BLOCK
  8
0
  2
HOLE
 70
0
 10
0
 20
0
 30
0
  0
ELLIPSE
  8
0
 10
30
 20
2
 30
0
 11
4
 21
0
 31
0
 40
0.5
 41
0
 42
6.283185307179586
  0
ENDBLK
  8
0
  0
ENDSEC
  0
SECTION
  2
ENTITIES
)" + outline(50) + outline(10) + insert(0, 1, 1) +
                                 insert(90, 1, -1) + insert(180, 1, 1) + insert(270, 1, -1) + R"(  0
ENDSEC
  0
EOF
)";
        const auto d = read({}, text);
        QCOMPARE(d.whole.at(Role::Air).count, 4);
        CLOSE(d.whole.at(Role::Air).area / (4 * pi * 4e-3 * 2e-3), 1, 1e-7);
        CLOSE(d.whole.at(Role::Shaft).area / (pi * 1e-4), 1, 1e-9);
    }
    void every_shape_comes_back_from_its_own_drawing_data() {
        QTest::addColumn<QString>("name");
        // Of a cage a drawing tells the bars, but neither the poles nor the rings that join them; a section
        // through discs has no centre to turn about.
        for (const StartingShape& s : starting_shapes())
            if (s.name != "smooth" && s.name != "linear" && !s.name.starts_with("cage") &&
                !s.name.starts_with("axial"))
                QTest::newRow(s.name.c_str()) << QString::fromStdString(s.name);
    }
    void every_shape_comes_back_from_its_own_drawing() {
        QFETCH(QString, name);
        Design design = new_project(name.toStdString())->variants.front().design;
        // A drawing does not say how pieces are magnetised, nor that two of them make a pole.
        if (is_used(design, "rotor.magnet.magnetisation"))
            design.texts["rotor.magnet.magnetisation"] = "parallel";
        if (is_used(design, "rotor.magnet.pieces")) design.texts["rotor.magnet.pieces"] = "1";
        const Machine m = machine_of(design);
        const SectionPieces section = section_pieces(m, Shown::Whole);
        const auto d = read({}, dxf_text(section.pieces, section.layers));
        const ImportedPart* part = d.part(DrawnSide::Rotor);
        QVERIFY(part);
        QCOMPARE(part->portion.pitches, m.poles);
        double magnets = 0;
        for (const DrawnRegion& r : drawn_magnets(m)) magnets += area(r.polygon);
        const double read_area = d.whole.contains(Role::Magnet) ? d.whole.at(Role::Magnet).area : 0;
        CLOSE(read_area, magnets, 2e-4 * magnets); // polygons have chords
        const auto drawn = with_part(design, d, DrawnSide::Rotor);
        QVERIFY(bool(drawn));
        const auto again = build_machine(*drawn);
        if (!again) QFAIL(to_string(again.problems().front()).c_str());
        const double wanted = torque(m), got = torque(*again);
        QVERIFY2(std::abs(got - wanted) < 1.2e-2 * std::abs(wanted),
                 qPrintable(QStringLiteral("%1 N.m, drawn %2").arg(wanted).arg(got)));
    }
    void eccentric_faces_are_the_machine_and_a_frame_is_not() {
        // The rotor alone: no arc of its outline is about the centre. Round it a frame with rounded corners.
        Design design = new_project("bar")->variants.front().design;
        design.texts["rotor.face_eccentricity"] = "2 mm";
        design.texts["rotor.poles"] = "10";
        const Machine m = machine_of(design);
        SectionPieces section = section_pieces(m, Shown::Whole);
        std::erase_if(section.pieces, [&](const Piece& p) {
            return section.layers[std::size_t(p.layer)].starts_with("STATOR");
        });
        const double x = 0.15, y = 0.1, r = 5e-3;
        for (double s : {-1.0, 1.0}) {
            section.pieces.push_back({{-x + r, s * y}, {x - r, s * y}, 0, 0});
            section.pieces.push_back({{s * x, -y + r}, {s * x, y - r}, 0, 0});
            for (double t : {-1.0, 1.0})
                section.pieces.push_back(
                    {{s * (x - r), t * y}, {s * x, t * (y - r)}, -s * t * std::tan(pi / 8), 0});
        }
        const auto d = read({}, dxf_text(section.pieces, section.layers));
        QCOMPARE(d.part(DrawnSide::Rotor)->portion.pitches, 10);
        QCOMPARE(d.whole.at(Role::Magnet).count, 10);
        QVERIFY(says(d.left_out.sentences, "frame"));
    }
    void many_pitches_are_counted_to_the_last() {
        // A turn by a 301st part meets the next slot within the tolerance, too.
        Design design = new_project("spoke")->variants.front().design;
        for (const auto& [path, text] :
             {std::pair{"stator.slots", "300"}, {"rotor.poles", "50"}, {"stator.outer_diameter", "900 mm"}})
            design.texts[path] = text;
        const SectionPieces section = section_pieces(machine_of(design), Shown::Whole);
        ImportOptions options;
        options.stator = true;
        const auto d = read({}, dxf_text(section.pieces, section.layers), options);
        QCOMPARE(d.part(DrawnSide::Stator)->portion.pitches, 300);
        QCOMPARE(d.part(DrawnSide::Rotor)->portion.pitches, 50);
    }
    void a_line_between_conductors_makes_no_slots() {
        // Two thirds of the radial lines meet their like when the stator is turned by half a slot's width.
        Design design = new_project("surface-distributed")->variants.front().design;
        design.texts["rotor.poles"] = "28";
        design.texts["stator.slots"] = "24";
        design.texts["stator.slot.kind"] = "radial";
        const Machine m = machine_of(design);
        SectionPieces section = section_pieces(m, Shown::Whole);
        std::erase_if(section.pieces, [&](const Piece& p) {
            return section.layers[std::size_t(p.layer)].starts_with("ROTOR");
        });
        ImportOptions options;
        options.rotor = false;
        options.stator = true;
        QCOMPARE(read({}, dxf_text(section.pieces, section.layers), options)
                     .part(DrawnSide::Stator)
                     ->portion.pitches,
                 24);
    }
    void pieces_of_magnets_are_no_poles() {
        // Four pieces a pole meet each other, but not what lies between the poles.
        const Design design = new_project("surface-halbach")->variants.front().design;
        const Machine m = machine_of(design);
        const SectionPieces section = section_pieces(m, Shown::Whole);
        const std::string text = dxf_text(section.pieces, section.layers);
        const auto d = read({}, text);
        QCOMPARE(d.part(DrawnSide::Rotor)->portion.pitches, m.poles);
        const auto drawn = with_part(design, d, DrawnSide::Rotor);
        QVERIFY(bool(drawn));
        const auto again = build_machine(*drawn);
        if (!again) QFAIL(to_string(again.problems().front()).c_str());
        QCOMPARE(again->poles, m.poles);
        // Fewer are a matter of saying so, where they come out.
        ImportOptions options;
        options.pitches = m.poles / 5;
        QCOMPARE(read({}, text, options).part(DrawnSide::Rotor)->portion.pitches, m.poles / 5);
        options.pitches = m.poles + 1;
        const auto wrong = import_drawing(Files().write(text), options);
        QVERIFY(!wrong && wrong.problems().front().sentence.find("repeats") != std::string::npos);
    }
    void half_a_pole_and_a_whole_one_of_twice_as_many() {
        BarRotor rotor;
        // Half a pole of eight, from its axis to the boundary: a magnet cut in two.
        const auto half = [&] {
            std::vector<Piece> list;
            add_arc(list, {{}, rotor.outer}, 0, pi / 8, 0);
            add_arc(list, {{}, rotor.shaft}, 0, pi / 8, 0);
            const double x0 = rotor.depth - rotor.height, x1 = rotor.depth, y = rotor.width / 2;
            list.push_back({{rotor.shaft, 0}, {rotor.outer, 0}, 0, 0});
            list.push_back({polar(rotor.shaft, pi / 8), polar(rotor.outer, pi / 8), 0, 0});
            list.push_back({{x0, 0}, {x0, y}, 0, 1});
            list.push_back({{x1, 0}, {x1, y}, 0, 1});
            list.push_back({{x0, y}, {x1, y}, 0, 1});
            return dxf_text(list, two_layers);
        }();
        const Portion found = read({}, half).part(DrawnSide::Rotor)->portion;
        QVERIFY(found.half);
        QCOMPARE(found.pitches, 8);
        ImportOptions options;
        options.pitches = 16;
        const Portion whole = read({}, half, options).part(DrawnSide::Rotor)->portion;
        QVERIFY(!whole.half);
        QCOMPARE(whole.pitches, 16);
        options.pitches = 12; // three quarters of a pole are nothing
        QVERIFY(!import_drawing(Files().write(half), options));
    }
    void less_than_the_turn_of_both_parts_is_read_part_by_part_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<bool>("half");
        for (const char* name : {"surface", "outer-surface", "vee", "spoke"})
            for (bool half : {false, true})
                QTest::addRow("%s, %s", name, half ? "half a pitch" : "a pitch")
                    << QString::fromLatin1(name) << half;
    }
    void less_than_the_turn_of_both_parts_is_read_part_by_part() {
        // Each part shows a pitch of its own, or half of it; layers say which is which. Arcs stay radial, as
        // the project's are.
        QFETCH(QString, name);
        QFETCH(bool, half);
        const Design design = new_project(name.toStdString())->variants.front().design;
        const Machine m = machine_of(design);
        const SectionPieces section = section_pieces(m, half ? Shown::Half : Shown::Pitch);
        const std::string text = dxf_text(section.pieces, section.layers);
        ImportOptions rotor, stator;
        rotor.outer_rotor = stator.outer_rotor = m.outer_rotor();
        stator.rotor = false;
        stator.stator = true;
        const auto with_rotor = with_part(design, read({}, text, rotor), DrawnSide::Rotor);
        QVERIFY(bool(with_rotor));
        const auto both = with_part(*with_rotor, read({}, text, stator), DrawnSide::Stator);
        QVERIFY(bool(both));
        const auto again = build_machine(*both);
        if (!again) QFAIL(to_string(again.problems().front()).c_str());
        QCOMPARE(again->poles, m.poles);
        QCOMPARE(again->slots, m.slots);
        CLOSE(torque(*again) / torque(m), 1, 2e-3);
        // Read at once each keeps the pitch that it shows.
        ImportOptions at_once = rotor;
        at_once.stator = true;
        const ImportedDrawing parts = read({}, text, at_once);
        QCOMPARE(parts.part(DrawnSide::Rotor)->portion.pitches, m.poles);
        QCOMPARE(parts.part(DrawnSide::Stator)->portion.pitches, m.slots);
    }

  private:
    static std::string outline(double radius) {
        const std::string r = std::to_string(radius);
        return "  0\nLWPOLYLINE\n  8\nRING\n 90\n2\n 70\n1\n 10\n" + r + "\n 20\n0\n 42\n1\n 10\n-" + r +
               "\n 20\n0\n 42\n1\n";
    }
    static std::string insert(double angle, double x, double y) {
        return "  0\nINSERT\n  8\nHOLES\n  2\nHOLE\n 10\n0\n 20\n0\n 30\n0\n 41\n" + std::to_string(x) +
               "\n 42\n" + std::to_string(y) + "\n 50\n" + std::to_string(angle) + "\n";
    }
    static std::vector<DrawnRegion> drawn_magnets(const Machine& m) {
        std::vector<DrawnRegion> list;
        const Drawing drawing = make_drawing(m);
        for (const DrawnRegion& r : drawing.rotor().regions)
            if (r.use == Use::Magnet) list.push_back(r);
        return list;
    }
    static double torque(const Machine& m) {
        const auto model = *prepare_field(m, {Quality::Normal});
        const double angle = 0.11 / m.poles;
        return FieldSolver(model)
            .solve(angle, to_phases(current_vector(m.rating.current, 0.5), electrical_angle(m, angle),
                                    m.winding.layout.lags))
            ->torque;
    }
};
MAVLO_TEST(import, TestImport, Nothing)
#include "test_import.moc"
