// Machines of constant inductances on sources and inverters, against independently computed steady states.

#include "circuit/steady.h"
#include "circuit/supply_kind.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// L_jk = leak delta_jk + L1 cos(phi_j - phi_k) + L2 cos(2 theta - phi_j - phi_k); the magnets' linkage is psi
/// cos, or of a trapezoidal rate with flats of 120 degrees.
class ConstantMachine : public PhaseMachine {
  public:
    explicit ConstantMachine(const nlohmann::json& j)
        : m_leak(j["phase_matrix"]["leak"])
        , m_l1(j["phase_matrix"]["L1"])
        , m_l2(j["phase_matrix"]["L2"])
        , m_psi(j["psi"])
        , m_pairs(j["pole_pairs"])
        , m_trapezoid(j["emf"] == "trap") {}

    PhaseState at(double theta, const Currents& i) const override {
        PhaseState s;
        Eigen::Matrix3d turning;
        Eigen::Vector3d magnets;
        for (int j = 0; j < 3; ++j) {
            const double pj = phase_lag(j);
            for (int k = 0; k < 3; ++k) {
                const double pk = phase_lag(k);
                s.inductance(j, k) =
                    (j == k ? m_leak : 0) + m_l1 * std::cos(pj - pk) + m_l2 * std::cos(2 * theta - pj - pk);
                turning(j, k) = -2 * m_l2 * std::sin(2 * theta - pj - pk);
            }
            magnets[j] = -m_psi * (m_trapezoid ? trapezoid(theta - pj) : std::sin(theta - pj));
        }
        s.slope = magnets + turning * i;
        s.linkage = s.inductance * i; // the magnets' own is not asked for
        s.torque = m_pairs * (magnets.dot(i) + 0.5 * i.dot(turning * i));
        return s;
    }

  private:
    static double trapezoid(double angle) {
        const double a = angle / degree - 360 * std::floor(angle / degree / 360);
        if (a < 30) return a / 30;
        if (a < 150) return 1;
        if (a < 210) return (180 - a) / 30;
        if (a < 330) return -1;
        return (a - 360) / 30;
    }
    double m_leak, m_l1, m_l2, m_psi, m_pairs;
    bool m_trapezoid;
};

SupplySettings settings_of(const nlohmann::json& c, std::string& kind) {
    const auto &bridge = c["bridge"], &drive = c["drive"];
    const auto number = [&](const char* key) { return drive.contains(key) ? drive[key].get<double>() : 0.0; };
    SupplySettings s;
    s.clock.omega = c["machine"]["omega_e"];
    if (!bridge.is_null())
        s.bridge = {bridge["Vdc"], bridge["V_switch"], bridge["R_switch"], bridge["V_diode"],
                    bridge["R_diode"]};
    s.voltage = number("V");
    s.voltage_angle = number("delta_deg") * degree;
    s.lead = number("lead_deg") * degree;
    s.chop_current = number("limit");
    s.band = number("band");
    s.hard_chop = drive.contains("chop") && drive["chop"] == "hard";
    s.carrier_frequency = number("fc");
    s.modulation = number("M");
    s.current = number("I");
    s.advance = number("beta_deg") * degree;
    s.least_interval = number("t_min");
    if (drive.contains("sampling"))
        s.sampling = drive["sampling"] == "natural"     ? Sampling::Natural
                     : drive["sampling"] == "symmetric" ? Sampling::Symmetric
                                                        : Sampling::Asymmetric;
    const std::string name = drive["kind"];
    kind = name == "sine"             ? "sine-voltage"
           : name == "six180"         ? "six-step"
           : name == "six120"         ? "blocks"
           : name == "hysteresis"     ? "hysteresis"
           : drive["svm"].get<bool>() ? "space-vector"
                                      : "sine-triangle";
    return s;
}

std::unique_ptr<Supply> made(const char* kind, const SupplySettings& settings) {
    auto supply = registry<SupplyKind>().find(kind)->make(settings);
    if (!supply) qFatal("%s", supply.problems().front().sentence.c_str());
    return std::move(*supply);
}

