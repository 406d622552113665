// Cages over their slip by harmonic fields: against independent fields in time, their own balance, and the
// circuit that they make.

#include "figure/cage_field.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/reference_cage.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// A cage with saturating steel as it starts, fed with what suits it.
Design mill() {
    return design_of({{"rotor.kind", "cage"},
                      {"rotor.poles", "4"},
                      {"rotor.bars", "28"},
                      {"stator.slots", "36"},
                      {"stator.outer_diameter", "180 mm"},
                      {"stator.bore_diameter", "110 mm"},
                      {"gap", "0.4 mm"},
                      {"machine.stack_length", "120 mm"},
                      {"winding.layers", "2"},
                      {"winding.turns", "6"},
                      {"rating.speed", "1500 rpm"}});
}

/// y of a curve at its x nearest to this.
double at(const Answer& answer, const char* curve, double x) {
    const Curve* c = answer.curve(curve);
    if (!c) qFatal("no curve %s", curve);
    std::size_t best = 0;
    for (std::size_t k = 0; k < c->x.size(); ++k)
        if (std::abs(c->x[k] - x) < std::abs(c->x[best] - x)) best = k;
    return c->y[best];
}

} // namespace

class TestSlipFields : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Both sides slotted and running, twelve open slots over ten open bars: waves of the slots and the winding
    /// carry a tenth of the torque.
    void against_fields_in_time() {
        const auto c = reference("cages.json")["cases"][1];
        const Answer answer = asked(reference_cage(c), "slip-curves",
                                    {{"way", "field"},
                                     {"voltage", text(c["value"].get<double>() * std::sqrt(1.5), " V")},
                                     {"frequency", "50 Hz"},
                                     {"slips", "0.1, 0.15, 0.25, 0.35, 0.5"},
                                     {"resistance", text(c["R_phase"].get<double>(), " Ohm")},
                                     {"end_inductance", text(1e3 * c["L_end"].get<double>(), " mH")}},
                                    Quality::Normal);
        for (const auto& row : c["rows"]) {
            const double slip = row["slip"];
            if (slip < 0.1 || slip > 0.5) continue;
            const double torque = at(answer, "torque", slip);
            qInfo("slip %g: %.4f of %.4f N.m", slip, torque, row["torque"].get<double>());
            CLOSE(torque / row["torque"].get<double>(), 1, 0.02);
            if (row.contains("phase_current_fundamental_peak"))
                CLOSE(at(answer, "current", slip) * std::sqrt(2.0) /
                          row["phase_current_fundamental_peak"].get<double>(),
                      1, 0.012);
        }
    }
    /// What comes in at the terminals is lost or goes out at the shaft.
    void powers_balance() {
        const Answer plate = asked(mill(), "slip-curves",
                                   {{"way", "field"}, {"voltage", "140 V"}, {"slips", "0.02, 0.05, 0.2, 1"}});
        const Answer rated =
            asked(mill(), "rating-plate", {{"voltage", "140 V"}, {"slip", "0.05"}, {"friction", "30 W"}});
        CLOSE((of(rated, "copper_loss_stator") + of(rated, "copper_loss_rotor") + of(rated, "iron_loss") +
               of(rated, "friction_loss") + of(rated, "output_power")) /
                  of(rated, "input_power"),
              1, 1e-6);
        // The circuit holds the working wave alone, the fields all of them.
        CLOSE(at(plate, "torque", 0.05) * (1 - 0.05) * 2 * pi * 25 / (of(rated, "output_power") + 30), 1, 0.02);
        CLOSE(at(plate, "current", 0.05) / of(rated, "current"), 1, 0.03);
        QVERIFY(of(plate, "pull_out_torque") > at(plate, "torque", 0.2));
    }
    /// The same phase voltage gives the same torque, as far as fields of draft quality are solved; between its
    /// terminals a delta draws root three as much.
    void star_and_delta() {
        auto delta = mill();
        delta.texts["winding.connection"] = "delta";
        const std::map<std::string, std::string> common{{"way", "field"}, {"slips", "0.03, 0.3"}};
        auto in_star = common, in_delta = common;
        in_star["voltage"] = text(140 * std::sqrt(3.0), " V");
        in_delta["voltage"] = "140 V";
        const Answer a = asked(mill(), "slip-curves", in_star), b = asked(delta, "slip-curves", in_delta);
        for (double slip : {0.03, 0.3}) {
            CLOSE(at(b, "torque", slip) / at(a, "torque", slip), 1, 6e-4);
            CLOSE(at(b, "current", slip) / at(a, "current", slip), std::sqrt(3.0), 6e-4);
        }
    }
    void the_circuit_is_what_the_fields_make() {
        const Answer circuit =
            asked(mill(), "equivalent-circuit", {{"way", "both"}, {"voltage", "140 V"}, {"slip", "0.03"}});
        // Skin effect: the bars resist more and link less as the frequency rises.
        const Curve &r2 = *circuit.curve("rotor_resistance"), &x2 = *circuit.curve("rotor_leakage_reactance");
        for (std::size_t k = 1; k < r2.y.size(); ++k) QVERIFY(r2.y[k] >= r2.y[k - 1] * (1 - 1e-3));
        QVERIFY(x2.y.back() < x2.y.front());
        // Saturation: the main path's reactance falls where the current is large.
        const Curve& xm = *circuit.curve("magnetising_reactance");
        QVERIFY(xm.y.back() < 0.5 * *std::max_element(xm.y.begin(), xm.y.end()));
        // The bench locks the rotor at the rated current.
        CLOSE(of(circuit, "locked_current") * std::sqrt(2.0), machine_of(mill()).rating.current, 1e-3);
        CLOSE(of(circuit, "rotor_resistance_bench") / of(circuit, "rotor_resistance"), 1, 0.15);
        CLOSE(of(circuit, "stator_leakage_reactance_bench") / of(circuit, "rotor_leakage_reactance_bench"), 1,
              1e-6);
        CLOSE((of(circuit, "stator_leakage_reactance") + of(circuit, "rotor_leakage_reactance")) /
                  (2 * of(circuit, "stator_leakage_reactance_bench")),
              1, 0.3);
    }
    void a_sector_is_as_good_as_the_whole() {
        std::vector<double> torque, current;
        for (bool whole : {false, true}) {
            auto machine = build_machine(mill(), {}, {.whole = whole});
            QVERIFY(bool(machine));
            auto model = prepare_field(*machine, {.quality = Quality::Draft});
            QVERIFY(bool(model));
            CageField field(*model);
            const auto point = field.at({114.3, 50, 0.2, 3e-4}, 0.05);
            QVERIFY(bool(point));
            torque.push_back(point->torque);
            current.push_back(std::abs(point->current));
            // The working wave's torque times its speed against the rotor is lost in bars and rings.
            const double lost = point->working_torque * 0.05 * pi * 50;
            CLOSE((point->bar_loss + point->ring_loss) / lost, 1, 0.1);
            CLOSE(point->working_torque / point->torque, 1, 0.02);
        }
        CLOSE(torque[1] / torque[0], 1, 1e-4);
        CLOSE(current[1] / current[0], 1, 1e-4);
    }
    void running_up() {
        const std::map<std::string, std::string> common{
            {"elements", "R1=1.2 Ohm, X1=2 Ohm, Xm=60 Ohm, R2=1.1 Ohm, X2=2.5 Ohm"}, {"inertia", "0.2 kg.m2"}};
        const auto with = [&](std::map<std::string, std::string> more) {
            more.insert(common.begin(), common.end());
            return more;
        };
        auto delta = mill();
        delta.texts["winding.connection"] = "delta";
        const Answer direct = asked(delta, "run-up", with({})),
                     started = asked(delta, "run-up", with({{"method", "star-delta"}})),
                     soft = asked(delta, "run-up", with({{"method", "soft"}, {"first_voltage", "0.3"}})),
                     ramp = asked(delta, "run-up", with({{"method", "volts-per-hertz"}}));
        // In star a third of the current and of the torque.
        CLOSE(started.curve("current_rms")->y.front() / direct.curve("current_rms")->y.front(), 1.0 / 3, 1e-9);
        CLOSE(of(started, "starting_torque") / of(direct, "starting_torque"), 1.0 / 3, 1e-9);
        CLOSE(of(soft, "starting_torque") / of(direct, "starting_torque"), 0.09, 1e-9);
        QVERIFY(of(started, "run_up_time") > 1.5 * of(direct, "run_up_time"));
        // All come to the same speed; a slow rise of the frequency spares the cage.
        for (const Answer* answer : {&started, &soft, &ramp})
            CLOSE(of(*answer, "final_speed") / of(direct, "final_speed"), 1, 1e-3);
        QVERIFY(of(ramp, "cage_energy") < 0.5 * of(direct, "cage_energy"));
        const Answer held = asked(delta, "run-up", with({{"load_torque", "500 N.m"}}));
        QVERIFY(!held.figure("run_up_time"));
        Ask ask;
        ask.design = mill();
        ask.with = with({{"method", "star-delta"}});
        const auto refused = ask_question("run-up", ask);
        QVERIFY(!refused && refused.problems().front().path == "winding.connection");
    }
    /// Far beyond saturation there is still an answer.
    void high_voltages() {
        const Answer answer =
            asked(mill(), "slip-curves", {{"way", "field"}, {"voltage", "600 V"}, {"slips", "0.01, 1"}});
        QVERIFY(at(answer, "current", 0.01) > 50);
    }
    /// On an inverter: a point of the map is one of the slip's curves on its voltage and frequency.
    void on_an_inverter() {
        const std::map<std::string, std::string> limits{{"dc_voltage", "220 V"}, {"max_current", "40 A"}};
        auto with = limits;
        with["speeds"] = "750, 1500, 3000";
        const Answer range = asked(mill(), "speed-range", with, Quality::Draft);
        QVERIFY(at(range, "torque", 750) > at(range, "torque", 3000));
        QVERIFY(of(range, "max_torque") > 0);
        with["speeds"] = "750, 1400";
        with["torques"] = "2, 4";
        with["quadrants"] = "motor";
        const Answer map = asked(mill(), "efficiency-map", with, Quality::Draft);
        const auto value = [&](const char* name) {
            for (const Map& m : map.maps)
                if (m.name == name) return m.z[1][1]; // 4 N.m at 1400 rpm
            qFatal("no map %s", name);
        };
        const auto text_of = [](double number, const char* unit) {
            return QString::number(number, 'g', 10).toStdString() + unit;
        };
        const Answer curves = asked(mill(), "slip-curves",
                                    {{"voltage", text_of(value("voltage_line_rms"), " V")},
                                     {"frequency", text_of(value("frequency"), " Hz")},
                                     {"slips", text_of(value("slip"), "") + ", 1"}},
                                    Quality::Draft);
        CLOSE(at(curves, "torque", value("slip")) / 4, 1, 0.06);
        CLOSE(at(curves, "efficiency", value("slip")), value("efficiency"), 0.02);
        CLOSE(value("loss_total"),
              value("loss_copper") + value("loss_cage") + value("loss_iron") + value("loss_mechanical"), 1e-9);
        QVERIFY(of(map, "best_efficiency") >= value("efficiency"));
    }
    void what_cannot_be_asked() {
        Ask ask;
        ask.design = mill();
        ask.with = {{"way", "field"}, {"elements", "R1=1, X1=1, Xm=10, R2=1, X2=1"}};
        auto answer = ask_question("slip-curves", ask);
        QVERIFY(!answer && answer.problems().front().path == "--with way");
        ask.design.texts["winding.connection"] = "open";
        ask.with = {{"voltage", "140 V"}};
        answer = ask_question("equivalent-circuit", ask);
        QVERIFY(!answer && answer.problems().front().path == "winding.connection");
        ask.design = design_of({});
        QVERIFY(!ask_question("equivalent-circuit", ask));
    }
};

MAVLO_TEST(slip_fields, TestSlipFields, Nothing)
#include "test_slip_fields.moc"
