// What each supply does with its gates and potentials, against what its definition says; a linear star on them
// against closed forms.

#include "circuit/steady.h"
#include "circuit/supply_kind.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <complex>
#include <set>

using namespace mavlo;

namespace {

/// Three like inductances without magnets that link nothing of each other.
class Chokes : public PhaseMachine {
  public:
    explicit Chokes(double inductance)
        : m_inductance(inductance) {}
    PhaseState at(double, const Currents& i) const override {
        return {m_inductance * i, m_inductance * Eigen::Matrix3d::Identity(), Eigen::Vector3d::Zero(), 0};
    }

  private:
    double m_inductance;
};

SupplySettings standard() {
    SupplySettings s;
    s.bridge.dc = 100;
    s.clock.omega = 2 * pi * 50;
    s.voltage = 40;
    s.carrier_frequency = 2000;
    s.modulation = 0.8;
    s.current = 5;
    s.band = 0.5;
    return s;
}

std::unique_ptr<Supply> made(const std::string& kind, const SupplySettings& settings) {
    auto supply = registry<SupplyKind>().find(kind)->make(settings);
    if (!supply) qFatal("%s", to_string(supply.problems().front()).c_str());
    return std::move(*supply);
}

/// The gates of a scheduled supply over one period, with the times they hold from.
struct GateTrace {
    std::vector<double> from;
    std::vector<Gates> gates;
    double period = 0;

    Gates at(double t) const {
        std::size_t k = 0;
        while (k + 1 < from.size() && from[k + 1] <= t) ++k;
        return gates[k];
    }
    double share(int leg, int gate) const {
        double sum = 0;
        for (std::size_t k = 0; k < from.size(); ++k)
            if (gates[k][std::size_t(leg)] == gate)
                sum += (k + 1 < from.size() ? from[k + 1] : period) - from[k];
        return sum / period;
    }
    int turned_on(int leg) const {
        int count = 0;
        for (std::size_t k = 0; k < gates.size(); ++k) {
            const Gates& before = k == 0 ? gates.back() : gates[k - 1];
            if (gates[k][std::size_t(leg)] > 0 && before[std::size_t(leg)] <= 0) ++count;
        }
        return count;
    }
    /// 2/T int v e^{-j n omega t} dt, v = gate U/2 of a leg.
    std::complex<double> wave(int leg, int order, double dc) const {
        std::complex<double> sum = 0;
        const std::complex<double> j(0, 1);
        const double w = 2 * pi * order / period;
        for (std::size_t k = 0; k < from.size(); ++k) {
            const double a = from[k], b = k + 1 < from.size() ? from[k + 1] : period;
            sum += double(gates[k][std::size_t(leg)]) * (std::exp(-j * w * a) - std::exp(-j * w * b)) / (j * w);
        }
        return dc / period * sum;
    }
};

GateTrace trace_of(Supply& supply, const Clock& clock) {
    GateTrace trace;
    trace.period = clock.period();
    const double slack = 1e-9 * trace.period;
    supply.at_edge(0, Currents::Zero());
    // A period to settle what waits for dead times, and one that is kept.
    double t = 0;
    for (const bool kept : {false, true}) {
        const double begin = kept ? trace.period : 0, end = begin + trace.period;
        const auto keep = [&](double at) {
            trace.from.push_back(at - begin);
            trace.gates.push_back(*supply.gates());
        };
        if (kept) keep(begin);
        for (double next = supply.next_edge(t); next < end + slack; next = supply.next_edge(t)) {
            t = next;
            supply.at_edge(t, Currents::Zero());
            if (t > end - slack) break;
            if (kept) keep(t);
        }
        t = std::max(t, end);
    }
    return trace;
}

GateTrace trace_of(const std::string& kind, const SupplySettings& settings) {
    const auto supply = made(kind, settings);
    return trace_of(*supply, settings.clock);
}

/// What a leg gives, about the middle of the link, of this amplitude and angle ahead of the EMF.
std::complex<double> reference_wave(int leg, double amplitude, double angle) {
    // -A sin(theta + angle - lag) = A cos(theta + angle - lag + 90 deg)
    return std::polar(amplitude, angle - phase_lag(leg) + pi / 2);
}

} // namespace

