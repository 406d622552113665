// Networks of elements in time against closed forms; netlists read and written; mistakes in sentences.

#include "circuit/netlist.h"
#include "circuit/network_window.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QtTest>
#include <cmath>
#include <fmt/format.h>

using namespace mavlo;

namespace {

/// Within this share of the wanted value.
void near(double value, double wanted, double share) {
    QVERIFY2(std::abs(value - wanted) <= share * std::abs(wanted),
             fmt::format("{:.9g} is wanted to be {:.9g}", value, wanted).c_str());
}

Network netlist(const std::string& text) {
    auto network = read_netlist(text);
    if (!network) qFatal("%s", network.problems().front().sentence.c_str());
    const auto problems = network_problems(*network, 0);
    if (!problems.empty()) qFatal("%s", problems.front().sentence.c_str());
    return *network;
}

/// Samples of a network without a machine.
std::vector<NetworkSample> samples_of(const Network& network, double end, double step,
                                      double tolerance = 1e-7) {
    const NoMachine none;
    NetworkOptions options;
    options.longest_step = step;
    options.tolerance = tolerance;
    NetworkRun run(network, none, nullptr, options);
    std::vector<NetworkSample> samples;
    const auto problem = run.run(end, &samples);
    if (problem) qFatal("%s", problem->sentence.c_str());
    return samples;
}

double voltage(const Network& n, const NetworkSample& s, const char* node) {
    const auto at = std::find(n.nodes.begin(), n.nodes.end(), node) - n.nodes.begin();
    return s.potential[at];
}

/// Largest distance of a sampled quantity from a function of time.
template <typename Value, typename Truth>
double farthest(const std::vector<NetworkSample>& samples, Value value, Truth truth) {
    double most = 0;
    for (const NetworkSample& s : samples) most = std::max(most, std::abs(value(s) - truth(s.rotor.t)));
    return most;
}

/// A phase with a linkage that is straight in the current and turns with the rotor.
class OnePhase : public PortMachine {
  public:
    int ports() const override { return 1; }
    PortState at(double angle, const Eigen::VectorXd& i) const override {
        PortState s{Eigen::VectorXd(1), Eigen::MatrixXd(1, 1), 0};
        s.linkage[0] = 0.1 * std::cos(angle) + 0.01 * i[0];
        s.inductance(0, 0) = 0.01;
        s.torque = -0.1 * std::sin(angle) * i[0];
        return s;
    }
};

} // namespace

class TestNetwork : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void charging();
    void ringing();
    void coupledCoils();
    void rectifier();
    void buckConverter();
    void hysteresisSwitch();
    void orderTwo();
    void phaseOfAMachine();
    void runUp();
    void reading();
    void mistakes_data();
    void mistakes();
    void agreesWithNgspice();
    /// A capacitor that a pulsed source fills over some 400 of its periods: a period changes little long before
    /// it is full.
    void a_slow_capacitor_is_filled_before_the_state_is_steady() {
        const Network n = netlist("V1 in 0 PULSE(0 10 0 1u 1u 499u 1m)\nR1 in out 100\nC1 out 0 4m\n");
        const NoMachine none;
        NetworkOptions options;
        options.longest_step = 5e-5;
        NetworkRun run(n, none, nullptr, options);
        NetworkSteady steady;
        steady.period = 1e-3;
        const auto window = find_network_steady(run, steady);
        if (!window) QFAIL(window.problems().front().sentence.c_str());
        QVERIFY(window->periodic);
        const double mean =
            window_mean(window->samples, [&](const NetworkSample& s) { return voltage(n, s, "out"); });
        near(mean, 5, 5e-4);
        QVERIFY2(window->periods < 100, qPrintable(QString::number(window->periods)));
    }
};

void TestNetwork::charging() {
    const Network n = netlist("* charging\nV1 in 0 10\nR1 in out 1k\nC1 out 0 1u\n");
    const auto run = samples_of(n, 5e-3, 1e-4);
    QVERIFY(farthest(
                run, [&](const auto& s) { return voltage(n, s, "out"); },
                [](double t) { return 10 * (1 - std::exp(-t / 1e-3)); }) < 1e-4 * 10);
}

