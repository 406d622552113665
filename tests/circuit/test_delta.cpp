// Phases between terminals: a delta against the star that feeds alike, and the current that goes round it.

#include "circuit/carrier_ripple.h"
#include "circuit/delta.h"
#include "circuit/dq_frame.h"
#include "circuit/steady.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr int pairs = 4;

/// Constant inductances along d and q, magnets, and a third harmonic that all phases have in common.
struct Constants {
    double psi, ld, lq, zero = 1e-3, third = 0;
};

class Salient : public PhaseMachine {
  public:
    explicit Salient(const Constants& c, double behind = 0)
        : m(c)
        , m_behind(behind) {}
    PhaseState at(double angle, const Currents& i) const override {
        const double theta = angle - m_behind, zero = i.mean();
        const DqFrame frame(theta);
        const Eigen::Vector2d own = frame.in() * i, psi(m.psi + m.ld * own[0], m.lq * own[1]);
        PhaseState s = frame.state(psi, Eigen::Vector2d(m.ld, m.lq).asDiagonal(), i);
        s.torque = 1.5 * pairs * (psi[0] * own[1] - psi[1] * own[0]) -
                   pairs * 9 * zero * m.third * std::sin(3 * theta);
        s.linkage.array() += m.third * std::cos(3 * theta) + m.zero * zero;
        s.inductance.array() += m.zero / 3;
        s.slope.array() -= 3 * m.third * std::sin(3 * theta);
        return s;
    }

  private:
    Constants m;
    double m_behind;
};

constexpr double resistance = 0.3;
constexpr Constants magnets{0.12, 4e-3, 7e-3};

SupplySettings standard() {
    SupplySettings s;
    s.clock.omega = 2 * pi * 60;
    s.bridge = {120, 0.8, 0.01, 0.6, 0.02};
    s.voltage = 55;
    s.voltage_angle = 0.3;
    s.carrier_frequency = 3000;
    s.modulation = 0.7;
    s.current = 12;
    s.band = 2;
    return s;
}

Result<SteadyRun> steady(const PhaseMachine& machine, const char* kind, const SupplySettings& fed, bool delta,
                         double ohms, const Clock& clock) {
    auto supply = registry<SupplyKind>().find(kind)->make(fed);
    if (!supply) return supply.problems();
    TransientOptions options{ohms, 720, {}};
    options.delta = delta;
    return find_steady(machine, clock, std::move(*supply), options, {});
}

/// In delta on a supply.
Result<SteadyRun> in_delta(const Constants& c, const char* kind, const SupplySettings& s) {
    const Salient phases(c);
    const DeltaAsStar machine(phases);
    return steady(machine, kind, at_terminals_of_delta(s), true, resistance, s.clock);
}

} // namespace

