// The buried V: areas, directions, what collides, and handles that follow their values.

#include "field/solver.h"
#include "figure/magnet_field.h"
#include "figure/mass.h"
#include "machine/drawing.h"
#include "project/project.h"
#include "support.h"
#include "test_program.h"

#include <numbers>
#include <random>

using namespace mavlo;

class TestVee : public QObject {
    Q_OBJECT
    Design vee(std::initializer_list<std::pair<const char*, std::string>> changes = {}) const {
        // Each dimension a value of its own, not a formula of others.
        Design design = new_project("vee")->variants.front().design;
        const Values values = *resolve(design);
        for (const Parameter* p : used_parameters(design))
            if (!p->is_word() && !values.is_auto(p->path))
                design.texts[p->path] = text_for(*p, values.number(p->path), 12);
        for (const auto& [path, text] : changes) design.texts[path] = text;
        return design;
    }
    std::string complaint(const char* path, const std::string& text) const {
        const auto machine = build_machine(vee({{path, text}}));
        return machine ? std::string() : to_string(machine.problems().front());
    }

  private Q_SLOTS:
    void magnets_have_their_area_and_direction() {
        const Machine m = machine_of(vee());
        QCOMPARE(m.sector().pitches[0], 1);
        const auto model = *prepare_field(m, {Quality::Draft});
        const double one = m.values.number("rotor.magnet.width") * m.values.number("rotor.magnet.thickness");
        CLOSE(active_mass(*model).magnets, 16 * one * m.stack_length * m.magnet()->material.density,
              1e-9 * active_mass(*model).magnets);
        const Drawing section = make_drawing(m);
        int magnets = 0;
        for (const auto& region : section.rotor().regions) {
            if (region.use != Use::Magnet) continue;
            ++magnets;
            CLOSE(std::abs(area(region.polygon)), one, 1e-9);
            // At right angles to the arm, inwards to the pole's axis: 65 degrees against it, less 90.
            const double axis = region.pitch * 2 * std::numbers::pi / m.poles;
            CLOSE(std::abs(std::remainder(region.direction - axis, std::numbers::pi)),
                  25 * std::numbers::pi / 180, 1e-9);
        }
        QCOMPARE(magnets, 16);
        const auto field = FieldSolver(model).solve(0, {});
        QVERIFY(bool(field));
        // A north pole on +x: its flux goes outwards there.
        const auto ring = model->gap().ring(GapElement::Traces(model->gap().traces(
                                                gather(model->gap().outer_unknowns(), field->potential),
                                                gather(model->gap().inner_unknowns(), field->potential), {})),
                                            m.middle_of_gap(), 720);
        double mean = 0;
        for (int k = -20; k <= 20; ++k) mean += ring.radial[std::size_t((k + 720) % 720)] / 41;
        QVERIFY(mean > 0.4);
        CLOSE(field->torque, 0, 1e-4); // symmetric about the axis
    }
    void sector_and_whole_machine_agree() {
        const auto solve = [&](bool whole) {
            const Machine m = machine_of(vee(), {whole});
            return FieldSolver(*prepare_field(m, {Quality::Draft})).solve(0.03, {80, -30, -50})->torque;
        };
        const double part = solve(false), all = solve(true);
        QVERIFY(std::abs(part) > 10);
        CLOSE(part / all, 1, 1e-4);
    }
    void collisions_say_what_and_by_how_much() {
        QVERIFY(complaint("rotor.magnet.width", "40 mm").find("wider than the straight part") !=
                std::string::npos);
        QVERIFY(complaint("rotor.shaft_diameter", "150 mm").find("shaft") != std::string::npos);
        QVERIFY(complaint("rotor.pocket.depth", "7 mm").find("rotor.") != std::string::npos);
        QVERIFY(complaint("rotor.pocket.bridge", "30 mm").find("rotor.") != std::string::npos);
        QVERIFY(!complaint("rotor.pocket.angle", "60 deg").empty());
        QVERIFY(complaint("rotor.pocket.corner_radius", "50 mm").empty()); // half the thickness is the most
    }
    void handles_follow_their_values() {
        const Machine m = machine_of(vee());
        for (const DimensionMark& mark : m.marks) {
            if (!mark.path.starts_with("rotor.") || mark.path == "rotor.shaft_diameter") continue;
            const double step = 1e-5 * std::max(1e-3, m.values.number(mark.path));
            const Parameter& parameter = *find_parameter(mark.path);
            const auto moved = build_machine(
                vee({{mark.path.c_str(), text_for(parameter, m.values.number(mark.path) + step, 12)}}));
            QVERIFY(bool(moved));
            for (const DimensionMark& after : moved->marks)
                if (after.path == mark.path)
                    CLOSE(dot(after.handle - mark.handle, mark.gradient) / step, 1, 1e-3);
        }
    }
    void any_shape_meshes_or_says_why() {
        std::mt19937 random(7);
        const auto between = [&](double a, double b) {
            return std::to_string(std::uniform_real_distribution(a, b)(random));
        };
        int built = 0;
        for (int i = 0; i < 150; ++i) {
            const auto machine = build_machine(vee({{"rotor.magnet.width", between(5, 45) + " mm"},
                                                    {"rotor.magnet.thickness", between(1, 15) + " mm"},
                                                    {"rotor.pocket.angle", between(60, 180) + " deg"},
                                                    {"rotor.pocket.depth", between(4, 50) + " mm"},
                                                    {"rotor.pocket.bridge", between(0.3, 6) + " mm"},
                                                    {"rotor.pocket.post", between(0.3, 12) + " mm"},
                                                    {"rotor.pocket.corner_radius", between(0.1, 6) + " mm"}}));
            if (!machine) {
                QVERIFY(!machine.problems().front().sentence.empty());
                continue;
            }
            ++built;
            const auto model = prepare_field(*machine, {Quality::Draft});
            QVERIFY2(bool(model), "a shape that was built does not mesh");
            const double wanted = 16 * machine->values.number("rotor.magnet.width") *
                                  machine->values.number("rotor.magnet.thickness") * machine->stack_length *
                                  machine->magnet()->material.density;
            CLOSE(active_mass(**model).magnets / wanted, 1, 1e-8);
        }
        QVERIFY(built > 15);
    }
};
MAVLO_TEST(vee, TestVee, Nothing)
#include "test_vee.moc"