void TestNetwork::ringing() {
    const Network n = netlist("V1 a 0 1\nR1 a b 2\nL1 b c 1m\nC1 c 0 10u\n");
    const double alpha = 2 / (2 * 1e-3), omega = std::sqrt(1 / (1e-3 * 10e-6) - alpha * alpha);
    const auto run = samples_of(n, 3e-3, 2e-5);
    QVERIFY(farthest(
                run, [&](const auto& s) { return voltage(n, s, "c"); },
                [&](double t) {
                    return 1 -
                           std::exp(-alpha * t) * (std::cos(omega * t) + alpha / omega * std::sin(omega * t));
                }) < 1e-4);
}

/// Two coils, the second shorted: seen from the first a leakage inductance, once the resistances play no part.
void TestNetwork::coupledCoils() {
    const Network n = netlist("V1 a 0 1\nL1 a 0 10m\nL2 b 0 40m\nK1 L1 L2 0.8\nR2 b 0 1u\n");
    const auto run = samples_of(n, 1e-3, 1e-5);
    const double leakage = 10e-3 * (1 - 0.64);
    QVERIFY(farthest(
                run, [&](const auto& s) { return s.current[n.find("l1")]; },
                [&](double t) { return t / leakage; }) < 1e-4 * 1e-3 / leakage);
}

/// A diode and a resistance at a sine: conducts between the two crossings of its drop.
void TestNetwork::rectifier() {
    const Network n = netlist("V1 a 0 sin(0 10 50)\nD1 a b dm\nR1 b 0 10\n.model dm d(vf=1 ron=1u)\n");
    const auto run = samples_of(n, 0.04, 2e-4);
    QVERIFY(farthest(
                run, [&](const auto& s) { return s.current[n.find("r1")]; },
                [](double t) { return std::max(0.0, 10 * std::sin(2 * pi * 50 * t) - 1) / 10; }) < 1e-4);
    // Its beginning is met, not stepped over.
    const double begins = std::asin(0.1) / (2 * pi * 50);
    double nearest = 1;
    for (const NetworkSample& s : run) nearest = std::min(nearest, std::abs(s.rotor.t - begins));
    QVERIFY2(nearest < 1e-8, qPrintable(QString::number(nearest)));
}

/// A switch at 10 kHz, a diode that carries on, a choke and a load: the mean is the duty's share of the source.
void TestNetwork::buckConverter() {
    const Network n = netlist("VS in 0 100\nVG g 0 pulse(0 1 0 0 0 30u 100u)\nS1 in x g 0 sm\nD1 0 x dm\n"
                              "L1 x out 1m\nC1 out 0 100u\nR1 out 0 5\n"
                              ".model sm sw(vt=0.5 ron=1u)\n.model dm d(ron=1u)\n");
    const auto run = samples_of(n, 0.02, 5e-6);
    double mean = 0, source = 0, load = 0, span = 0;
    for (std::size_t k = 1; k < run.size(); ++k) {
        if (run[k].rotor.t < 0.018) continue;
        const double dt = run[k].rotor.t - run[k - 1].rotor.t;
        const auto between = [&](auto f) { return dt * (f(run[k]) + f(run[k - 1])) / 2; };
        mean += between([&](const auto& s) { return voltage(n, s, "out"); });
        source += between([&](const auto& s) { return -100 * s.current[n.find("vs")]; });
        load += between([&](const auto& s) { return voltage(n, s, "out") * s.current[n.find("r1")]; });
        span += dt;
    }
    near(mean / span, 30, 1e-3);
    near(source / load, 1, 1e-3);
}

/// A capacitor charged by a resistance and emptied by a switch between two voltages: both times are known.
void TestNetwork::hysteresisSwitch() {
    const Network n = netlist("V1 a 0 10\nR1 a c 1k\nC1 c 0 1u\nR2 c d 10\nS1 d 0 c 0 sm\n"
                              ".model sm sw(vt=3 vh=1 ron=1u)\n");
    const auto run = samples_of(n, 5e-3, 2e-5);
    std::vector<double> closings;
    for (std::size_t k = 1; k < run.size(); ++k)
        if (run[k].closed[std::size_t(n.find("s1"))] && !run[k - 1].closed[std::size_t(n.find("s1"))])
            closings.push_back(run[k].rotor.t);
    QVERIFY(closings.size() > 5);
    const double low = 10 * 10.0 / 1010, tau = 1e-6 * 1e4 / 1010;
    near((closings.back() - closings[0]) / double(closings.size() - 1),
         1e-3 * std::log(8.0 / 6) + tau * std::log((4 - low) / (2 - low)), 1e-4);
}

