// The circuit of an induction machine against independent values, and its own balance.

#include "circuit/bench_tests.h"
#include "circuit/run_up.h"
#include "circuit/saturated_circuit.h"
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
    /// What a bench would measure of a circuit gives it back, whatever the frequency with the rotor locked.
    void a_bench_finds_the_elements_data() { against_the_reference_data(); }
    void a_bench_finds_the_elements() {
        QFETCH(int, number);
        const Case c = reference_case(number);
        const double f = c.of("f"), locked_f = c.of("f_locked"), low = 0.2 * c.voltage();
        const auto& test = c.data["no_load_test"];
        const SlipPoint idle = c.circuit().at(c.voltage(), f, 0), locked = c.circuit().at(low, locked_f, 1);
        compare(idle.current, test["current_rms"]);
        const auto found =
            identified({c.voltage(), f, idle.current, idle.input},
                       {low, locked_f, locked.current, locked.input}, c.of("R1"), c.of("X1") / c.of("X2"));
        QVERIFY(bool(found));
        const std::pair<double, const char*> elements[] = {
            {found->x1, "X1"}, {found->x2, "X2"}, {found->xm, "Xm"}, {found->r2, "R2"}, {found->rfe, "Rfe"}};
        for (const auto& [value, name] : elements) CLOSE(value / c.of(name), 1, 1e-6);
        QVERIFY(!identified({c.voltage(), f, idle.current, idle.input},
                            {c.voltage(), f, idle.current / 2, idle.input / 2}, c.of("R1"), 1));
    }
    /// A table of constant elements is the circuit itself; its searches find what closed forms say.
    void a_table_of_constant_elements_data() { against_the_reference_data(); }
    void a_table_of_constant_elements() {
        QFETCH(int, number);
        const Case c = reference_case(number);
        const double f = c.of("f");
        CircuitTable table;
        table.frequency = f;
        table.r1 = c.of("R1");
        table.rotor_frequency = {0.01 * f, f};
        table.x1 = {c.of("X1"), c.of("X1")};
        table.r2 = {c.of("R2"), c.of("R2")};
        table.x2 = {c.of("X2"), c.of("X2")};
        table.main_share = {1, 1};
        table.emf_per_hertz = {0.1, 10};
        table.xm = {c.of("Xm"), c.of("Xm")};
        table.iron_emf = 1;
        table.iron_frequency = {f};
        table.iron_loss = {3 * f * f / c.of("Rfe")};
        SaturatedCircuit circuit(table, c.given["pole_pairs"].get<int>(), c.of("P_friction"));
        for (double slip : {-0.05, 0.0, 0.02, 0.3, 1.0}) {
            const auto point = circuit.at(c.voltage(), f, slip);
            QVERIFY(bool(point));
            const SlipPoint right = c.circuit().at(c.voltage(), f, slip);
            CLOSE(point->current / right.current, 1, 1e-8);
            CLOSE(point->input / right.input, 1, 1e-8);
            CLOSE(point->torque, right.torque, 1e-8 * c.circuit().pull_out(c.voltage(), f).torque);
        }
        const auto most = circuit.pull_out(c.voltage(), f, true);
        QVERIFY(bool(most));
        CLOSE(most->torque / c.data["pullout"]["torque"].get<double>(), 1, 1e-5);
        CLOSE(most->slip / c.data["pullout"]["slip"].get<double>(), 1, 2e-3);
        const auto slip = circuit.slip_for(c.of("P_rated"), c.voltage(), f);
        QVERIFY(slip && *slip);
        CLOSE(**slip / c.data["nameplate"]["slip"].get<double>(), 1, 1e-6);
    }
    /// By the formula of Kloss dt = J d omega / T has a closed form, and whatever the torque the rotor takes as
    /// much heat as the inertia has energy in the end.
    void running_up_an_inertia() {
        GivenCircuit circuit({0, 0, 0, 1e7, 0.4, 1.6, 50}, 2, 0);
        const double synchronous = circuit.synchronous_speed(50), inertia = 0.3,
                     most = (*circuit.pull_out(230, 50, true)).torque, sm = 0.25;
        RunUp run;
        run.supply = [](double, double) { return RunUpSupply{230, 50}; };
        run.inertia = inertia;
        run.load_torque = [](double) { return 0.0; };
        const auto course = run_up(circuit, run);
        QVERIFY(course && course->time && !course->stands);
        const double slip = 1 - 0.99 * course->points.back().speed / synchronous,
                     wanted = inertia * synchronous / (2 * most) *
                              ((1 - slip * slip) / (2 * sm) + sm * std::log(1 / slip));
        CLOSE(*course->time / wanted, 1, 0.01);
        CLOSE(course->cage_heat / (0.5 * inertia * synchronous * synchronous), 1, 0.01);
        CLOSE(course->points.back().speed / synchronous, 1, 1e-3);
        CLOSE(course->largest_current / (*circuit.at(230, 50, 1)).current, 1, 1e-9);
    }
    void a_load_that_holds() {
        GivenCircuit circuit({0.5, 1, 0, 30, 0.4, 1.6, 50}, 2, 0);
        const double start = (*circuit.at(230, 50, 1)).torque;
        RunUp run;
        run.supply = [](double, double) { return RunUpSupply{230, 50}; };
        run.inertia = 0.1;
        for (double load : {1.1 * start, 0.9 * start}) {
            run.load_torque = [load](double) { return load; };
            const auto course = run_up(circuit, run);
            QVERIFY(bool(course));
            QCOMPARE(course->stands, load > start);
            QCOMPARE(course->time.has_value(), load < start);
            if (load > start) QCOMPARE(course->points.back().speed, 0.0);
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
