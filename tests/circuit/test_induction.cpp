// The circuit of an induction machine against independent values, and its own balance.

#include "circuit/induction_circuit.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double within = 1e-9;

struct Case {
    nlohmann::json data, given;
    double of(const char* name) const { return given[name].get<double>(); }
    double voltage() const { return of("V_line") / std::sqrt(3.0); }
    InductionCircuit circuit() const {
        return {{of("R1"), of("X1"), of("Rfe"), of("Xm"), of("R2"), of("X2"), of("f")},
                given["pole_pairs"].get<int>(),
                of("P_friction")};
    }
};

Case reference_case(int number) {
    const auto data = reference("induction_circuits.json")["circuits"][std::size_t(number)];
    return {data, data["parameters"]};
}

void compare(double value, const nlohmann::json& right) {
    CLOSE(value, right.get<double>(), within * std::max(1.0, std::abs(right.get<double>())));
}

} // namespace

class TestInduction : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void against_the_reference_data() {
        QTest::addColumn<int>("number");
        QTest::newRow("7.5 kW") << 0;
        QTest::newRow("110 kW") << 1;
    }
    void against_the_reference() {
        QFETCH(int, number);
        const Case c = reference_case(number);
        const InductionCircuit circuit = c.circuit();
        for (const auto& row : c.data["curves"]) {
            const SlipPoint p = circuit.at(c.voltage(), c.of("f"), row["slip"]);
            compare(p.speed / rpm, row["speed_rpm"]);
            compare(p.torque, row["torque"]);
            compare(p.shaft_torque(), row["shaft_torque"]);
            compare(p.current, row["current_rms"]);
            compare(p.rotor_current, row["rotor_current_rms"]);
            compare(p.power_factor, row["power_factor"]);
            compare(p.input, row["input_power"]);
            compare(p.copper_stator, row["copper_loss_stator"]);
            compare(p.copper_rotor, row["copper_loss_rotor"]);
            compare(p.iron, row["iron_loss"]);
            QCOMPARE(p.efficiency().has_value(), !row["efficiency"].is_null());
            if (p.efficiency()) compare(*p.efficiency(), row["efficiency"]);
            // What comes in is lost or goes to the shaft.
            CLOSE(p.input - p.copper_stator - p.copper_rotor - p.iron - p.torque * p.speed, 0,
                  1e-10 * std::abs(p.input));
        }
        for (const bool motor : {true, false}) {
            const auto most = circuit.pull_out(c.voltage(), c.of("f"), motor);
            compare(most.slip, c.data["pullout"][motor ? "slip" : "slip_generating"]);
            compare(most.torque, c.data["pullout"][motor ? "torque" : "torque_generating"]);
        }
        const SlipPoint idle = circuit.at(c.voltage(), c.of("f"), 0);
        compare(idle.current, c.data["no_load_test"]["current_rms"]);
        compare(idle.input, c.data["no_load_test"]["power_electrical"]);
    }
    void the_plate_data() { against_the_reference_data(); }
    void the_plate() {
        QFETCH(int, number);
        const Case c = reference_case(number);
        const auto& plate = c.data["nameplate"];
        const auto slip = c.circuit().slip_for(c.of("P_rated"), c.voltage(), c.of("f"));
        QVERIFY(slip.has_value());
        compare(*slip, plate["slip"]);
        const SlipPoint p = c.circuit().at(c.voltage(), c.of("f"), *slip);
        compare(p.current, plate["current_rms"]);
        compare(p.shaft_torque(), plate["shaft_torque"]);
        compare(*p.efficiency(), plate["efficiency"]);
        QVERIFY(!c.circuit().slip_for(100 * c.of("P_rated"), c.voltage(), c.of("f")));
    }
    void over_frequency_data() { against_the_reference_data(); }
    void over_frequency() {
        QFETCH(int, number);
        const Case c = reference_case(number);
        for (const auto& row : c.data["v_over_f"]) {
            const double voltage = row["phase_voltage"], f = row["frequency"];
            const auto most = c.circuit().pull_out(voltage, f);
            compare(most.torque, row["pullout_torque"]);
            compare(most.slip, row["pullout_slip"]);
            compare(c.circuit().at(voltage, f, 1).torque, row["start_torque"]);
        }
    }
    /// Without iron loss and stator impedance the torque follows M. Kloss' formula exactly.
    void without_a_stator_the_formula_of_kloss_holds() {
        const InductionCircuit circuit({0, 0, 0, 1e6, 0.4, 1.6, 50}, 2);
        const auto most = circuit.pull_out(230, 50);
        CLOSE(most.slip, 0.4 / 1.6, 1e-6);
        for (double slip : {0.01, 0.1, 0.5, 1.0}) {
            const double kloss = 2 * most.torque / (slip / most.slip + most.slip / slip);
            CLOSE(circuit.at(230, 50, slip).torque / kloss, 1, 1e-5);
        }
        QCOMPARE(circuit.at(230, 50, 0).iron, 0.0);
    }
};
MAVLO_TEST(induction, TestInduction, Nothing)
#include "test_induction.moc"