/// Halving the step quarters the error.
void TestNetwork::orderTwo() {
    const Network n = netlist("V1 a 0 sin(0 1 50)\nR1 a b 1\nL1 b 0 10m\n");
    const auto error = [&](double step) {
        const auto run = samples_of(n, 0.02, step, 1e3);
        const double w = 2 * pi * 50, z2 = 1 + w * w * 1e-4, phi = std::atan2(w * 0.01, 1);
        return farthest(
            run, [&](const auto& s) { return s.current[n.find("l1")]; },
            [&](double t) {
                return (std::sin(w * t - phi) + std::sin(phi) * std::exp(-t / 0.01)) / std::sqrt(z2);
            });
    };
    const double coarse = error(4e-4), fine = error(2e-4);
    QVERIFY2(coarse / fine > 3.5 && coarse / fine < 4.5, qPrintable(QString::number(coarse / fine)));
}

/// A phase on a resistance: the generator's current is EMF over impedance.
void TestNetwork::phaseOfAMachine() {
    auto network = read_netlist("X1 a 0 phase_u 0.5\nR1 a 0 4.5\n");
    QVERIFY(bool(network));
    const OnePhase machine;
    NetworkOptions options;
    const double omega = 300;
    options.rotor.start = {0, 0, omega, 0};
    options.longest_step = 2 * pi / omega / 200;
    NetworkRun run(*network, machine, nullptr, options);
    const double period = 2 * pi / omega;
    QVERIFY(!run.run(5 * period, nullptr));
    std::vector<NetworkSample> samples;
    QVERIFY(!run.run(6 * period, &samples));
    double square = 0, work = 0;
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const double dt = samples[k].rotor.t - samples[k - 1].rotor.t;
        square += dt * (std::pow(samples[k].current[0], 2) + std::pow(samples[k - 1].current[0], 2)) / 2;
        work += dt * (samples[k].torque + samples[k - 1].torque) / 2 * omega;
    }
    near(std::sqrt(2 * square / period), 0.1 * omega / std::hypot(5, omega * 0.01), 1e-3);
    near(-work / (5 * square), 1, 1e-3);
}

/// A rotor left to itself under a load that grows with its speed slows down as e^{-t k/J}.
void TestNetwork::runUp() {
    auto network = read_netlist("X1 a 0 phase_u 1\nR1 a 0 1meg\n");
    QVERIFY(bool(network));
    const OnePhase machine;
    NetworkOptions options;
    options.rotor.start = {0, 0, 200, 0};
    options.rotor.pole_pairs = 2;
    options.rotor.inertia = 0.01;
    options.rotor.load = [](double speed) { return 0.02 * speed; };
    options.longest_step = 1e-3;
    NetworkRun run(*network, machine, nullptr, options);
    QVERIFY(!run.run(0.5, nullptr));
    near(run.now().omega, 200 * std::exp(-1), 1e-3);
}

void TestNetwork::reading() {
    const Network n =
        netlist("* all kinds\nV1 a 0 pulse(0 5 1u 2u 3u 4u 20u)\nI1 0 b\n+ sin(0 1m 1k 0 0 90)\n"
                "R1 a b 4.7k ; in series\nL1 b 0 10uH ic=2\nL2 c 0 3m\nC1 c 0 1MEG\nK1 l1 l2 0.5\n"
                "D1 c 0 dm\nS1 c 0 a b\nW1 c 0 V1\nR9 c 0 1\n.model dm D(vf=0.7 ron=10m)\n.end\n");
    QCOMPARE(n.elements.size(), std::size_t(10));
    near(n.elements[std::size_t(n.find("r1"))].value, 4700, 1e-12);
    near(n.elements[std::size_t(n.find("l1"))].value, 10e-6, 1e-12);
    near(n.elements[std::size_t(n.find("c1"))].value, 1e6, 1e-12);
    near(n.elements[std::size_t(n.find("d1"))].drop, 0.7, 1e-12);
    near(n.elements[std::size_t(n.find("i1"))].wave.numbers[5], pi / 2, 1e-12);
    auto again = read_netlist(write_netlist(n, "again"));
    QVERIFY(bool(again));
    QCOMPARE(write_netlist(*again, "again"), write_netlist(n, "again"));
    QCOMPARE(again->nodes, n.nodes);
}

