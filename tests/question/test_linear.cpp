// Straight machines: a disc of one radius under another name, asked and answered along the line.

#include "asked.h"
#include "figure/machine_model.h"
#include "machine/axial.h"
#include "mesh/section_tiles.h"
#include "project/project.h"
#include "question/figure_names.h"
#include "question/straight.h"
#include "support.h"
#include "test_program.h"

#include <cmath>
#include <numbers>

using namespace mavlo;

namespace {

constexpr double pi = std::numbers::pi, width = 0.03, pitch = 0.024;
constexpr int poles = 10;
constexpr double radius = pitch * poles / (2 * pi);

std::string mm(double metres) {
    return QString::number(metres * 1e3, 'g', 15).toStdString() + " mm";
}

Design with_common(Design design, const std::string& sides = "one") {
    for (const auto& [path, text] : std::initializer_list<std::pair<const char*, std::string>>{
             {"stator.slots", "12"},
             {"rotor.poles", "10"},
             {"stator.slot.kind", "parallel-slot"},
             {"stator.thickness", sides == "one" ? "30 mm" : "60 mm"},
             {"rotor.back_iron", "8 mm"},
             {"rotor.magnet.thickness", "5 mm"},
             {"rotor.magnet.magnetisation", "parallel"},
             {"rotor.steel", "linear(3000)"},
             {"stator.steel", "linear(3000)"},
             {"rating.current", "6 A"}})
        design.texts[path] = text;
    return design;
}

Design straight(const std::string& sides = "one") {
    return with_common(design_of({{"machine.topology", "linear"},
                                  {"machine.sides", sides},
                                  {"machine.stack_length", mm(width)},
                                  {"machine.pole_pitch", mm(pitch)},
                                  {"rating.speed", "2 m/s"},
                                  {"rating.max_speed", "4 m/s"}}),
                       sides);
}

Design disc(const std::string& topology = "axial-one-rotor") {
    return with_common(design_of({{"machine.topology", topology},
                                  {"machine.inner_diameter", mm(2 * radius - width)},
                                  {"machine.outer_diameter", mm(2 * radius + width)},
                                  {"machine.slices", "1"}}),
                       topology == "axial-one-rotor" ? "one" : "two");
}

} // namespace

