// Faults at the terminals and generation through the diodes: against closed forms of a machine of constant
// inductances, and by their energy.

#include "map/map_machine.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/constant_map.h"
#include "question/terminal_fault.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double linkage = 0.05, inductance = 2e-3, common = 0.5e-3, most = linkage / inductance, speed = 300;
constexpr int pairs = 3;

/// A machine of constant inductances, its phases linking `zero` of what they have in common.
class Constant {
  public:
    explicit Constant(double zero = common, double lq = inductance)
        : m_map(constant_map({linkage, inductance, lq, pairs}, 3 * most))
        , m_section(PositionMap(*m_map))
        , m_whole(m_section, zero, pairs) {}
    const PhaseMachine& phases() const { return m_whole; }

  private:
    std::shared_ptr<const FluxMap> m_map;
    MapMachine m_section;
    WithZeroSequence m_whole;
};

struct Extremes {
    double current = 0, along_d = 0;
};

Extremes extremes_of(const PhaseMachine& phases, Fault fault, bool delta, double angle, Dq before = {}) {
    FaultRun run(phases, fault_circuit(fault, delta, 0), pairs, {speed, angle, before}, 720, {});
    const auto samples = run.go_on(2);
    if (!samples) qFatal("%s", to_string(samples.problems().front()).c_str());
    Extremes out;
    for (const NetworkSample& s : *samples) {
        out.current = std::max(out.current, run.currents(s).cwiseAbs().maxCoeff());
        out.along_d = std::min(out.along_d, run.vector(s).d);
    }
    return out;
}

/// Torque times speed over minus the copper loss of a steady fault; 1 where they balance.
double balance_of(const PhaseMachine& phases, Fault fault, bool delta, double resistance) {
    FaultRun run(phases, fault_circuit(fault, delta, resistance), pairs, {speed, 0.4, {}}, 720, {});
    const auto window = run.steady();
    if (!window || !window->periodic) qFatal("no steady state");
    double copper = 0;
    for (int k = 0; k < 3; ++k) {
        const auto i = [&](const NetworkSample& s) { return run.currents(s)[k]; };
        copper += resistance * window_mean(window->samples, i, i);
    }
    if (copper <= 0) qFatal("no current");
    return -window_mean(window->samples, [](const NetworkSample& s) { return s.torque; }) * speed / copper;
}

} // namespace

