// Phase currents of other forms than sines, and the torque that they make.

#include "figure/copper.h"
#include "figure/current_wave.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

Answer asked(const Design& design, const char* question, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    const auto answer = ask_question(question, ask);
    if (!answer) qFatal("%s: %s", question, answer.problems().front().sentence.c_str());
    return *answer;
}

const Curve& curve(const Answer& answer, const std::string& name) {
    for (const Curve& c : answer.curves)
        if (c.name == name) return c;
    qFatal("no curve %s", name.c_str());
}

/// Full-pitch coils, one slot a pole and phase, magnets all round, ideal steel, a small mouth: a trapezoidal
/// EMF.
Design trapezoidal() {
    return design_of({{"stator.slots", "12"},
                      {"rotor.poles", "4"},
                      {"winding.layers", "1"},
                      {"winding.span", "3"},
                      {"rotor.magnet.arc", "1"},
                      {"rotor.magnet.magnetisation", "radial"},
                      {"stator.steel", "linear(inf)"},
                      {"rotor.steel", "linear(inf)"},
                      {"stator.slot.opening", "1 mm"}});
}

} // namespace

class TestCurrentWave : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void forms() {
        const auto lags = phase_lags(3);
        // The sine is the vector it is made of.
        for (double theta = 0; theta < 7; theta += 0.31)
            for (double advance : {0.0, 0.4}) {
                const auto wave = CurrentWave(WaveForm::Sine, 5, advance).at(theta, lags);
                const auto vector = CurrentWave(current_vector(5, advance)).at(theta, lags);
                for (std::size_t k = 0; k < 3; ++k) CLOSE(wave[k], vector[k], 1e-12);
                const auto turned = CurrentWave(current_vector(5, 0)).advanced(advance).at(theta, lags);
                for (std::size_t k = 0; k < 3; ++k) CLOSE(turned[k], vector[k], 1e-12);
            }
        // Two phases carry current at any time, of opposite sign; rms is sqrt(2/3) of the peak.
        double squares = 0;
        constexpr int n = 3600;
        for (int i = 0; i < n; ++i) {
            const auto blocks = CurrentWave(WaveForm::Block120, 2, 0).at(2 * pi * (i + 0.5) / n, lags);
            CLOSE(blocks[0] + blocks[1] + blocks[2], 0, 1e-12);
            squares += blocks[0] * blocks[0] / n;
        }
        CLOSE(std::sqrt(squares), 2 * std::sqrt(2.0 / 3), 2e-3);
        const auto at = [&](WaveForm form, double argument) {
            return CurrentWave(form, 1, 0).at(argument - pi / 2, {0})[0];
        };
        CLOSE(at(WaveForm::Block180, 1.5), 1, 0);
        CLOSE(at(WaveForm::Block180, 1.7), -1, 0);
        CLOSE(at(WaveForm::Trapezoid, pi / 3 - 0.01), 1, 1e-12);
        CLOSE(at(WaveForm::Trapezoid, pi / 2), 0, 1e-12);
        CurrentWave table(WaveForm::Table, 10, 0);
        table.set_table({1, 0, -1, 0});
        const std::vector<double> one{0};
        CLOSE(table.at(-pi / 2 + pi / 4, one)[0], 5, 1e-9);
        CLOSE(table.at(pi / 2, one)[0], -10, 1e-9);
    }
    void phases_of_their_own() {
        CurrentWave wave(WaveForm::Sine, 4, 0);
        QVERIFY(wave.alike());
        wave.set_amplitudes({1, 0.5});
        wave.set_offsets({0, 0, 3});
        wave.open(0);
        QVERIFY(!wave.alike());
        const auto lags = phase_lags(3);
        const auto plain = CurrentWave(WaveForm::Sine, 4, 0).at(0.7, lags), own = wave.at(0.7, lags);
        CLOSE(own[0], 0, 0);
        CLOSE(own[1], plain[1] / 2, 1e-12);
        CLOSE(own[2], plain[2] + 3, 1e-12);
    }
    void blocks_on_a_trapezoidal_emf_give_the_closed_form() {
        const Design design = trapezoidal();
        const double current = 6;
        const Answer idle = asked(design, "no-load", {{"points", "180"}, {"speed", "1000 rpm"}}),
                     load = asked(design, "load",
                                  {{"points", "180"},
                                   {"speed", "1000 rpm"},
                                   {"current", "6 A"},
                                   {"waveform", "block-120"}});
        // T = sum of e_k i_k over the speed, at every position but for the cogging torque, whose mean is none.
        const double omega = 1000 * pi / 30;
        double power = 0;
        for (const char* phase : {"u", "v", "w"}) {
            const Curve &e = curve(idle, std::string("back_emf_") + phase),
                        &i = curve(load, std::string("current_") + phase);
            for (std::size_t k = 0; k < e.y.size(); ++k) power += e.y[k] * i.y[k] / double(e.y.size());
        }
        const double torque = *load.figure("torque_mean");
        CLOSE(torque / (power / omega), 1, 5e-3);
        // The flat of the EMF is as long as the blocks: T = 2 E I/omega with E its mean there.
        const Curve& e = curve(idle, "back_emf_u");
        double flat = 0;
        int count = 0;
        const Curve& i = curve(load, "current_u");
        for (std::size_t k = 0; k < e.y.size(); ++k)
            if (i.y[k] > 0.9 * current) flat += e.y[k], ++count;
        flat /= count;
        CLOSE(torque / (2 * flat * current / omega), 1, 0.02);
        QVERIFY(flat > 0.9 * *std::max_element(e.y.begin(), e.y.end()) - 0.15 * flat); // it is a flat
        // Copper loss of blocks: 2 I^2 R, less at the edges that fall on a sample.
        CLOSE(*load.figure("copper_loss_dc") / (2 * current * current * *load.figure("phase_resistance")), 1,
              0.02);
    }
    void an_open_phase_and_a_table() {
        const Design design = trapezoidal();
        const std::map<std::string, std::string> base{{"points", "24"}, {"current", "6 A"}};
        auto open = base;
        open["open_phase"] = "1";
        const Answer all = asked(design, "load", base), two = asked(design, "load", open);
        for (double i : curve(two, "current_u").y) CLOSE(i, 0, 0);
        CLOSE(*two.figure("torque_mean") / *all.figure("torque_mean"), 2.0 / 3, 0.01); // linear, not salient
        QVERIFY(two.sentence.find("neutral") != std::string::npos);
        auto table = base;
        table["waveform"] = "table";
        QVERIFY(!ask_question("load", [&] {
            Ask ask;
            ask.design = design;
            ask.with = table;
            return ask;
        }()));
        table["wave"] = "1, 0.8660254, 0.5, 0, -0.5, -0.8660254, -1, -0.8660254, -0.5, 0, 0.5, 0.8660254";
        CLOSE(*asked(design, "load", table).figure("torque_mean") / *all.figure("torque_mean"), 1, 0.02);
    }
    void a_shorted_phase_carries_what_its_linkage_drives() {
        // Linear and without saliency: the phase sees psi cos(theta) and its own inductance, R i + d(psi + L
        // i)/dt = 0, so that its current is omega psi/|R + j omega L| where the others carry nothing.
        Design design = trapezoidal();
        design.texts["rotor.magnet.magnetisation"] = "parallel";
        const std::map<std::string, std::string> with{
            {"points", "48"}, {"current", "0 A"}, {"speed", "3000 rpm"}, {"short_phase", "1"}};
        const Answer a = asked(design, "load", with);
        const Answer idle = asked(design, "no-load", {{"points", "48"}, {"speed", "3000 rpm"}});
        const Answer inductance = asked(design, "inductances", {{"points", "12"}, {"current", "1 A"}});
        const double omega = 2 * 3000 * pi / 30, r = *a.figure("phase_resistance"),
                     l = curve(inductance, "inductance_u").y.front() + *a.figure("end_winding_inductance"),
                     psi = *idle.figure("flux_linkage_peak");
        std::complex<double> h = 0;
        const Curve& i = curve(a, "current_u");
        for (std::size_t k = 0; k < i.y.size(); ++k)
            h += 2.0 / double(i.y.size()) * i.y[k] * std::polar(1.0, -2 * pi * double(k) / double(i.y.size()));
        CLOSE(std::abs(h) / (omega * psi / std::hypot(r, omega * l)), 1, 0.02);
        // It brakes: its copper loss comes from the shaft, but for the cogging torque, whose mean is none.
        CLOSE(-*a.figure("mechanical_power") / *a.figure("copper_loss_dc"), 1, 0.02);
        for (double v : curve(a, "voltage_u").y) CLOSE(v, 0, 0.03 * omega * psi);
    }
    void the_power_balance_of_many_phases() {
        for (const char* set : {"5", "6"}) {
            Design design = new_project("surface-distributed")->variants.front().design;
            design.texts["winding.phases"] = set;
            design.texts["stator.slots"] = set == std::string("5") ? "40" : "48";
            design.texts["rotor.poles"] = "4";
            design.texts["winding.span"] = "auto";
            const Answer a = asked(design, "load", {{"points", "120"}, {"current", "4 A"}});
            const double copper = *a.figure("copper_loss_dc"), electrical = *a.figure("electrical_power"),
                         mechanical = *a.figure("mechanical_power");
            CLOSE((electrical - copper) / mechanical, 1, 5e-3);
        }
    }
    void dual_sets_that_coincide_are_one_three_phase_machine() {
        Design three = new_project("surface-distributed")->variants.front().design;
        three.texts["stator.slots"] = "24";
        three.texts["rotor.poles"] = "4";
        three.texts["winding.span"] = "auto";
        Design six = three;
        six.texts["winding.phases"] = "6";
        six.texts["winding.set_shift"] = "0 deg";
        const std::map<std::string, std::string> with{{"points", "12"}, {"current", "5 A"}};
        const Answer a = asked(three, "load", with), b = asked(six, "load", with);
        CLOSE(*b.figure("torque_mean") / *a.figure("torque_mean"), 1, 1e-3);
        CLOSE(*b.figure("flux_linkage_d") / *a.figure("flux_linkage_d"), 0.5, 1e-3);
        six.texts["winding.set_shift"] = "60 deg";
        CLOSE(*asked(six, "load", with).figure("torque_mean") / *a.figure("torque_mean"), 1, 1e-3);
    }
    void ring_coils_link_what_their_slots_do() {
        // Half of a full-pitch coil's flux each, twice as many of them.
        Design lap = trapezoidal(), ring = lap;
        lap.texts["winding.layers"] = "2";
        ring.texts["winding.form"] = "ring";
        ring.texts["winding.layers"] = "1";
        ring.texts["winding.span"] = "auto";
        const Answer a = asked(lap, "no-load", {{"points", "24"}}),
                     b = asked(ring, "no-load", {{"points", "24"}});
        CLOSE(*b.figure("flux_linkage_peak") / *a.figure("flux_linkage_peak"), 0.5, 2e-3);
    }
    void windings_by_hand_solve() {
        // The proposed coils as the design's own give the same; one coil turned round gives less.
        Design design = trapezoidal();
        const auto before = *asked(design, "no-load", {{"points", "24"}}).figure("flux_linkage_peak");
        design.coils = machine_of(design).winding.layout.coils;
        const Answer same = asked(design, "no-load", {{"points", "24"}});
        CLOSE(*same.figure("flux_linkage_peak") / before, 1, 1e-6);
        for (Coil& coil : design.coils)
            if (coil.phase == 0) {
                coil.sign = -coil.sign;
                break;
            }
        QVERIFY(*asked(design, "no-load", {{"points", "24"}}).figure("flux_linkage_peak") < 0.1 * before);
    }
};
MAVLO_TEST(current_wave, TestCurrentWave, Nothing)
#include "test_current_wave.moc"