class TestSupplies : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void every_kind_tells_what_it_is() {
        std::set<std::string> names;
        for (const SupplyKind& kind : registry<SupplyKind>().all()) {
            QVERIFY2(names.insert(kind.name).second, kind.name.c_str());
            QVERIFY2(kind.tells.size() > 20 && kind.tells.back() == '.', kind.name.c_str());
            const auto supply = made(kind.name, standard());
            const auto again = supply->copy();
            QCOMPARE(again->next_edge(0), supply->next_edge(0));
            QCOMPARE(again->watches(), supply->watches());
            QCOMPARE(again->gates() != nullptr, supply->bridge() != nullptr);
        }
        QVERIFY(names.size() >= 8);
    }
    void what_a_kind_cannot_do_is_said_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<int>("fault");
        QTest::addColumn<QString>("path");
        const char *voltage = "--with dc_voltage", *carrier = "--with carrier_frequency";
        QTest::newRow("no amplitude") << "sine-voltage" << 0 << "--with voltage";
        for (const char* kind : {"six-step", "blocks", "hysteresis", "sine-triangle", "space-vector"})
            QTest::addRow("%s without a link", kind) << kind << 1 << voltage;
        QTest::newRow("no carrier") << "space-vector" << 2 << carrier;
        QTest::newRow("slow carrier") << "sine-triangle" << 3 << carrier;
        QTest::newRow("no modulation") << "space-vector" << 4 << "--with modulation";
        QTest::newRow("long dead time") << "sine-triangle" << 5 << "--with dead_time";
        QTest::newRow("no band") << "hysteresis" << 6 << "--with band";
        QTest::newRow("limit without band") << "blocks" << 7 << "--with band";
        QTest::newRow("one phase shorted") << "short-circuit" << 8 << "--with shorted";
        QTest::newRow("negative link") << "rectifier" << 9 << voltage;
    }
    void what_a_kind_cannot_do_is_said() {
        QFETCH(QString, kind);
        QFETCH(int, fault);
        QFETCH(QString, path);
        SupplySettings s = standard();
        switch (fault) {
        case 0:
            s.voltage = 0;
            break;
        case 1:
            s.bridge.dc = 0;
            break;
        case 2:
            s.carrier_frequency = 0;
            break;
        case 3:
            s.carrier_frequency = 150;
            break;
        case 4:
            s.modulation = 0;
            break;
        case 5:
            s.dead_time = 1e-3;
            break;
        case 6:
            s.band = 0;
            break;
        case 7:
            s.chop_current = 3, s.band = 4;
            break;
        case 8:
            s.shorted = 1;
            break;
        default:
            s.bridge.dc = -1;
        }
        const auto supply = registry<SupplyKind>().find(kind.toStdString())->make(s);
        QVERIFY(!supply);
        QCOMPARE(supply.problems().front().path, path.toStdString());
        QVERIFY(supply.problems().front().sentence.back() == '.');
    }
    void legs_carry_what_their_devices_let_through() {
        const Bridge b{100, 1.5, 0.01, 0.8, 0.02};
        const LegLaw up = leg_law(b, 1), down = leg_law(b, -1), idle = leg_law(b, 0);
        CLOSE(up.out - up.out_resistance * 10, 100 - 1.5 - 0.1, 1e-12); // the upper switch
        CLOSE(up.in - up.in_resistance * -10, 100 + 0.8 + 0.2, 1e-12);  // its diode
        CLOSE(down.out - down.out_resistance * 10, -0.8 - 0.2, 1e-12);  // the lower diode
        CLOSE(down.in - down.in_resistance * -10, 1.5 + 0.1, 1e-12);    // the lower switch
        QCOMPARE(idle.out, down.out);
        QCOMPARE(idle.in, up.in);
        for (int gate : {-1, 0, 1})
            for (double i : {-10.0, 10.0}) {
                const LegPath path = leg_path(gate, i);
                QCOMPARE(path.by_switch, gate * i > 0);
                QCOMPARE(path.upper, gate > 0 || (gate == 0 && i < 0));
                // What the device keeps is what the leg's potential lacks of its rail.
                const LegLaw law = leg_law(b, gate);
                const double potential =
                    i > 0 ? law.out - law.out_resistance * i : law.in - law.in_resistance * i;
                CLOSE(leg_loss(b, gate, i), ((path.upper ? b.dc : 0) - potential) * i, 1e-9);
            }
        QVERIFY(!up.both_ways());
        QVERIFY(made("sine-voltage", standard())->legs(0)[0].both_ways());
    }
    void six_steps_change_rails_every_half_turn() {
        for (double angle : {0.0, 25 * degree, -70 * degree}) {
            SupplySettings s = standard();
            s.voltage_angle = angle;
            const GateTrace trace = trace_of("six-step", s);
            for (int leg = 0; leg < 3; ++leg) {
                CLOSE(trace.share(leg, 1), 0.5, 1e-9);
                CLOSE(trace.share(leg, -1), 0.5, 1e-9);
                QCOMPARE(trace.turned_on(leg), 1);
                const auto first = trace.wave(leg, 1, 100), fifth = trace.wave(leg, 5, 100);
                CLOSE(std::abs(first - reference_wave(leg, 2 / pi * 100, angle)), 0, 1e-6);
                CLOSE(std::abs(fifth), std::abs(first) / 5, 1e-6);
                CLOSE(std::abs(trace.wave(leg, 2, 100)), 0, 1e-6);
            }
        }
    }
    void blocks_join_two_legs_at_a_time() {
        for (double lead : {0.0, 15 * degree}) {
            SupplySettings s = standard();
            s.lead = lead;
            const GateTrace trace = trace_of("blocks", s);
            for (double share = 0.003; share < 1; share += 0.01) {
                const Gates g = trace.at(share * trace.period);
                QCOMPARE(g[0] + g[1] + g[2], 0);
                QCOMPARE(std::abs(g[0]) + std::abs(g[1]) + std::abs(g[2]), 2);
            }
            for (int leg = 0; leg < 3; ++leg) {
                for (int gate : {-1, 0, 1}) CLOSE(trace.share(leg, gate), 1.0 / 3, 1e-9);
                // 120 degrees of either rail: sqrt 3/pi of the link, ahead by the lead.
                CLOSE(std::abs(trace.wave(leg, 1, 100) - reference_wave(leg, std::sqrt(3) / pi * 100, lead)), 0,
                      1e-6);
            }
        }
    }
    void carriers_give_their_reference_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<int>("sampling");
        QTest::addColumn<double>("modulation");
        QTest::addColumn<double>("tolerance");
        for (const char* kind : {"sine-triangle", "space-vector"})
            for (double m : {0.3, 0.8, 1.0}) {
                QTest::addRow("%s, natural, %g", kind, m) << kind << int(Sampling::Natural) << m << 2e-4;
                QTest::addRow("%s, twice, %g", kind, m) << kind << int(Sampling::Asymmetric) << m << 5e-3;
                QTest::addRow("%s, once, %g", kind, m) << kind << int(Sampling::Symmetric) << m << 1e-2;
            }
        QTest::newRow("space-vector beyond one") << "space-vector" << int(Sampling::Natural) << 1.15 << 2e-4;
    }
    void carriers_give_their_reference() {
        QFETCH(QString, kind);
        QFETCH(int, sampling);
        QFETCH(double, modulation);
        QFETCH(double, tolerance);
        SupplySettings s = standard();
        s.sampling = Sampling(sampling);
        s.modulation = modulation;
        s.voltage_angle = 0.35;
        const GateTrace trace = trace_of(kind.toStdString(), s);
        const double wanted = modulation * 50;
        for (int leg = 0; leg < 3; ++leg) {
            // Every carrier period turns each leg on once: 40 in a period.
            QCOMPARE(trace.turned_on(leg), 40);
            CLOSE(trace.share(leg, 1) + trace.share(leg, -1), 1, 1e-9);
            // What is sampled comes late by a quarter (twice) or half (once) of a carrier period.
            const double late = s.sampling == Sampling::Natural      ? 0
                                : s.sampling == Sampling::Asymmetric ? 0.25 / 40 * 2 * pi
                                                                     : 0.5 / 40 * 2 * pi;
            const auto line = trace.wave(leg, 1, 100) - trace.wave((leg + 1) % 3, 1, 100);
            const auto expected = reference_wave(leg, wanted, s.voltage_angle - late) -
                                  reference_wave((leg + 1) % 3, wanted, s.voltage_angle - late);
            CLOSE(std::abs(line - expected) / std::abs(expected), 0, tolerance);
            for (int order : {5, 7, 11, 13})
                QVERIFY2(std::abs(trace.wave(leg, order, 100)) < 0.02 * wanted + tolerance * wanted,
                         qPrintable(QString::number(order)));
        }
    }
    void a_carrier_s_average_is_its_reference() {
        SupplySettings s = standard();
        s.modulation = 1.1;
        const auto averaged = made("space-vector", s)->averaged();
        QVERIFY(averaged);
        QVERIFY(!averaged->gates() && !averaged->averaged());
        for (double share = 0; share < 1; share += 0.07) {
            const double t = share * s.clock.period();
            const auto legs = averaged->legs(t);
            for (int k = 0; k < 3; ++k) {
                const double line = legs[std::size_t(k)].out - legs[std::size_t((k + 1) % 3)].out;
                const double theta = s.clock.angle(t);
                CLOSE(line, -55 * (std::sin(theta - phase_lag(k)) - std::sin(theta - phase_lag((k + 1) % 3))),
                      1e-9);
                QVERIFY(std::abs(legs[std::size_t(k)].out) <= 50 + 1e-9);
            }
        }
    }
    void dead_time_opens_both_switches() {
        SupplySettings s = standard();
        s.dead_time = 5e-6;
        for (const char* kind : {"six-step", "sine-triangle", "space-vector"}) {
            const GateTrace trace = trace_of(kind, s);
            const int changes = QLatin1String(kind) == QLatin1String("six-step") ? 2 : 80;
            for (int leg = 0; leg < 3; ++leg) {
                CLOSE(trace.share(leg, 0), changes * s.dead_time / trace.period, 1e-6);
                // Never from one rail to the other at once.
                for (std::size_t k = 1; k < trace.gates.size(); ++k)
                    QVERIFY(trace.gates[k][std::size_t(leg)] * trace.gates[k - 1][std::size_t(leg)] >= 0);
            }
        }
    }
    void a_band_holds_the_current() {
        SupplySettings s = standard();
        s.advance = 0.4;
        const Chokes machine(5e-3);
        Transient run(machine, s.clock, made("hysteresis", s), {0.5, 360, {}});
        QVERIFY(!run.supply().is_scheduled());
        std::vector<TransientSample> samples;
        QVERIFY(!run.run(s.clock.period(), nullptr));
        QVERIFY(!run.run(2 * s.clock.period(), &samples));
        int changes = 0;
        for (std::size_t n = 0; n < samples.size(); ++n) {
            for (int k = 0; k < 3; ++k) {
                const double wanted = -s.current * std::sin(samples[n].angle + s.advance - phase_lag(k));
                // Phases without a neutral share what they cannot choose: twice the band at most.
                QVERIFY(std::abs(samples[n].current[k] - wanted) < s.band + 1e-6);
                if (n > 0 && samples[n].gates[std::size_t(k)] != samples[n - 1].gates[std::size_t(k)])
                    ++changes;
            }
            CLOSE(samples[n].current.sum(), 0, 1e-9);
        }
        QVERIFY(changes > 60);
    }
    void chokes_on_sine_voltages_settle_as_the_closed_form_says() {
        // i = V/Z (sin(wt + d - phi) - sin(d - phi) e^{-t R/L}), of v = -V sin(wt + d)
        SupplySettings s = standard();
        s.voltage_angle = 0.6;
        constexpr double r = 0.8, l = 6e-3;
        const Chokes machine(l);
        Transient run(machine, s.clock, made("sine-voltage", s), {r, 720, {}});
        std::vector<TransientSample> samples;
        QVERIFY(!run.run(2 * s.clock.period(), &samples));
        const double z = std::hypot(r, s.clock.omega * l), phi = std::atan2(s.clock.omega * l, r);
        for (const TransientSample& at : samples)
            for (int k = 0; k < 3; ++k) {
                const double d = s.voltage_angle - phase_lag(k) - phi;
                const double wanted =
                    -s.voltage / z * (std::sin(at.angle + d) - std::sin(d) * std::exp(-at.t * r / l));
                CLOSE(at.current[k], wanted, 1e-6);
            }
    }
    void the_steady_state_of_chokes_is_found_at_once() {
        SupplySettings s = standard();
        constexpr double r = 0.05, l = 6e-3; // a time constant of six periods
        const Chokes machine(l);
        const auto run = find_steady(machine, s.clock, made("six-step", s), {r, 720, {}}, {});
        QVERIFY(run);
        QVERIFY(run->periodic && run->periods < 25);
        // Order by order: V_n/Z_n, V_n = 2 U/(n pi) where n is no multiple of two or three.
        for (int n = 1; n < 20; ++n) {
            const double v = n % 2 == 0 || n % 3 == 0 ? 0 : 2 / pi * 100 / n;
            const auto wave = window_harmonic(*run, n, [](const TransientSample& at) { return at.current[0]; });
            CLOSE(std::abs(wave), v / std::hypot(r, n * s.clock.omega * l), 2e-4 * 30);
        }
        const auto supply = made("six-step", s);
        const WindowFigures f = window_figures(*run, supply->bridge(), r);
        CLOSE(f.line_voltage_rms, std::sqrt(2.0 / 3) * 100, 1e-3);
        CLOSE(f.input_power, f.copper, 2e-3 * f.current_peak * 100);
        CLOSE(f.switching_frequency, 50, 1e-6);
        CLOSE(f.current_rms[0], f.current_rms[1], 1e-3 * f.current_rms[0]);
    }
    void harmonics_of_a_straight_wave_are_exact() {
        // A triangle of few samples: 8/(pi n)^2 for odd n.
        SteadyRun run;
        for (int k = 0; k <= 4; ++k) {
            TransientSample at{};
            at.t = 0.01 * k;
            at.angle = k * pi / 2;
            at.current = Currents::Constant(k % 2 ? 0.0 : k == 2 ? -1.0 : 1.0);
            at.potential = at.linkage = Eigen::Vector3d::Zero();
            run.window.push_back(at);
        }
        const auto value = [](const TransientSample& at) { return at.current[0]; };
        for (int n = 0; n < 12; ++n)
            CLOSE(window_harmonic(run, n, value).real(), n % 2 ? 8 / (pi * pi * n * n) : 0, 1e-12);
        CLOSE(window_figures(run, nullptr, 2).current_rms[1], 1 / std::sqrt(3), 1e-12);
        CLOSE(window_figures(run, nullptr, 2).copper, 2, 1e-12);
    }
};

MAVLO_TEST(supplies, TestSupplies, EventLoop)
#include "test_supplies.moc"