class TestFaults : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// i = sqrt 3 psi (cos phi_0 - cos phi)/(2 L) with phi = theta + 30 deg: twice sqrt 3 psi/(2 L) at most,
    /// and i_d = psi/L (cos phi_0 - cos phi) cos phi down to -2 psi/L.
    void two_phases_swing_to_root_three_of_the_symmetrical_current() {
        const Constant machine;
        const Extremes worst = extremes_of(machine.phases(), Fault::TwoPhase, false, -pi / 6);
        CLOSE(worst.current / (std::sqrt(3.0) * most), 1, 1e-4);
        CLOSE(worst.along_d / (-2 * most), 1, 1e-4);
        const Extremes mildest = extremes_of(machine.phases(), Fault::TwoPhase, false, pi / 3);
        CLOSE(mildest.current / (std::sqrt(3.0) / 2 * most), 1, 1e-4);
    }
    /// One phase has (2 L + L_0)/3: i = psi (cos theta_0 - cos theta)/that.
    void one_phase_meets_its_own_inductance() {
        const Constant machine;
        const double own = (2 * inductance + common) / 3;
        const Extremes worst = extremes_of(machine.phases(), Fault::PhaseToNeutral, false, 0);
        CLOSE(worst.current / (2 * linkage / own), 1, 1e-4);
        CLOSE(worst.along_d / (-4.0 / 3 * linkage / own), 1, 1e-4);
    }
    void a_delta_with_all_terminals_joined_swings_like_a_star() {
        const Constant machine;
        const Extremes star = extremes_of(machine.phases(), Fault::ThreePhase, false, 0.3),
                       delta = extremes_of(machine.phases(), Fault::ThreePhase, true, 0.3);
        CLOSE(star.along_d / (-2 * most), 1, 1e-4);
        CLOSE(delta.along_d / star.along_d, 1, 1e-5);
        CLOSE(delta.current / star.current, 1, 1e-5);
    }
    void at_the_first_instant_the_loops_keep_their_linkage() {
        const Constant machine(common, 1.6 * inductance);
        const Eigen::Vector3d before{7, -9, 2};
        for (const bool delta : {false, true}) {
            const FaultCircuit circuit = fault_circuit(Fault::TwoPhase, delta, 0.1);
            const Currents after = held_currents(machine.phases(), circuit, 0.7, before);
            const Eigen::VectorXd kept = circuit.loops.transpose() * (machine.phases().at(0.7, after).linkage -
                                                                      machine.phases().at(0.7, before).linkage);
            CLOSE(kept.cwiseAbs().maxCoeff(), 0, 1e-9);
            // In series: two phases of the delta, or both of the star.
            CLOSE(delta ? after[1] - after[2] : after[0] + after[1], 0, 1e-9);
            if (!delta) CLOSE(after[2], 0, 1e-12);
        }
    }
    void what_brakes_is_what_the_copper_loses_data() {
        QTest::addColumn<int>("fault");
        QTest::addColumn<bool>("delta");
        for (const bool delta : {false, true})
            for (std::size_t k = 0; k < fault_words().size(); ++k)
                if (!delta || Fault(k) != Fault::PhaseToNeutral)
                    QTest::newRow(qPrintable(QString::fromStdString(fault_words()[k]) +
                                             (delta ? QStringLiteral(" in delta") : QString())))
                        << int(k) << delta;
    }
    void what_brakes_is_what_the_copper_loses() {
        QFETCH(int, fault);
        QFETCH(bool, delta);
        const Constant machine(common, 1.6 * inductance);
        CLOSE(balance_of(machine.phases(), Fault(fault), delta, 0.3), 1, 2e-3);
    }
    void a_machine_of_its_own_is_asked() {
        const Design design = new_project("surface")->variants.front().design;
        for (const char* fault : {"two-phase", "phase-to-neutral"}) {
            const Answer a = asked(design, "terminal-fault",
                                   {{"fault", fault}, {"speeds", "50:100:50 %"}, {"map_steps", "3"}});
            const double turning = of(a, "torque_mean") * 2 * pi / 60 * design_speed(design);
            CLOSE(-turning / of(a, "copper_loss"), 1, 0.02);
            QVERIFY(of(a, "current_peak") > std::sqrt(2.0) * of(a, "current_rms"));
            QVERIFY(of(a, "braking_torque_most") < 0 && of(a, "id_furthest") < 0);
            QVERIFY(of(a, "open_voltage_peak") > 0);
            QCOMPARE(a.curve("braking_torque")->x.size(), std::size_t(2));
        }
    }
    void a_delta_has_no_neutral() {
        Ask ask;
        ask.design = new_project("surface")->variants.front().design;
        ask.design.texts["winding.connection"] = "delta";
        ask.with = {{"fault", "phase-to-neutral"}};
        ask.quality = Quality::Draft;
        const auto answer = ask_question("terminal-fault", ask);
        QVERIFY(!answer);
        QVERIFY(QString::fromStdString(answer.problems().front().sentence).contains("neutral"));
    }
    /// Between the terminals the EMF's peak equals the link there; above it the braking power is found again in
    /// link, copper and diodes, below it nothing flows.
    void diodes_charge_the_link_from_the_emf_on() {
        const Design design = new_project("surface")->variants.front().design;
        const Answer a = asked(design, "diode-generation",
                               {{"speeds", "100:200:50 %"}, {"dc_voltage", "30 V"}, {"map_steps", "3"}});
        const Answer idle = asked(design, "no-load", {{"points", "144"}});
        double emf = 0;
        for (const char* line : {"back_emf_uv", "back_emf_vw", "back_emf_wu"})
            for (double v : idle.curve(line)->y) emf = std::max(emf, std::abs(v));
        CLOSE(30 / emf * design_speed(design) / of(a, "generation_speed"), 1, 0.02);
        CLOSE(of(a, "power_unaccounted"), 0, 0.02);
        const Curve &link = *a.curve("link_current"), &torque = *a.curve("braking_torque");
        for (std::size_t k = 0; k < link.x.size(); ++k) {
            const bool conducts = link.x[k] > of(a, "generation_speed");
            QVERIFY(conducts ? link.y[k] > 0 && torque.y[k] < 0 : link.y[k] == 0 && torque.y[k] == 0);
        }
    }

  private:
    static double design_speed(const Design& design) { return machine_of(design).rating.speed * 30 / pi; }
};
MAVLO_TEST(faults, TestFaults, EventLoop)
#include "test_faults.moc"
