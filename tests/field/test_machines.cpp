// Machines of every kind against exact fields, against themselves drawn otherwise, and against energy.

#include "figure/loss.h"
#include "figure/sample.h"
#include "figure/spectrum.h"
#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/period.h"
#include "support.h"
#include "test_program.h"

#include <Eigen/Dense>

using namespace mavlo;

namespace {

/// Radial flux density of order n in the gap of a smooth machine with ideal iron and magnets of recoil 1, from
/// the magnetisation's Fourier series: A_n = a(r) sin n theta with a = c1 r^n + c2 r^-n, and in the magnets K r
/// besides (Z.Q. Zhu, D. Howe, IEEE Trans. Magn. 29(1), 1993; here for either side). Lengths in units of the
/// magnets' face.
struct SmoothMachine {
    double iron, face, back; ///< radii: stator, magnets' face, magnets' back
    double radial_part(int n, double radial, double tangential, double r) const {
        const double k = (tangential + n * radial) / (n * n - 1.0);
        const auto up = [&](double x) { return std::pow(x / face, n); };
        const auto down = [&](double x) { return std::pow(x / face, -n); };
        Eigen::Matrix4d m = Eigen::Matrix4d::Zero();
        Eigen::Vector4d b = Eigen::Vector4d::Zero();
        // No tangential field at the irons; A and H along the face are continuous.
        m.row(0) << n * up(iron) / iron, -n * down(iron) / iron, 0, 0;
        m.row(1) << 0, 0, n * up(back) / back, -n * down(back) / back;
        b[1] = -tangential - k;
        m.row(2) << 1, 1, -1, -1;
        b[2] = k * face;
        m.row(3) << n / face, -n / face, -n / face, n / face;
        b[3] = k + tangential;
        const Eigen::Vector4d c = m.fullPivLu().solve(b);
        return n / r * (c[0] * up(r) + c[1] * down(r));
    }
};

/// Fourier coefficients of the magnetisation (T): radial as cosine, tangential as sine.
std::pair<double, double> magnetisation(int n, int poles, double arc, double remanence, bool parallel) {
    const double half = arc * pi / poles;
    double radial = 0, tangential = 0;
    constexpr int steps = 4000;
    for (int i = 0; i < steps; ++i) {
        const double t = half * (2 * (i + 0.5) / steps - 1), w = 2 * half / steps;
        radial += w * (parallel ? std::cos(t) : 1) * std::cos(n * t);
        tangential += w * (parallel ? -std::sin(t) : 0) * std::sin(n * t);
    }
    const double share = poles / pi * remanence; // all poles, alternating; a cosine's square has mean 1/2
    return {share * radial, share * tangential};
}

struct Solved {
    std::shared_ptr<const MachineModel> model;
    FieldSolution field;
};

Solved solve(const Machine& m, double angle, const PortValues& current, Quality quality = Quality::Normal) {
    const auto model = *prepare_field(m, {quality});
    return {model, *FieldSolver(model).solve(angle, current)};
}

std::vector<std::complex<double>> gap_waves(const Solved& s, double radius) {
    return harmonics(s.model->gap().ring(gap_traces(*s.model, s.field), radius, 4096).radial);
}

PortValues rated(const Machine& m, double angle) {
    return to_phases(current_vector(m.rating.current, m.rating.advance), electrical_angle(m, angle),
                     m.winding.layout.lags);
}

Design shape(const char* name) {
    return new_project(name)->variants.front().design;
}

} // namespace