Result<SteadyRun> steady(const nlohmann::json& c, std::unique_ptr<Supply>& supply) {
    std::string kind;
    const SupplySettings settings = settings_of(c, kind);
    auto made = registry<SupplyKind>().find(kind)->make(settings);
    if (!made) return made.problems();
    supply = std::move(*made);
    const ConstantMachine machine(c["machine"]);
    TransientOptions options;
    options.resistance = c["machine"]["R"];
    SteadyOptions steady;
    steady.window = int(c["steady"]["window_periods"]);
    steady.band = settings.band;
    return find_steady(machine, settings.clock, supply->copy(), options, steady);
}

} // namespace

class TestDrive : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void steady_states_match_the_reference_data() {
        QTest::addColumn<int>("number");
        int n = 0;
        const auto data = reference("drive.json");
        for (const auto& c : data["cases"]) QTest::newRow(c["id"].get<std::string>().c_str()) << n++;
    }
    void steady_states_match_the_reference() {
        QFETCH(int, number);
        const auto data = reference("drive.json");
        const auto& c = data["cases"][std::size_t(number)];
        std::unique_ptr<Supply> supply;
        const auto run = steady(c, supply);
        if (!run) QFAIL(run.problems().front().sentence.c_str());
        const double resistance = c["machine"]["R"];
        const WindowFigures f = window_figures(*run, supply->bridge(), resistance);
        const auto& wanted = c["steady"];
        const bool wanders = c["drive"]["kind"] == "hysteresis"; // the reference compares at clock ticks only
        const double loose = wanders ? 4 : 1;
        CLOSE(f.torque_mean / wanted["torque"]["mean"].get<double>(), 1, 5e-3 * (wanders ? 2 : 1));
        CLOSE(f.current_rms[0] / wanted["current"]["rms_U"].get<double>(), 1, 5e-3 * loose);
        if (wanders) {
            QVERIFY(f.switching_frequency > 2000 && f.switching_frequency < 50000);
            return;
        }
        CLOSE(f.current_peak / wanted["current"]["peak_U"].get<double>(), 1, 5e-3);
        CLOSE(f.torque_peak_to_peak, wanted["torque"]["peak_to_peak"].get<double>(), 0.01 * f.torque_mean);
        const auto amplitudes = wanted["current"]["harmonics_U"]["amplitude"];
        for (int k = 1; k <= 13; ++k) {
            const auto h = window_harmonic(*run, k, [](const TransientSample& s) { return s.current[0]; });
            CLOSE(std::abs(h), amplitudes[std::size_t(k)].get<double>(), 0.01 * amplitudes[1].get<double>());
        }
        if (wanted.contains("switching_frequency") && wanted["switching_frequency"].is_number())
            CLOSE(f.switching_frequency, wanted["switching_frequency"].get<double>(),
                  0.03 * wanted["switching_frequency"].get<double>() + 1e-9);
        if (wanted.contains("power")) {
            const auto& power = wanted["power"];
            CLOSE(f.copper / power["copper"].get<double>(), 1, 0.01);
            CLOSE(f.input_power / power["source"].get<double>(), 1, 5e-3);
            // What comes in goes out.
            const double mechanical = f.torque_mean * c["machine"]["omega_e"].get<double>() /
                                      c["machine"]["pole_pairs"].get<double>();
            CLOSE((f.copper + f.switches + f.diodes + mechanical) / f.input_power, 1, 2e-3);
        }
    }
    void a_start_from_zero_current_begins_with_the_gates_of_its_angle() {
        // All phases see the link from the first instant on: with 25 degrees of lead U and W stand at the lower
        // rail and the upper one; the currents' first slopes are those of an inductance against the EMF.
        const auto data = reference("drive.json");
        const nlohmann::json c = data["cases"][1];
        std::string kind;
        const SupplySettings settings = settings_of(c, kind);
        const ConstantMachine machine(c["machine"]);
        TransientOptions options;
        options.resistance = c["machine"]["R"];
        Transient run(machine, settings.clock, made(kind.c_str(), settings), options);
        std::vector<TransientSample> samples;
        QVERIFY(!run.run(1e-5, &samples));
        QCOMPARE(samples.front().gates, (Gates{-1, 1, -1}));
        const double vdc = settings.bridge.dc, l = c["machine"]["Ld"], psi = c["machine"]["psi"],
                     omega = settings.clock.omega;
        // v_V = 2/3 U_dc, e_V = -omega psi sin(-120 deg).
        const double slope = (2.0 / 3 * vdc - omega * psi * std::sin(2 * pi / 3)) / l;
        CLOSE(run.currents()[1] / (slope * 1e-5), 1, 0.02);
    }
    void a_short_circuit_of_a_linear_machine() {
        // Steady: I = omega psi/|R + j omega L|, braking torque -3/2 R I^2 p/omega.
        const nlohmann::json c = reference("drive.json")["cases"][0];
        SupplySettings s;
        s.clock.omega = 400;
        const ConstantMachine machine(c["machine"]);
        const double r = c["machine"]["R"], l = c["machine"]["Ld"], psi = c["machine"]["psi"], p = 5;
        TransientOptions options;
        options.resistance = r;
        const std::unique_ptr<Supply> supply = made("short-circuit", s);
        const auto run = find_steady(machine, s.clock, supply->copy(), options, {});
        const WindowFigures f = window_figures(*run, supply->bridge(), r);
        const double current = 400 * psi / std::hypot(r, 400 * l);
        CLOSE(f.current_rms[0] * std::sqrt(2.0) / current, 1, 1e-4);
        CLOSE(f.torque_mean / (-1.5 * r * current * current * p / 400), 1, 1e-4);
        // Its first period: the sudden short circuit overshoots by the direct component.
        SteadyOptions start;
        start.from_zero = true;
        start.window = 2;
        const auto sudden = find_steady(machine, s.clock, supply->copy(), options, start);
        QVERIFY(window_figures(*sudden, supply->bridge(), r).current_peak > 1.2 * current);
        // Two terminals: the third carries nothing.
        s.shorted = 2;
        const std::unique_ptr<Supply> two = made("short-circuit", s);
        const auto open = find_steady(machine, s.clock, two->copy(), options, {});
        CLOSE(window_figures(*open, two->bridge(), r).current_rms[2], 0, 1e-9);
        QVERIFY(window_figures(*open, two->bridge(), r).current_rms[0] > 0.3 * current);
    }
    void a_rectifier_conducts_when_the_emf_passes_the_link() {
        const nlohmann::json c = reference("drive.json")["cases"][0];
        const ConstantMachine machine(c["machine"]);
        const double psi = c["machine"]["psi"], omega = 1000, line = std::sqrt(3.0) * omega * psi;
        TransientOptions options;
        options.resistance = c["machine"]["R"];
        for (double share : {0.6, 1.02}) {
            SupplySettings s;
            s.clock.omega = omega;
            s.bridge.dc = share * line;
            const std::unique_ptr<Supply> supply = made("rectifier", s);
            const auto run = find_steady(machine, s.clock, supply->copy(), options, {});
            if (!run) QFAIL(run.problems().front().sentence.c_str());
            const WindowFigures f = window_figures(*run, supply->bridge(), options.resistance);
            if (share > 1) {
                CLOSE(f.current_rms[0], 0, 1e-9);
                continue;
            }
            QVERIFY(f.dc_current_mean < -0.5 && f.torque_mean < 0);
            CLOSE((f.copper + f.torque_mean * omega / 5) / f.input_power, 1, 5e-3);
        }
    }
    void wrong_settings_get_a_sentence() {
        for (const SupplyKind& kind : registry<SupplyKind>().all()) {
            SupplySettings nothing;
            nothing.clock.omega = 100;
            nothing.bridge.dc = -1;
            nothing.shorted = 7;
            const auto made = kind.make(nothing);
            QVERIFY2(!made && made.problems().front().sentence.size() > 15, kind.name.c_str());
        }
    }
};
MAVLO_TEST(drive, TestDrive, Nothing)
#include "test_drive.moc"
