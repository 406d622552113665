// Cages that turn under a slotted stator: against independent fields, their own balance of powers, the whole
// machine and what rings do.

#include "figure/eddy.h"
#include "machine/end_ring.h"
#include "material/bh_curve.h"
#include "night.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/reference_cage.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

std::map<std::string, std::string> fed_at(const nlohmann::json& c, double slip) {
    std::map<std::string, std::string> with{{"method", "field"},
                                            {"frequency", "50 Hz"},
                                            {"speed", text(3000 * (1 - slip), " rpm")},
                                            {"points", by_night() ? "240" : "120"}};
    const double value = c["value"];
    if (c["drive"] == "current") {
        with["supply"] = "currents";
        with["current"] = text(value, " A");
    } else {
        with["supply"] = "sine-voltage";
        with["voltage"] = text(value, " V");
        with["voltage_angle"] = "0 deg";
        with["resistance"] = text(c["R_phase"].get<double>(), " Ohm");
        with["end_inductance"] = text(1e3 * c["L_end"].get<double>(), " mH");
    }
    return with;
}

} // namespace

class TestCage : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void running_cages_data() {
        QTest::addColumn<int>("number");
        QTest::addColumn<double>("slip");
        QTest::addColumn<int>("periods"); // after which the bars stand as before
        QTest::newRow("currents, slip 0.1") << 0 << 0.1 << 1;
        if (!by_night()) return;
        QTest::newRow("voltages, slip 0.5") << 1 << 0.5 << 1;
        QTest::newRow("currents, slip 0.5") << 0 << 0.5 << 1;
        QTest::newRow("currents, braking") << 0 << -0.2 << 1;
        QTest::newRow("currents, against the field") << 0 << 1.3 << 1;
        QTest::newRow("voltages, slip 0.1") << 1 << 0.1 << 1;
        QTest::newRow("voltages, slip 0.35") << 1 << 0.35 << 2;
    }
    void running_cages() {
        QFETCH(int, number);
        QFETCH(double, slip);
        QFETCH(int, periods);
        const auto c = reference("cages.json")["cases"][std::size_t(number)];
        nlohmann::json wanted;
        for (const auto& row : c["rows"])
            if (std::abs(row["slip"].get<double>() - slip) < 1e-9) wanted = row;
        auto with = fed_at(c, slip);
        with["periods"] = std::to_string(periods);
        const Answer answer =
            asked(reference_cage(c), "in-time", with, by_night() ? Quality::Normal : Quality::Draft);
        const auto compare = [&](const char* figure, const char* name, double within) {
            const double right = wanted[name];
            qInfo("%s %.5f of %.5f (%+.3f %%)", figure, of(answer, figure), right,
                  100 * (of(answer, figure) / right - 1));
            CLOSE(of(answer, figure) / right, 1, within);
        };
        compare("torque_mean", "torque", 0.01);
        compare("bar_loss", "cage_loss", 0.01);
        compare("bar_current_rms", "bar_current_rms", 0.01);
        compare("current_rms", "phase_current_rms", 0.01);
        CLOSE(of(answer, "ring_loss") / of(answer, "bar_loss"), 0, 1e-5);
        CLOSE(of(answer, "power_unaccounted"), 0, 5e-3);
    }
    void slip_curves_of_a_given_circuit() {
        auto design = reference_cage(reference("cages.json")["cases"][0]);
        design.texts["rotor.poles"] = "2";
        design.texts["rating.speed"] = "3000 rpm";
        const auto c = reference("induction_circuits.json")["circuits"][0];
        const auto& given = c["parameters"];
        std::string elements;
        for (const char* name : {"R1", "X1", "Rfe", "Xm", "R2", "X2"})
            elements += (elements.empty() ? "" : ", ") + std::string(name) + "=" +
                        text(given[name].get<double>(), " Ohm");
        std::map<std::string, std::string> with{
            {"elements", elements}, {"voltage", "400 V"}, {"friction", "85 W"}};
        const Answer plate = asked(design, "rating-plate", [&] {
            auto own = with;
            own["slip"] = QString::number(c["nameplate"]["slip"].get<double>(), 'g', 12).toStdString();
            return own;
        }());
        with["slips"] = "0.1, 0.3, 1";
        const Answer curves = asked(design, "slip-curves", with);
        // Half the poles of the reference: twice the speed, half the torque.
        CLOSE(of(curves, "pull_out_torque") / c["pullout"]["torque"].get<double>(), 0.5, 1e-6);
        CLOSE(of(curves, "pull_out_slip") / c["pullout"]["slip"].get<double>(), 1, 1e-6);
        CLOSE(of(curves, "starting_current") / c["starting"]["current_rms"].get<double>(), 1, 1e-6);
        CLOSE(curves.curve("torque")->y.back() / c["starting"]["torque"].get<double>(), 0.5, 1e-6);
        CLOSE(of(plate, "current") / c["nameplate"]["current_rms"].get<double>(), 1, 1e-5);
        CLOSE(of(plate, "pull_out_torque_ratio") / c["nameplate"]["pullout_over_rated_torque"].get<double>(), 1,
              1e-5);
        QVERIFY(!plate.figure("efficiency_class"));
        // In proportion to the frequency the pull-out stays about the same; curves of each.
        with["rule"] = "constant-volts-per-hertz";
        with["frequency"] = "25, 50 Hz";
        const Answer family = asked(design, "slip-curves", with);
        QVERIFY(family.curve("torque_at_200_V_25_Hz") && family.curve("torque_at_400_V_50_Hz"));
        CLOSE(family.curve("pull_out_torque")->y.back() / of(curves, "pull_out_torque"), 1, 1e-9);
        Ask ask;
        ask.design = design;
        for (const char* wrong : {"R1=1 Ohm", "R1=1 m, X1=1, Xm=1, R2=1, X2=1", "R1=1, X1=1, Xm=0, R2=1, X2=1",
                                  "R1=1, R1=1, X1=1, Xm=1, R2=1, X2=1", "R1=1, X1=1, Xm=1, R2=1, X2=1, R3=1"}) {
            ask.with = {{"elements", wrong}};
            const auto answer = ask_question("slip-curves", ask);
            QVERIFY2(!answer && answer.problems().front().path == "--with elements", wrong);
        }
        ask.design = design_of({});
        QVERIFY(!ask_question("slip-curves", ask));
    }
    /// Bars, rings and half the machine against all of it.
    void a_sector_is_as_good_as_the_whole() {
        auto design = reference_cage(reference("cages.json")["cases"][0]);
        design.texts["rotor.ring.resistance"] = "3e-6 Ohm";
        design.texts["rotor.ring.inductance"] = "0.02 uH";
        std::vector<double> torque, loss, rings;
        for (bool whole : {false, true}) {
            const auto machine = build_machine(design, {}, {.whole = whole});
            QVERIFY(bool(machine));
            QCOMPARE(machine->sector().count, whole ? 1 : 2);
            const auto model = prepare_field(*machine, {.quality = Quality::Draft});
            QVERIFY(bool(model));
            FieldStepper stepper(*model, conductance_of(**model, conducting_bodies(**model)));
            const auto at = [](double t) {
                const double phase = 2 * pi * 50 * t;
                return Position{0.4 * phase,
                                {10 * std::cos(phase), 10 * std::cos(phase - 2 * pi / 3),
                                 10 * std::cos(phase + 2 * pi / 3)}};
            };
            QVERIFY(!stepper.begin(at(0)));
            const double dt = 2e-4;
            for (int k = 0; k < 6; ++k) {
                auto step = stepper.step(dt, at(dt * (k + FieldStepper::first_stage)), at(dt * (k + 1)));
                QVERIFY(bool(step));
                if (k == 5) {
                    torque.push_back(step->field.torque);
                    loss.push_back(0);
                    for (double watts : step->eddy_loss) loss.back() += watts;
                    rings.push_back(step->ring_loss);
                }
                stepper.take(std::move(*step), dt);
            }
        }
        QVERIFY(rings[0] > 1e-3 * loss[0]);
        CLOSE(torque[0] / torque[1], 1, 1e-6);
        CLOSE(loss[0] / loss[1], 1, 1e-6);
        CLOSE(rings[0] / rings[1], 1, 1e-6);
    }
    /// Voltages that go round as a wave see a ring as an impedance a bar: 2 Z / (2 sin(pi p/N))^2.
    void rings_as_impedances() {
        const int bars = 7, pairs = 2;
        EndRings rings;
        for (std::size_t k = 0; k < bars; ++k) rings.bars.push_back(k);
        rings.length = 0.3;
        rings.resistance = 4e-6;
        rings.bar_ends = 1e-6;
        Eigen::VectorXd u(bars);
        for (int k = 0; k < bars; ++k) u[k] = std::cos(2 * pi * pairs * k / bars);
        const Eigen::VectorXd current = -rings.admittance(0).real() * u,
                              segments = rings.segments(0, u, Eigen::VectorXd::Zero(bars));
        const double sine = 2 * std::sin(pi * pairs / bars),
                     per_bar = 2 * rings.resistance / (sine * sine) + rings.bar_ends;
        for (int k = 0; k < bars; ++k) {
            CLOSE(current[k], -rings.length * u[k] / per_bar, 1e-9 * rings.length / per_bar);
            CLOSE(rings.bar_currents(segments)[k], current[k], 1e-9 * rings.length / per_bar);
        }
        // What the voltages along the bars give is lost.
        CLOSE(rings.loss(segments) / (-rings.length * u.dot(current)), 1, 1e-9);
        // In a long stage an inductance is nothing; in a short one it holds the current.
        rings.bar_ends = 0;
        rings.inductance = 1e-8;
        const Eigen::VectorXd kept = rings.segments(1e9, u, segments);
        for (int k = 0; k < bars; ++k) CLOSE(kept[k], segments[k], 1e-2 * segments.cwiseAbs().maxCoeff());
    }
    void a_segment_from_its_dimensions() {
        RingShape ring{0.0495, 0.0505, 0.05, 0.02, 20, 2};
        // Low: length over section.
        CLOSE(ring_segment_resistance(ring, 3e-8) / (3e-8 * 2 * pi * 0.05 / 20 / (0.001 * 0.02)), 1, 1e-3);
        // High ones no longer fall: both sides as far as currents of this wave go.
        RingShape high = ring;
        high.inner_radius = 1e-3;
        high.outer_radius = 1;
        CLOSE(ring_segment_resistance(high, 3e-8) / (2 * pi * 2 * 3e-8 / (20 * 0.02 * 2)), 1, 1e-5);
        // The same current all round: a circle of wire, mu0 a (ln(8 a/g) - 2).
        ring.pole_pairs = 0;
        const double g = 0.2235 * (0.001 + 0.02);
        CLOSE(20 * ring_segment_inductance(ring) / (mu0 * 0.05 * (std::log(8 * 0.05 / g) - 2)), 1, 2e-2);
        // Waves link less.
        ring.pole_pairs = 2;
        const double two = ring_segment_inductance(ring);
        ring.pole_pairs = 4;
        QVERIFY(ring_segment_inductance(ring) < two);
    }
    void cages_that_cannot_be_data() {
        QTest::addColumn<QString>("path");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("says");
        QTest::newRow("bars that meet") << "rotor.bar.body_angle"
                                        << "37 deg"
                                        << "rotor.bar.body_angle";
        QTest::newRow("through the shaft") << "rotor.bar.depth"
                                           << "20 mm"
                                           << "rotor.bar.depth";
        QTest::newRow("all bridge") << "rotor.bar.bridge"
                                    << "9 mm"
                                    << "rotor.bar.bridge";
        QTest::newRow("rings beside the bars") << "rotor.ring.inner_diameter"
                                               << "200 mm"
                                               << "rotor.ring.inner_diameter";
        QTest::newRow("rings without a hole") << "rotor.ring.height"
                                              << "60 mm"
                                              << "rotor.ring.height";
        QTest::newRow("steel for a conductor") << "rotor.ring.material"
                                               << "M330-35A"
                                               << "rotor.ring.material";
        QTest::newRow("skewed") << "rotor.skew.angle"
                                << "5 deg"
                                << "rotor.skew.angle";
    }
    void cages_that_cannot_be() {
        QFETCH(QString, path);
        QFETCH(QString, value);
        QFETCH(QString, says);
        auto design = reference_cage(reference("cages.json")["cases"][0]);
        design.texts["rotor.ring.resistance"] = "auto";
        QVERIFY(bool(build_machine(design)));
        design.texts[path.toStdString()] = value.toStdString();
        const auto machine = build_machine(design);
        QVERIFY(!machine);
        QCOMPARE(QString::fromStdString(machine.problems().front().path), says);
        QVERIFY(machine.problems().front().sentence.size() > 20);
    }
    void closed_bars_and_other_shapes_data() {
        QTest::addColumn<QString>("shape");
        QTest::addColumn<QString>("bridge");
        QTest::addColumn<QString>("filling");
        for (const char* shape : {"parallel-tooth", "parallel-slot", "radial", "round"})
            for (const char* bridge : {"0 mm", "0.4 mm"})
                for (const char* filling : {"cast", "inserted"})
                    QTest::addRow("%s, %s, %s", shape, bridge, filling) << shape << bridge << filling;
    }
    /// Areas of bars and of the rotor in the mesh, and torque over speed by what the bars lose.
    void closed_bars_and_other_shapes() {
        QFETCH(QString, shape);
        QFETCH(QString, bridge);
        QFETCH(QString, filling);
        Design design = design_of({{"stator.slots", "36"},
                                   {"rotor.kind", "cage"},
                                   {"rotor.poles", "4"},
                                   {"rotor.bars", "28"},
                                   {"gap", "0.3 mm"},
                                   {"rotor.bar.kind", shape.toStdString()},
                                   {"rotor.bar.bridge", bridge.toStdString()},
                                   {"rotor.bar.filling", filling.toStdString()}});
        const auto machine = build_machine(design);
        QVERIFY2(bool(machine), machine ? "" : to_string(machine.problems().front()).c_str());
        QVERIFY(machine->facts().cage && !machine->facts().dq_frame && machine->rings->resistance > 0);
        const auto model = prepare_field(*machine, {.quality = Quality::Draft});
        QVERIFY(bool(model));
        const auto bodies = conducting_bodies(**model);
        QCOMPARE(int(bodies.size()), 28 / machine->sector().count);
        const EndRings rings = end_rings(**model, bodies);
        QCOMPARE(rings.bars.size(), bodies.size());
        // Bars follow each other by one pitch.
        double before = 0;
        for (std::size_t k = 0; k < bodies.size(); ++k) {
            Point middle{};
            double area = 0;
            for (std::size_t e : bodies[rings.bars[k]].elements)
                for (int q = (*model)->elements[e].first;
                     q < (*model)->elements[e].first + (*model)->elements[e].count; ++q) {
                    const auto& p = (*model)->points[std::size_t(q)];
                    middle = middle + p.weight * p.at;
                    area += p.weight;
                }
            const double angle = angle_of((1 / area) * middle);
            if (k > 0) CLOSE(std::remainder(angle - before - 2 * pi / 28, 2 * pi), 0, 1e-3);
            before = angle;
        }
    }
};
MAVLO_TEST(cage, TestCage, Nothing)
#include "test_cage.moc"