class TestLinear : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void it_is_a_disc_of_one_radius_data() {
        QTest::addColumn<QString>("sides");
        QTest::addColumn<QString>("topology");
        QTest::newRow("one side") << "one"
                                  << "axial-one-rotor";
        QTest::newRow("two primaries") << "two-primaries"
                                       << "axial-two-stators";
        QTest::newRow("two secondaries") << "two-secondaries"
                                         << "axial-two-rotors";
    }
    void it_is_a_disc_of_one_radius() {
        QFETCH(QString, sides);
        QFETCH(QString, topology);
        // On the same triangles: a last digit of the radius may turn one of them over.
        ModelOptions options{Quality::Draft};
        const auto solved = [&options](Design design) {
            if (design.texts["machine.topology"] == "axial-two-rotors" ||
                design.texts["machine.sides"] == "two-secondaries")
                design.texts["stator.core"] = "yoke";
            const Machine machine = machine_of(design);
            if (!options.tile_meshes)
                options.tile_meshes = std::make_shared<const std::vector<TileMesh>>(
                    *tile_meshes(machine.solved(), size_factor(Quality::Draft)));
            const auto model = prepare_field(machine, options);
            if (!model) qFatal("%s", to_string(model.problems().front()).c_str());
            const auto field = FieldSolver(*model).solve(0.05, {6, -2, -4});
            if (!field) qFatal("no field");
            return std::tuple(field->torque, field->coenergy, field->flux_linkage);
        };
        const auto [torque, energy, linkage] = solved(disc(topology.toStdString()));
        const auto [torque2, energy2, linkage2] = solved(straight(sides.toStdString()));
        QVERIFY(std::abs(torque) > 0.1);
        CLOSE(torque2, torque, 1e-9 * std::abs(torque));
        CLOSE(energy2, energy, 1e-9 * energy);
        QVERIFY(relative_difference(linkage2, linkage) < 1e-9);
    }

    void torque_becomes_thrust() {
        const std::map<std::string, std::string> with{{"points", "24"}};
        const Answer along = asked(straight(), "load", with);
        Design turning = disc();
        turning.texts["rating.speed"] = QString::number(2 / radius * 30 / pi, 'g', 15).toStdString() + " rpm";
        const Answer round = asked(turning, "load", with);
        CLOSE(of(along, "thrust_mean"), of(round, "torque_mean") / radius, 1e-5 * of(along, "thrust_mean"));
        QVERIFY(!along.figure("torque_mean"));
        CLOSE(of(along, "mechanical_power"), 2 * of(along, "thrust_mean"),
              1e-6 * of(along, "mechanical_power"));
        const Curve* thrust = along.curve("thrust");
        QVERIFY(thrust);
        QCOMPARE(thrust->unit, std::string("N"));
        QCOMPARE(thrust->x_unit, std::string("mm"));
        QCOMPARE(thrust->x_name, std::string("position"));
        // A period is two pole pitches long.
        CLOSE(thrust->x.back() - thrust->x.front(), 2 * pitch * 1e3 * (1 - 1.0 / double(thrust->x.size())),
              1e-6 * 2 * pitch * 1e3);
        QCOMPARE(along.inputs.at("speed"), std::string("2 m/s"));
        QCOMPARE(figure_name("thrust_mean").label, std::string("Mean thrust"));
        QCOMPARE(headline_figures(along).front(), std::string("thrust_mean"));
    }

    void words_are_those_of_a_line_data() {
        QTest::addColumn<QString>("question");
        for (const char* question : {"load", "cogging", "no-load", "axial-pull", "best-angle", "working-point"})
            QTest::newRow(question) << question;
    }
    void words_are_those_of_a_line() {
        QFETCH(QString, question);
        std::map<std::string, std::string> with;
        if (question == QStringLiteral("working-point")) with["torque"] = "100 N";
        const Answer answer = asked(straight(), question.toStdString(), with);
        for (const char* word : {"torque", "rpm", "rotor", "stator", "N·m", "mechanical", "turn "})
            QVERIFY2(answer.sentence.find(word) == std::string::npos, answer.sentence.c_str());
        for (const Figure& figure : answer.figures)
            QVERIFY2(figure.unit.find("N.m") == std::string::npos &&
                         figure.unit.find("rpm") == std::string::npos,
                     figure.name.c_str());
        QVERIFY(answer.sentence.find("the ends of a finite part") != std::string::npos);
    }

    void sentences_keep_their_numbers() {
        QCOMPARE(straight_words("It gives 2.5 N·m of torque at 300 rpm.", 0.05),
                 std::string("It gives 50 N of thrust at 1.571 m/s."));
        QCOMPARE(straight_words("421 mN·m every 6.000° mechanical, 20 kN.m", 0.1),
                 std::string("4210 mN every 10.47 mm, 2e+05 N"));
        QCOMPARE(straight_words("inertia 1e-3 kg·m²", 0.1), std::string("inertia 0.1 kg"));
        QCOMPARE(straight_words("0.5 N/mm, 3 rpm/V", 0.1), std::string("0.5 N/mm, 3 rpm/V"));
    }

    void inputs_are_read_along_the_line() {
        const Answer slow = asked(straight(), "no-load", {{"speed", "1 m/s"}, {"points", "24"}}),
                     fast = asked(straight(), "no-load", {{"speed", "2"}, {"points", "24"}});
        CLOSE(of(fast, "back_emf_phase_rms"), 2 * of(slow, "back_emf_phase_rms"), 1e-9);
        // e = v psi pi/tau
        CLOSE(of(slow, "back_emf_phase_fundamental"), of(slow, "flux_linkage_peak") * pi / pitch,
              1e-9 * of(slow, "back_emf_phase_fundamental"));
        QVERIFY(refused(straight(), "no-load", {{"speed", "300 rpm"}}).find("a speed along a line is wanted") !=
                std::string::npos);
        const std::string question = "working-point";
        const Answer answer = asked(straight(), question, {{"torque", "100 N"}, {"speed", "1 m/s"}});
        CLOSE(of(answer, "thrust"), 100, 0.1);
        QCOMPARE(answer.inputs.at("torque"), std::string("100 N"));
    }

    void what_is_not_computed_yet_is_said() {
        for (const char* question : {"heat", "eccentricity", "gap-forces"})
            QVERIFY2(refused(straight(), question, {}).find("linear") != std::string::npos, question);
        Design spoke = straight();
        spoke.texts["rotor.kind"] = "spoke";
        const auto machine = build_machine(spoke);
        QVERIFY(!machine && machine.problems().front().sentence.find("linear machines") != std::string::npos);
    }

    void it_starts_with_a_shape_of_its_own() {
        const Design design = new_project("linear")->variants.front().design;
        const Machine machine = machine_of(design);
        QVERIFY(machine.facts().linear && !machine.facts().axial);
        CLOSE(machine.rating.speed * machine.section.chart().flat, 2, 1e-12);
    }
};
MAVLO_TEST(linear, TestLinear, Nothing)
#include "test_linear.moc"
