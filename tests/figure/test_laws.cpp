// The small laws that figures stand on, each against its closed form: loops within loops, principal axes,
// magnets beyond their knee, masses, stress of a known field, series.

#include "figure/gap_stress.h"
#include "figure/hysteresis.h"
#include "figure/loss.h"
#include "figure/mass.h"
#include "figure/sheet_skin.h"
#include "figure/skew.h"
#include "figure/spectrum.h"
#include "figure/weakening.h"
#include "support.h"
#include "test_program.h"

#include <functional>
#include <numbers>
#include <random>

using namespace mavlo;
using std::numbers::pi;

namespace {

/// Loss a cycle that goes with the square of the amplitude.
IronLossLaw square_law(double k) {
    IronLossLaw law;
    law.hysteresis = k;
    law.exponent = 2;
    law.points = {{50, 1, k * 50}};
    return law;
}

Eigen::VectorXd sampled(int samples, const std::function<double(double)>& wave) {
    Eigen::VectorXd b(samples);
    for (int k = 0; k < samples; ++k) b[k] = wave(2 * pi * k / samples);
    return b;
}

std::shared_ptr<const MachineModel>
smooth_model(std::initializer_list<std::pair<const char*, std::string>> more) {
    Design design = design_of({{"stator.slot.kind", "none"}});
    for (const auto& [path, text] : more) design.texts[path] = text;
    return *prepare_field(machine_of(design), {Quality::Normal});
}

} // namespace