void TestNetwork::mistakes_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("says");
    QTest::newRow("letter") << "Q1 a b c"
                            << "begins with none of";
    QTest::newRow("number") << "R1 a b ten"
                            << "is no number";
    QTest::newRow("short") << "R1 a"
                           << "ends too soon";
    QTest::newRow("model") << "V1 a 0 1\nD1 a 0 none"
                           << "no .model";
    QTest::newRow("negative") << "V1 a 0 1\nR1 a 0 -5"
                              << "must be above zero";
    QTest::newRow("loop") << "V1 a 0 1\nV2 a 0 2\nR1 a 0 1"
                          << "loop of voltage sources";
    QTest::newRow("floating") << "V1 a 0 1\nR1 a 0 1\nR2 b c 1"
                              << "no way to the node 0";
    QTest::newRow("phase") << "X1 a 0 phase_v\nR1 a 0 1"
                           << "the machine has";
    QTest::newRow("phase word") << "X1 a 0 third"
                                << "names no phase";
    QTest::newRow("twice") << "V1 a 0 1\nR1 a 0 1\nR1 a 0 2"
                           << "stands twice";
    QTest::newRow("short element") << "V1 a 0 1\nR1 a a 1"
                                   << "both ends";
    QTest::newRow("pwl") << "V1 a 0 pwl(0 1 0 2)"
                         << "must rise";
    QTest::newRow("empty") << "* nothing"
                           << "no elements";
}

void TestNetwork::mistakes() {
    QFETCH(QString, text);
    QFETCH(QString, says);
    const auto network = read_netlist(text.toStdString());
    Problems problems = network ? network_problems(*network, 1) : network.problems();
    QVERIFY(!problems.empty());
    bool said = false;
    for (const Problem& p : problems) said = said || QString::fromStdString(p.sentence).contains(says);
    QVERIFY2(said, problems.front().sentence.c_str());
}

void TestNetwork::agreesWithNgspice() {
    const QString ngspice = QStandardPaths::findExecutable("ngspice");
    if (ngspice.isEmpty()) QSKIP("ngspice is not installed");
    const std::string body =
        "V1 a 0 sin(0 10 1k)\nR1 a b 5\nL1 b c 1m\nC1 c 0 5u\nL2 d 0 2m\nK1 L1 L2 0.6\nR2 d 0 20\n";
    QTemporaryDir folder;
    QFile file(folder.filePath("n.cir"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(("* check\n" + body + ".options reltol=1e-7 abstol=1e-12 vntol=1e-9\n.tran 1u 3m 0 0.1u uic\n" +
                ".control\nrun\nwrdata out.txt v(c) v(d)\nquit\n.endc\n.end\n")
                   .c_str());
    file.close();
    QProcess process;
    process.setWorkingDirectory(folder.path());
    process.start(ngspice, {"-b", "n.cir"});
    QVERIFY(process.waitForFinished(60000));
    QFile out(folder.filePath("out.txt"));
    QVERIFY(out.open(QIODevice::ReadOnly));
    const Network n = netlist(body);
    const auto run = samples_of(n, 3e-3, 2e-6, 1e-8);
    std::size_t k = 1;
    double worst_c = 0, worst_d = 0;
    while (!out.atEnd()) {
        const auto words = QString::fromLatin1(out.readLine()).split(' ', Qt::SkipEmptyParts);
        if (words.size() < 4) continue;
        const double t = words[0].toDouble();
        while (k + 1 < run.size() && run[k].rotor.t < t) ++k;
        const double share = (t - run[k - 1].rotor.t) / (run[k].rotor.t - run[k - 1].rotor.t);
        const auto at = [&](const char* node) {
            return (1 - share) * voltage(n, run[k - 1], node) + share * voltage(n, run[k], node);
        };
        worst_c = std::max(worst_c, std::abs(at("c") - words[1].toDouble()));
        worst_d = std::max(worst_d, std::abs(at("d") - words[3].toDouble()));
    }
    QVERIFY2(worst_c < 1e-4 * 10 && worst_d < 1e-4 * 10,
             qPrintable(QString("%1 %2").arg(worst_c).arg(worst_d)));
}

MAVLO_TEST(network, TestNetwork, EventLoop)
#include "test_network.moc"
