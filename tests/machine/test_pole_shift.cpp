// Poles shifted in pairs: whole tiles of two poles, without mirror symmetry.

#include "figure/park.h"
#include "figure/spectrum.h"
#include "machine/drawing.h"
#include "machine/hash.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// Twelve slots and four poles: all poles cog alike, twelve times a turn.
Design four_poles(const char* kind, const std::string& shift) {
    return design_of({{"stator.slots", "12"},
                      {"stator.slot.tooth_width", "8 mm"},
                      {"rotor.poles", "4"},
                      {"rotor.kind", kind},
                      {"rotor.shaft_diameter", "12 mm"},
                      {"rotor.steel", "linear(5000)"},
                      {"stator.steel", "linear(5000)"},
                      {"rotor.pole_shift", shift}});
}

FieldSolution solved(const Machine& m, double angle, Quality quality = Quality::Draft) {
    const auto model = *prepare_field(m, {quality});
    const PortValues current =
        to_phases(current_vector(m.rating.current, 0.3), electrical_angle(m, angle), m.winding.layout.lags);
    return *FieldSolver(model).solve(angle, current);
}

} // namespace

class TestPoleShift : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void every_kind_that_shifts_repeats_and_keeps_energy_data() {
        QTest::addColumn<QString>("kind");
        for (const char* kind : {"surface", "inset", "bar", "vee", "double-vee", "vee-bar"})
            QTest::newRow(kind) << QString::fromLatin1(kind);
    }
    void every_kind_that_shifts_repeats_and_keeps_energy() {
        QFETCH(QString, kind);
        Design d = four_poles(qPrintable(kind), "2 deg");
        d.texts["rotor.magnet.arc"] = "0.8";
        const Machine m = machine_of(d);
        QCOMPARE(m.section.rotor().pitches, 2);
        QVERIFY(!m.symmetry.mirrored);
        QCOMPARE(m.sector().count, 2);
        const auto at = solved(m, 0.1);
        const auto whole = solved(machine_of(d, {true}), 0.1);
        CLOSE(whole.torque / at.torque, 1, 1e-6);
        CLOSE(whole.coenergy / at.coenergy, 1, 1e-6);
        const auto model = *prepare_field(m, {Quality::Draft});
        FieldSolver solver(model);
        const double step = 2e-4;
        const PortValues current =
            to_phases(current_vector(m.rating.current, 0.3), electrical_angle(m, 0.1), m.winding.layout.lags);
        const auto before = solver.solve(0.1 - step, current), after = solver.solve(0.1 + step, current);
        CLOSE((after->coenergy - before->coenergy) / (2 * step), at.torque, 2e-5 * std::abs(at.torque));
    }
    void the_mirrored_pole_gives_the_mirrored_wave() {
        // Left and right changed, the torque without current is the same wave backwards, reversed.
        const auto one = *prepare_field(machine_of(four_poles("bar", "3 deg")), {Quality::Fine, 2.0}),
                   other = *prepare_field(machine_of(four_poles("bar", "-3 deg")), {Quality::Fine, 2.0});
        FieldSolver a(one), b(other);
        double peak = 0, difference = 0;
        for (double angle : {0.02, 0.07, 0.15, 0.3}) {
            const double torque = a.solve(angle, {})->torque;
            peak = std::max(peak, std::abs(torque));
            difference = std::max(difference, std::abs(b.solve(-angle, {})->torque + torque));
        }
        CLOSE(difference, 0, 1e-6 * peak);
    }
    void a_very_small_shift_changes_nothing() {
        const auto shifted = solved(machine_of(four_poles("vee", "0.001 deg")), 0.1),
                   plain = solved(machine_of(four_poles("vee", "0 deg")), 0.1);
        CLOSE(shifted.torque / plain.torque, 1, 5e-3);
        CLOSE(shifted.flux_linkage[0], plain.flux_linkage[0], 2e-3 * std::abs(plain.flux_linkage[0]));
    }
    void half_a_slot_of_shift_cancels_the_first_wave() {
        // Each pole cogs with the slots' wave; half of it apart, north and south poles cancel the odd ones.
        const auto first_wave = [](const std::string& shift) {
            Ask ask;
            ask.design = four_poles("surface", shift);
            ask.design.texts["rotor.magnet.arc"] = "0.62";
            ask.quality = Quality::Draft;
            ask.with = {{"points", "24"}};
            const auto answer = ask_question("cogging", ask);
            if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
            return std::abs(harmonics(answer->curve("torque")->y)[1]);
        };
        QVERIFY(first_wave("15 deg") < 0.05 * first_wave("0 deg"));
    }
    void the_d_axis_stays_between_the_poles() {
        Ask ask;
        ask.design = four_poles("surface", "4 deg");
        ask.design.texts["rotor.magnet.arc"] = "0.6";
        ask.quality = Quality::Draft;
        const auto answer = ask_question("no-load", ask);
        QVERIFY(bool(answer));
        // Half the poles stand a little before, half a little behind: the linkage is less by the cosine of it.
        ask.design.texts["rotor.pole_shift"] = "0 deg";
        const auto plain = ask_question("no-load", ask);
        CLOSE(*answer->figure("d_axis_angle"), *plain->figure("d_axis_angle"), 0.02);
        CLOSE(*answer->figure("flux_linkage_peak") / *plain->figure("flux_linkage_peak"), std::cos(4 * degree),
              2e-3);
    }
    void what_cannot_be_shifted_is_said() {
        const auto sentence = [](Design d) {
            const auto machine = build_machine(d);
            return machine ? std::string() : sentence_at(machine.problems(), "rotor.pole_shift");
        };
        Design d = four_poles("surface", "2 deg");
        d.texts["rotor.magnet.arc"] = "1";
        QVERIFY(sentence(d).find("touch") != std::string::npos);
        d.texts["rotor.magnet.arc"] = "0.9"; // leaves 9 deg between the magnets
        d.texts["rotor.pole_shift"] = "12 deg";
        QVERIFY2(sentence(d).find("9.000 deg") != std::string::npos, sentence(d).c_str());
        d.texts["rotor.poles"] = "2";
        QVERIFY(sentence(d).find("pairs") != std::string::npos);
        d = four_poles("bar", "2 deg");
        d.texts["rotor.face_eccentricity"] = "3 mm";
        QVERIFY(sentence(d).find("concentric") != std::string::npos);
        // A spoke's magnets are what parts its poles: nothing to shift.
        QVERIFY(!is_used(design_of({{"rotor.kind", "spoke"}}), "rotor.pole_shift"));
    }
    void the_drawing_shows_the_shift() {
        const Machine m = machine_of(four_poles("bar", "6 deg"));
        const Drawing drawing = make_drawing(m);
        std::vector<double> north, south;
        for (const DrawnRegion& region : drawing.rotor().regions) {
            if (region.use != Use::Magnet) continue;
            auto& list = region.polarity > 0 ? north : south;
            list.push_back(std::remainder(angle_of(centroid(region.polygon)) / degree, 360));
        }
        for (double angle : north) CLOSE(std::remainder(angle + 3, 180), 0, 1e-6);
        for (double angle : south) CLOSE(std::remainder(angle - 93, 180), 0, 1e-6);
        QCOMPARE(north.size(), std::size_t(2));
        QCOMPARE(south.size(), std::size_t(2));
    }
};
MAVLO_TEST(pole_shift, TestPoleShift, Nothing)
#include "test_pole_shift.moc"