class TestLaws : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void one_loop_loses_by_its_amplitude() {
        const IronLossLaw law = square_law(0.02);
        for (double bias : {0.0, 0.7, -1.1})
            for (double amplitude : {0.1, 0.8, 1.5}) {
                const auto b = sampled(200, [&](double t) { return bias + amplitude * std::cos(t + 0.9); });
                CLOSE(component_hysteresis(law, b) / law.hysteresis_per_cycle(amplitude), 1, 1e-3);
            }
        QCOMPARE(component_hysteresis(law, Eigen::VectorXd::Constant(50, 0.8)), 0.0);
    }
    void loops_within_are_loops_of_their_own() {
        const IronLossLaw law = square_law(0.02);
        // A large loop with two small ones of 0.2 T from top to bottom on its way down, one on its way up.
        Eigen::VectorXd b(11);
        b << 1, 0.3, 0.5, -0.2, 0.0, -1, -0.4, -0.6, 0.2, 0.6, 0.8;
        const double small = law.hysteresis_per_cycle(0.1);
        CLOSE(component_hysteresis(law, b), law.hysteresis_per_cycle(1) + 3 * small, 1e-12);
    }
    void where_a_period_begins_makes_no_difference() {
        const IronLossLaw law = square_law(0.03);
        std::mt19937 lot(5);
        std::uniform_real_distribution<double> any(-1.5, 1.5);
        for (int trial = 0; trial < 40; ++trial) {
            Eigen::VectorXd b(24);
            for (double& value : b) value = any(lot);
            const double loss = component_hysteresis(law, b);
            for (Eigen::Index turn : {1, 7, 15}) {
                Eigen::VectorXd turned(b.size());
                for (Eigen::Index k = 0; k < b.size(); ++k) turned[k] = b[(k + turn) % b.size()];
                CLOSE(component_hysteresis(law, turned), loss, 1e-12);
            }
            CLOSE(component_hysteresis(law, -b), loss, 1e-12);
            CLOSE(component_hysteresis(law, b.reverse().eval()), loss, 1e-12);
            // More than the largest loop alone, less than if every reversal were a half loop.
            double all = 0;
            for (Eigen::Index k = 0; k < b.size(); ++k)
                all += law.hysteresis_per_cycle(std::abs(b[(k + 1) % b.size()] - b[k]) / 2) / 2;
            QVERIFY(loss >= law.hysteresis_per_cycle((b.maxCoeff() - b.minCoeff()) / 2) - 1e-12);
            QVERIFY(loss < law.hysteresis_per_cycle((b.maxCoeff() - b.minCoeff()) / 2) + 2 * all);
        }
    }
    void means_of_cosines() {
        CLOSE(mean_cosine_power(1), 2 / pi, 1e-12);
        CLOSE(mean_cosine_power(2), 0.5, 1e-12);
        CLOSE(mean_cosine_power(4), 3.0 / 8, 1e-12);
        CLOSE(std::pow(2 * pi, 1.5) * mean_cosine_power(1.5), excess_divisor, 1e-5);
    }
    void axes_of_an_ellipse() {
        for (double axis : {-1.2, 0.0, 0.4, 1.5}) {
            double xx = 0, yy = 0, xy = 0;
            for (int k = 0; k < 60; ++k) {
                const double a = 1.3 * std::cos(2 * pi * k / 60), b = 0.4 * std::sin(2 * pi * k / 60);
                const double x = a * std::cos(axis) - b * std::sin(axis),
                             y = a * std::sin(axis) + b * std::cos(axis);
                xx += x * x / 60;
                yy += y * y / 60;
                xy += x * y / 60;
            }
            CLOSE(std::remainder(principal_angle(xx, yy, xy) - axis, pi), 0, 1e-12);
        }
    }
    void series_of_waves() {
        std::vector<double> wave;
        for (int k = 0; k < 48; ++k) {
            const double t = 2 * pi * k / 48;
            wave.push_back(0.7 + 2 * std::cos(3 * t + 0.4) - 0.5 * std::sin(7 * t));
        }
        CLOSE(mean(wave), 0.7, 1e-12);
        CLOSE(rms(wave), std::sqrt(0.49 + 2 + 0.125), 1e-12);
        CLOSE(standard_deviation(wave), std::sqrt(2.125), 1e-12);
        const auto h = harmonics(wave);
        CLOSE(std::abs(h[3] - std::polar(2.0, 0.4)), 0, 1e-12);
        CLOSE(std::abs(h[7] - std::complex<double>(0, 0.5)), 0, 1e-12);
        const auto slope = derivative(wave, 0.2);
        for (int k = 0; k < 48; ++k) {
            const double t = 2 * pi * k / 48;
            CLOSE(slope[std::size_t(k)], 2 * pi / 0.2 * (-6 * std::sin(3 * t + 0.4) - 3.5 * std::cos(7 * t)),
                  1e-9);
        }
        const auto fine = resampled(wave, 4);
        QCOMPARE(fine.size(), std::size_t(192));
        for (std::size_t k = 0; k < 192; ++k) {
            const double t = 2 * pi * double(k) / 192;
            CLOSE(fine[k], 0.7 + 2 * std::cos(3 * t + 0.4) - 0.5 * std::sin(7 * t), 1e-12);
        }
        const auto later = shifted(wave, 0.2, 0.013);
        for (std::size_t k = 0; k < 48; ++k) {
            const double t = 2 * pi * (double(k) / 48 + 0.013 / 0.2);
            CLOSE(later[k], 0.7 + 2 * std::cos(3 * t + 0.4) - 0.5 * std::sin(7 * t), 1e-12);
        }
    }
    void skews_are_means_over_their_slices() {
        for (int steps : {1, 2, 3, 5}) {
            const auto slices = skewed_by(0.3, steps).slices();
            QCOMPARE(slices.size(), std::size_t(steps));
            double share = 0, turn = 0;
            for (const Slice& s : slices) share += s.share, turn += s.share * s.turn;
            CLOSE(share, 1, 1e-14);
            CLOSE(turn, 0, 1e-14); // about the middle of the stack
            for (std::size_t k = 1; k < slices.size(); ++k)
                CLOSE(slices[k].turn - slices[k - 1].turn, 0.3 / steps, 1e-14);
        }
        QCOMPARE(skewed_by(0, 0).slices().size(), std::size_t(1));
        // Five points of Gauss and Legendre are exact up to the ninth power.
        for (int power = 0; power <= 9; ++power) {
            double sum = 0;
            for (const Slice& s : skewed_by(2, 0).slices()) sum += s.share * std::pow(s.turn, power);
            CLOSE(sum, power % 2 ? 0 : 1.0 / (power + 1), 1e-12);
        }
    }
    void a_magnet_pushed_beyond_its_knee_keeps_what_its_line_says() {
        // B = share Br k - d: its own circuit, and an outer field; the knee is straight down, so that
        // H stays at the knee's: share Br - B = mu H_k.
        constexpr double br = 1.2, knee = 0.2, mu = 4e-7 * pi * 1.05, circuit = 0.7;
        for (double outer : {0.3, 0.7, 0.9, 1.0}) {
            Weakening weakening({{br, knee, mu}}, 3);
            double share = 1, lowest = 0;
            bool done = false;
            for (int round = 0; round < 60 && !done; ++round) {
                share = weakening.share() ? (*weakening.share())[1] : 1;
                lowest = share * br * circuit - outer;
                done = weakening.update({{1, 1e-4, lowest}});
            }
            QVERIFY(done);
            const double free = br * circuit - outer;
            const double wanted = free >= knee ? 1 : (br - knee - outer) / (br * (1 - circuit));
            CLOSE(share, std::clamp(wanted, 0.0, 1.0), 2e-3);
            // What is no magnet keeps all it has.
            if (weakening.share()) QCOMPARE((*weakening.share())[0], 1.0);
        }
    }
    void masses_are_areas_times_densities() {
        const auto model = smooth_model(
            {{"rotor.magnet.arc", "1"}, {"stator.stacking_factor", "0.96"}, {"rotor.stacking_factor", "0.95"}});
        const Machine& m = model->machine;
        const ActiveMass mass = active_mass(*model);
        const auto ring = [&](double outer, double inner) {
            return pi * (outer * outer - inner * inner) * m.stack_length;
        };
        const double bore = m.stator_radius(),
                     surface = m.values.number("stator.bore_diameter") / 2 - m.values.number("gap"),
                     back = surface - m.values.number("rotor.magnet.thickness"),
                     shaft = m.values.number("rotor.shaft_diameter") / 2;
        CLOSE(mass.stator_steel /
                  (0.96 * m.substance("stator.steel")->material.density * ring(m.section.outer_radius(), bore)),
              1, 1e-5);
        CLOSE(mass.magnets / (m.magnet()->material.density * ring(surface, back)), 1, 1e-5);
        CLOSE(mass.rotor_steel / (0.95 * m.substance("rotor.steel")->material.density * ring(back, shaft)), 1,
              1e-5);
        CLOSE(mass.total(), mass.stator_steel + mass.rotor_steel + mass.magnets + mass.copper, 1e-9);
    }
    void stress_of_the_gap_is_maxwell_s() {
        const auto model = smooth_model({});
        FieldSolver solver(model);
        const auto field = solver.solve(0.02, PortValues(3, 0.0));
        QVERIFY(field);
        constexpr int places = 720;
        const GapStress stress = gap_stress(*model, *field, places);
        QCOMPARE(stress.radial.size(), std::size_t(places));
        // It repeats with the poles, and a smooth stator without currents is not turned.
        const std::size_t pole = places / 10;
        double torque = 0, largest = 0;
        for (std::size_t k = 0; k < places; ++k) {
            CLOSE(stress.radial[k], stress.radial[(k + pole) % places], 1e-6 * std::abs(stress.radial[k]) + 1);
            torque += stress.tangential[k];
            largest = std::max(largest, std::abs(stress.tangential[k]));
        }
        CLOSE(torque / places, 0, 1e-4 * largest);
        double mean_radial = 0;
        for (double s : stress.radial) mean_radial += s / places;
        QVERIFY(mean_radial > 0); // the stator is drawn inwards, to the gap
    }
    void teeth_share_the_whole_pull() {
        const Machine m = machine_of(design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}}));
        const int places = places_round(m, 100);
        QCOMPARE(places % 12, 0);
        QVERIFY(places >= 100 && places < 112);
        GapStress even;
        even.radial.assign(std::size_t(places), 2000);
        even.tangential.assign(std::size_t(places), 0);
        const double surface = 2 * pi * m.middle_of_gap() * m.stack_length;
        double sum = 0;
        for (double force : tooth_forces(m, even)) {
            CLOSE(force, 2000 * surface / 12, 1e-9 * surface);
            sum += force;
        }
        CLOSE(sum, 2000 * surface, 1e-6);
        // A load on one tooth alone is felt by it and, where its slots lie, by its neighbours.
        GapStress one = even;
        one.radial.assign(std::size_t(places), 0);
        const std::size_t each = std::size_t(places) / 12;
        for (std::size_t k = 3 * each; k <= 4 * each; ++k) one.radial[k] = 900;
        const auto forces = tooth_forces(m, one);
        CLOSE(forces[3], 900 * surface / 12, 1e-9);
        CLOSE(forces[7], 0, 1e-12);
        QVERIFY(forces[2] > 0 && forces[2] < forces[3] / 2);
        for (int phase = 0; phase < 3; ++phase) {
            const int tooth = tooth_of_phase(m, phase);
            QVERIFY(tooth >= 0 && tooth < 12);
        }
    }
    void a_sheet_s_skin_takes_off_what_the_field_in_it_says() {
        const auto exact = [](double x) {
            return 3 / x * (std::sinh(x) - std::sin(x)) / (std::cosh(x) - std::cos(x));
        };
        for (double x = 0.3; x < 12; x += 0.3) CLOSE(sheet_share(x * x / 9) / exact(x), 1, 0.035);
        // One wave of a locus, and two: by their squares of dB/dt.
        const int n = 400;
        const double period = 1.0 / 500, corner = 2500;
        Eigen::ArrayXd steps = Eigen::ArrayXd::Constant(n, period / n), one(n + 1), two(n + 1);
        for (int k = 0; k <= n; ++k) {
            const double t = 2 * pi * k / n;
            one[k] = std::cos(t);
            two[k] = std::cos(t) + 0.1 * std::sin(10 * t);
        }
        const Eigen::ArrayXd none = Eigen::ArrayXd::Zero(n + 1);
        CLOSE(share_of_locus(steps, one, none, corner), sheet_share(0.2), 2e-3);
        CLOSE(share_of_locus(steps, two, none, corner), (sheet_share(0.2) + sheet_share(2)) / 2, 5e-3);
        CLOSE(share_of_locus(steps, two, none, 0), 1, 0); // nothing is known of the sheet
        // What is kept of it gives the share back.
        IronLoss loss;
        loss.classical = 3;
        loss.skin = inverse_corner(sheet_share(0.8), 0.8 * corner);
        CLOSE(loss.classical_at(0.8 * corner) / (3 * 0.64 * corner * corner), sheet_share(0.8), 1e-6);
        CLOSE(loss.classical_at(0.1 * corner) / (3 * 0.01 * corner * corner), sheet_share(0.1), 2e-3);
        IronLoss sum;
        sum.add(loss, 2);
        CLOSE(sum.skin, loss.skin, 1e-9 * loss.skin);
    }
};

MAVLO_TEST(laws, TestLaws, EventLoop)
#include "test_laws.moc"