class TestDelta : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void currents_and_power_are_the_same_seen_from_the_terminals() {
        const Eigen::Vector3d p(3, -7, 5.5), psi(0.2, 0.4, -0.5), x = terminals_of_delta(p).array() + p.mean();
        CLOSE((phases_of_delta() * x - p).norm(), 0, 1e-14);
        for (int k = 0; k < 3; ++k) CLOSE(x[k] - x.mean(), p[k] - p[(k + 2) % 3], 1e-14);
        CLOSE(x.mean(), p.mean(), 1e-14);
        CLOSE(x.dot(phases_of_delta().transpose() * psi), p.dot(psi), 1e-14);
    }
    void sinusoidal_voltages_of_the_phases_drive_the_same_in_star_and_delta() {
        const SupplySettings s = standard();
        const auto star = steady(Salient(magnets), "sine-voltage", s, false, resistance, s.clock),
                   delta = in_delta(magnets, "sine-voltage", s);
        QVERIFY(star && delta);
        for (std::size_t n = 0; n < star->window.size(); n += 30) {
            const TransientSample &a = star->window[n], &b = delta->window[n];
            CLOSE((a.current - b.current).norm(), 0, 1e-5 * a.current.norm());
            CLOSE((a.voltage - b.voltage).norm(), 0, 1e-9 * a.voltage.norm());
            CLOSE((a.linkage - b.linkage).norm(), 0, 1e-6);
            CLOSE(a.torque, b.torque, 1e-4);
        }
        const WindowFigures f = window_figures(*delta, nullptr, resistance);
        CLOSE(f.line_current_rms / f.current_rms[0], std::numbers::sqrt3, 1e-4);
        CLOSE(f.line_voltage_rms, s.voltage / std::numbers::sqrt2, 1e-3);
        CLOSE(f.input_power, f.copper + f.torque_mean * s.clock.omega / pairs, 1e-4 * f.input_power);
    }
    void a_delta_takes_what_the_star_of_a_third_takes_data() {
        QTest::addColumn<QString>("kind");
        for (const char* kind : {"six-step", "blocks", "space-vector", "rectifier", "short-circuit"})
            QTest::newRow(kind) << kind;
    }
    /// R/3, L/3, psi/sqrt(3) and 30 degrees behind: no terminal can tell one from the other.
    void a_delta_takes_what_the_star_of_a_third_takes() {
        QFETCH(QString, kind);
        SupplySettings s = standard();
        if (kind == "rectifier") s.bridge.dc = 30;
        s.shorted = 3;
        const std::string name = kind.toStdString();
        const Constants third{magnets.psi / std::numbers::sqrt3, magnets.ld / 3, magnets.lq / 3};
        const auto delta = in_delta(magnets, name.c_str(), s),
                   star = steady(Salient(third, pi / 6), name.c_str(), at_terminals_of_delta(s), false,
                                 resistance / 3, s.clock);
        QVERIFY(star && delta);
        QCOMPARE(star->window.size(), delta->window.size());
        const double largest = star->window.front().line.cwiseAbs().maxCoeff() + 1;
        for (std::size_t n = 0; n < star->window.size(); n += 7) {
            const TransientSample &a = star->window[n], &b = delta->window[n];
            CLOSE((a.line - b.line).norm() / largest, 0, 1e-4);
            CLOSE(a.torque, b.torque, 1e-3 * std::abs(a.torque) + 1e-3);
            CLOSE(b.current.mean(), 0, 1e-6);
        }
    }
    void a_third_harmonic_drives_its_current_round() {
        Constants c = magnets;
        c.third = 0.015;
        const SupplySettings s = standard();
        const auto run = in_delta(c, "sine-voltage", s);
        QVERIFY(run);
        const auto wave = window_harmonic(*run, 3, [](const TransientSample& at) { return at.current[1]; });
        const double wanted = 3 * s.clock.omega * c.third / std::hypot(resistance, 3 * s.clock.omega * c.zero);
        CLOSE(std::abs(wave) / wanted, 1, 1e-3);
        // None of it leaves the delta, and its losses are the shaft's.
        const auto outside = window_harmonic(*run, 3, [](const TransientSample& at) { return at.line[1]; });
        CLOSE(std::abs(outside) / wanted, 0, 1e-6);
        const WindowFigures f = window_figures(*run, nullptr, resistance);
        CLOSE(f.input_power, f.copper + f.torque_mean * s.clock.omega / pairs, 1e-3 * std::abs(f.input_power));
        QVERIFY(f.copper > 1.5 * resistance * 0.99 * wanted * wanted);
    }
    void current_control_keeps_the_terminals_currents() {
        const SupplySettings s = standard();
        auto supply = registry<SupplyKind>().find("hysteresis")->make(at_terminals_of_delta(s));
        QVERIFY(supply);
        const Salient phases(magnets);
        const DeltaAsStar machine(phases);
        TransientOptions options{resistance, 720, {}};
        options.delta = true;
        Transient run(machine, s.clock, std::move(*supply), options);
        QVERIFY(!run.run(s.clock.period(), nullptr));
        std::vector<TransientSample> samples;
        QVERIFY(!run.run(2 * s.clock.period(), &samples));
        double mean = 0;
        for (const TransientSample& at : samples)
            for (int k = 0; k < 3; ++k) {
                const double angle = at.angle - phase_lag(k),
                             line = -std::numbers::sqrt3 * s.current * std::sin(angle - pi / 6);
                QVERIFY(std::abs(at.line[k] - line) < s.band + 1e-6);
                // The phases follow the current asked for, within the same.
                QVERIFY(std::abs(at.current[k] + s.current * std::sin(angle)) < s.band);
                mean = std::max(mean, std::abs(at.current.mean()));
            }
        CLOSE(mean, 0, 1e-6);
    }
    void a_carrier_s_ripple_and_valves_are_those_of_a_run_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<bool>("delta");
        for (const bool delta : {false, true})
            for (const char* kind : {"space-vector", "sine-triangle"})
                QTest::addRow("%s in %s", kind, delta ? "delta" : "star") << kind << delta;
    }
    /// The closed form against a run with the carrier, less one without, of a machine of constant inductances.
    void a_carrier_s_ripple_and_valves_are_those_of_a_run() {
        QFETCH(QString, kind);
        QFETCH(bool, delta);
        SupplySettings fed = standard();
        fed.carrier_frequency = 6000;
        fed.sampling = Sampling::Symmetric;
        // Valves that ask for little of the link, so that they do not change the currents.
        fed.bridge = {120, 0.2, 0.002, 0.1, 0.004};
        const Salient phases(magnets);
        const DeltaAsStar terminals(phases);
        const PhaseMachine& machine = delta ? static_cast<const PhaseMachine&>(terminals) : phases;
        const std::string name = kind.toStdString();
        const auto run = steady(machine, name.c_str(), delta ? at_terminals_of_delta(fed) : fed, delta,
                                resistance, fed.clock);
        if (!run) QFAIL(run.problems().front().sentence.c_str());
        const WindowFigures f = window_figures(*run, &fed.bridge, resistance);
        // What stands at 1, and the rest of the currents' square.
        const auto fundamental = [&](auto value) { return window_harmonic(*run, 1, value); };
        const auto u = fundamental([](const TransientSample&s) { return s.current[0]; }),
                   v = fundamental([](const TransientSample&s) { return s.voltage[0]; });
        const double ripple = std::sqrt(f.current_rms[0] * f.current_rms[0] - std::norm(u) / 2);
        // A phase along d and q: x cos(theta) - y sin(theta).
        const Eigen::Vector2d voltage(v.real(), v.imag()), current(u.real(), u.imag());
        const Eigen::Matrix2d inductance = Eigen::Vector2d(magnets.ld, magnets.lq).asDiagonal();
        const CarrierRipple told =
            carrier_ripple({fed.bridge, fed.carrier_frequency, kind == QLatin1String("space-vector"), delta},
                           voltage, current, inductance);
        qInfo("ripple %.4g A told, %.4g A in time; valves %.4g W, %.4g W", told.phase_rms(), ripple,
              told.valves, f.switches + f.diodes);
        CLOSE(told.phase_rms() / ripple, 1, 0.04);
        CLOSE(told.valves / (f.switches + f.diodes), 1, 0.04);
        QVERIFY(told.frequency() > 0.9 * fed.carrier_frequency);
    }
};

MAVLO_TEST(delta, TestDelta, EventLoop)
#include "test_delta.moc"