class TestMachines : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_smooth_gap_has_the_exact_field_data() {
        QTest::addColumn<bool>("outer");
        QTest::addColumn<bool>("parallel");
        for (bool outer : {false, true})
            for (bool parallel : {false, true})
                QTest::newRow((std::string(outer ? "outer rotor, " : "inner rotor, ") +
                               (parallel ? "parallel" : "radial"))
                                  .c_str())
                    << outer << parallel;
    }
    void a_smooth_gap_has_the_exact_field() {
        QFETCH(bool, outer);
        QFETCH(bool, parallel);
        const int poles = 8;
        const Machine m =
            machine_of(design_of({{"machine.topology", outer ? "outer-rotor" : "inner-rotor"},
                                  {"stator.slot.kind", "none"},
                                  {"stator.steel", "linear(inf)"},
                                  {"rotor.steel", "linear(inf)"},
                                  {"stator.outer_diameter", outer ? "100 mm" : "140 mm"},
                                  {"stator.bore_diameter", outer ? "60 mm" : "100 mm"},
                                  {"gap", "2 mm"},
                                  {"rotor.outer_diameter", "140 mm"},
                                  {"rotor.poles", std::to_string(poles)},
                                  {"rotor.magnet.thickness", "5 mm"},
                                  {"rotor.magnet.arc", "0.8"},
                                  {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
                                  {"rotor.magnet.magnetisation", parallel ? "parallel" : "radial"}}));
        const SmoothMachine exact{50e-3, outer ? 52e-3 : 48e-3, outer ? 57e-3 : 43e-3};
        const auto waves = gap_waves(solve(m, 0, {}, Quality::Fine), m.middle_of_gap());
        double first = 0, worst = 0;
        for (int order = 1; order <= 15; order += 2) {
            const int n = order * poles / 2;
            const auto [radial, tangential] = magnetisation(n, poles, 0.8, 1.2, parallel);
            const double wanted = exact.radial_part(n, radial, tangential, m.middle_of_gap());
            if (order == 1) first = std::abs(wanted);
            worst = std::max(worst, std::abs(waves[std::size_t(n)].real() - wanted) / first);
        }
        qInfo("fundamental %.4f T, worst harmonic off by %.1e of it", first, worst);
        QVERIFY(first > 0.4);
        QVERIFY(worst < 1e-3);
    }
    void halbach_pieces_tend_to_the_ideal_array_data() {
        QTest::addColumn<bool>("outer");
        QTest::newRow("field outside") << false;
        QTest::newRow("field inside") << true;
    }
    /// Closed form of the ideal array in free space (J.C. Mallinson, IEEE Trans. Magn. 9(4), 1973; Z.Q. Zhu, D.
    /// Howe, IEE Proc. Electr. Power Appl. 148(4), 2001).
    void halbach_pieces_tend_to_the_ideal_array() {
        QFETCH(bool, outer);
        const Machine m = machine_of(design_of({{"machine.topology", outer ? "outer-rotor" : "inner-rotor"},
                                                {"stator.slot.kind", "none"},
                                                {"stator.steel", "linear(1)"},
                                                {"rotor.steel", "linear(1)"},
                                                {"stator.outer_diameter", outer ? "100 mm" : "400 mm"},
                                                {"stator.bore_diameter", outer ? "20 mm" : "104 mm"},
                                                {"rotor.outer_diameter", "400 mm"},
                                                {"rotor.shaft_diameter", "20 mm"},
                                                {"gap", "2 mm"},
                                                {"rotor.poles", "8"},
                                                {"rotor.magnet.thickness", "10 mm"},
                                                {"rotor.magnet.arc", "1"},
                                                {"rotor.magnet.pieces", "16"},
                                                {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
                                                {"rotor.magnet.magnetisation", "halbach"}}));
        const auto waves = gap_waves(solve(m, 0, {}), m.middle_of_gap());
        const double p = 4, r = m.middle_of_gap(), inside = outer ? 52e-3 : 40e-3,
                     outside = outer ? 62e-3 : 50e-3;
        const double wanted =
            outer ? 1.2 * p / (p - 1) * (1 - std::pow(inside / outside, p - 1)) * std::pow(r / inside, p - 1)
                  : 1.2 * p / (p + 1) * (1 - std::pow(inside / outside, p + 1)) * std::pow(outside / r, p + 1);
        CLOSE(waves[4].real() / wanted, 1, 0.01);
        QVERIFY(std::abs(waves[12]) < 0.01 * wanted);
    }
    void every_shape_keeps_energy_and_repeats_data() {
        QTest::addColumn<QString>("name");
        for (const StartingShape& s : starting_shapes())
            if (s.name != "smooth" && is_tried(s.name))
                QTest::newRow(s.name.c_str()) << QString::fromStdString(s.name);
    }
    void every_shape_keeps_energy_and_repeats() {
        QFETCH(QString, name);
        const Design d = shape(qPrintable(name));
        const Machine m = machine_of(d);
        // The torque changes with the slots over the rotor's pitches: its poles, or its bars.
        const double angle = 0.37 / m.poles, step = 2e-3 * m.section.rotor().tile.pitch / m.slots;
        const PortValues current = rated(m, angle);
        const auto model = *prepare_field(m, {Quality::Normal});
        FieldSolver solver(model);
        const auto at = solver.solve(angle, current);
        QVERIFY(bool(at));
        const auto before = solver.solve(angle - step, current, &*at),
                   after = solver.solve(angle + step, current, &*at);
        const double slope = (after->coenergy - before->coenergy) / (2 * step);
        CLOSE(at->torque / slope, 1, 1e-5);
        const Solved whole = solve(machine_of(d, {true}), angle, current);
        CLOSE(whole.field.torque / at->torque, 1, 1e-6);
        CLOSE(whole.field.coenergy / at->coenergy, 1, 1e-6);
    }
    void a_tile_drawn_whole_agrees_with_itself_mirrored() {
        for (const char* name : {"surface", "vee", "outer-spoke"}) {
            const Design d = shape(name);
            const Machine half = machine_of(d), whole = machine_of(d, {false, true});
            QVERIFY(half.symmetry.mirrored && !whole.symmetry.mirrored);
            const double angle = 0.23 / half.poles;
            const Solved a = solve(half, angle, rated(half, angle)),
                         b = solve(whole, angle, rated(whole, angle));
            CLOSE(b.field.torque / a.field.torque, 1, 5e-3);
            CLOSE(b.field.flux_linkage[0] / a.field.flux_linkage[0], 1, 2e-3);
        }
    }
    void torque_without_a_mirror_line_is_mirrored_when_turned_back() {
        const Machine m = machine_of(shape("vee"), {false, true});
        const auto model = *prepare_field(m, {Quality::Draft});
        FieldSolver solver(model);
        const auto ahead = solver.solve(0.01, {}), back = solver.solve(-0.01, {});
        // The mesh of a whole tile is not its own mirror image; its cogging is, within what the mesh leaves.
        CLOSE(ahead->torque + back->torque, 0, 0.05 * std::abs(ahead->torque) + 0.05);
    }
    void any_number_of_phases_data() {
        QTest::addColumn<int>("phases");
        QTest::addColumn<int>("slots_");
        QTest::addColumn<int>("poles");
        QTest::newRow("two") << 2 << 8 << 6;
        QTest::newRow("four") << 4 << 16 << 12;
        QTest::newRow("five") << 5 << 20 << 18;
        QTest::newRow("dual three-phase") << 6 << 24 << 22;
        QTest::newRow("seven") << 7 << 14 << 12;
        QTest::newRow("nine") << 9 << 18 << 16;
    }
    void any_number_of_phases() {
        QFETCH(int, phases);
        QFETCH(int, slots_);
        QFETCH(int, poles);
        const Machine m = machine_of(design_of({{"stator.slots", std::to_string(slots_)},
                                                {"rotor.poles", std::to_string(poles)},
                                                {"winding.phases", std::to_string(phases)},
                                                {"stator.steel", "linear(4000)"},
                                                {"rotor.steel", "linear(4000)"}}));
        const auto model = *prepare_field(m, {Quality::Draft});
        const Dq current{-3, 8};
        // A part of the period tells the whole.
        QVERIFY(m.symmetry.part.has_value());
        QCOMPARE(m.symmetry.part->parts, 2 * phases);
        const int points = 8 * phases;
        const auto quick = *sweep_period(model, points, current, 0, {});
        const auto whole = *sweep(model, electrical_period(m, points, current), 0, {});
        double torque = 0, power = 0;
        const double speed = 100;
        const PeriodSeries series = period_series(whole);
        const auto e = induced_voltage(series, m, speed);
        for (std::size_t i = 0; i < whole.size(); ++i) {
            torque += whole[i].torque / points;
            CLOSE(quick[i].torque / whole[i].torque, 1, 1e-4);
            for (std::size_t k = 0; k < std::size_t(phases); ++k) {
                CLOSE(quick[i].flux_linkage[k], whole[i].flux_linkage[k], 1e-4 * 0.02);
                power += e[k][i] * series.current[k][i] / points;
            }
        }
        CLOSE(power / (torque * speed), 1, 5e-3);
        // m/2 p (psi_d i_q - psi_q i_d)
        const Dq psi = mean_flux_linkage(m, series);
        CLOSE(phases / 2.0 * m.pole_pairs() * (psi.d * current.q - psi.q * current.d) / torque, 1, 5e-3);
    }
    void clearance_acts_as_air_in_series() {
        Design d = shape("bar");
        d.texts["rotor.magnet.clearance"] = "0.1 mm";
        const Machine both = machine_of(d);
        d.texts["rotor.magnet.clearance_faces"] = "back";
        const Machine back = machine_of(d);
        d.texts["rotor.magnet.clearance"] = "0 mm";
        const Machine none = machine_of(d);
        const auto linkage = [](const Machine& m) {
            return solve(m, 0, {}, Quality::Draft).field.flux_linkage[0];
        };
        const double full = linkage(none);
        QVERIFY(std::abs(linkage(back)) < std::abs(full) && std::abs(linkage(both)) < std::abs(linkage(back)));
        const Substance& s = *both.magnet();
        CLOSE(1 / s.recoil_mu_r(), s.filling / s.material.magnet.recoil_mu_r + 1 - s.filling, 1e-12);
        // The same flux density with H of magnet and air added up over the thickness.
        const double b = 0.7, h_magnet = (b - s.own_remanence()) / s.material.magnet.recoil_mu_r;
        CLOSE(s.filling * h_magnet + (1 - s.filling) * b, (b - s.remanence()) / s.recoil_mu_r(), 1e-12);
    }
    void magnets_that_a_boundary_parts_are_one_body() {
        const Machine m = machine_of(shape("spoke"));
        const auto model = *prepare_field(m, {Quality::Draft});
        QCOMPARE(model->rotor_mesh().magnets, m.sector().pitches[std::size_t(model->rotor)]);
        // Eddy currents do not ask where the drawing was cut: the whole machine has the same loss.
        const auto loss = [](const Machine& machine) {
            const auto mesh = *prepare_field(machine, {Quality::Draft});
            const auto period =
                *sweep_period_with_loci(mesh, 36, current_vector(machine.rating.current, 0), 0, {});
            return field_losses(*mesh, period.loci).magnets;
        };
        Design d = shape("spoke");
        d.texts["rotor.magnet.grade"] = "NdFeB 310/130";
        CLOSE(loss(machine_of(d)) / loss(machine_of(d, {true})), 1, 1e-3);
    }
};
MAVLO_TEST(machines, TestMachines, Nothing)
#include "test_machines.moc"
