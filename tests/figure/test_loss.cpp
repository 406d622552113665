// Losses: the law against its table, loci of known shape, the sixth of a period against the whole, eddy
// currents in a magnet, and the winding's alternating current.

#include "figure/balance.h"
#include "figure/copper.h"
#include "figure/eddy.h"
#include "figure/loss.h"
#include "figure/magnet_pieces.h"
#include "figure/skew.h"
#include "figure/spectrum.h"
#include "figure/weakening.h"
#include "project/project.h"
#include "question/period.h"
#include "support.h"
#include "test_program.h"

#include <Eigen/Sparse>
#include <numbers>
#include <numeric>

using namespace mavlo;
using std::numbers::pi;

namespace {

/// Mean of |J|^2 (unit conductivity) in a piece of unit width where dB/dt varies over the width alone.
double loss_on_rectangle(const std::function<double(double)>& rate, double length, int n) {
    const double h = 1.0 / n;
    const int rows = std::max(20, int(std::lround(length * n)));
    const double hz = length / rows;
    const auto place = [&](int i, int j) { return j * (n - 1) + i; };
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd right((n - 1) * (rows - 1));
    for (int j = 0; j < rows - 1; ++j)
        for (int i = 0; i < n - 1; ++i) {
            entries.emplace_back(place(i, j), place(i, j), 2 / (h * h) + 2 / (hz * hz));
            if (i > 0) entries.emplace_back(place(i, j), place(i - 1, j), -1 / (h * h));
            if (i < n - 2) entries.emplace_back(place(i, j), place(i + 1, j), -1 / (h * h));
            if (j > 0) entries.emplace_back(place(i, j), place(i, j - 1), -1 / (hz * hz));
            if (j < rows - 2) entries.emplace_back(place(i, j), place(i, j + 1), -1 / (hz * hz));
            right[place(i, j)] = rate((i + 1) * h);
        }
    Eigen::SparseMatrix<double> a(right.size(), right.size());
    a.setFromTriplets(entries.begin(), entries.end());
    const Eigen::VectorXd stream = Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>(a).solve(right);
    // int |grad psi|^2 = int psi dB/dt, as psi is zero on the edges.
    return stream.dot(right) * h * hz / length;
}

} // namespace

class TestLoss : public QObject {
    Q_OBJECT

    /// A smooth ring of one steel, without stacking and building factors.
    static std::shared_ptr<const MachineModel> ring() {
        return *prepare_field(machine_of(design_of({{"stator.slot.kind", "none"},
                                                    {"stator.stacking_factor", "1"},
                                                    {"stator.building_factor", "1"}})),
                              {Quality::Draft});
    }
    /// All steel of the stator sees b(t) = (x(t), y(t)).
    template <typename X, typename Y>
    static Loci uniform(const MachineModel& model, X x, Y y) {
        const int samples = 240;
        const auto of = [&](std::size_t body) {
            std::vector<std::size_t> elements(model.first_element[body + 1] - model.first_element[body]);
            std::iota(elements.begin(), elements.end(), model.first_element[body]);
            return empty_loci(model, std::move(elements), {0}, 1, samples);
        };
        // The rotor is the inner body and comes first.
        Loci loci{of(1), of(0)};
        for (int i = 0; i < samples; ++i) {
            loci.stator.steel_bx.row(i).setConstant(x(2 * pi * i / samples));
            loci.stator.steel_by.row(i).setConstant(y(2 * pi * i / samples));
        }
        return loci;
    }
    static double steel_mass(const MachineModel& model) {
        const Machine& m = model.machine;
        const double outer = m.section.outer_radius(), bore = m.stator_radius();
        return pi * (outer * outer - bore * bore) * m.stack_length *
               m.substance("stator.steel")->material.density;
    }

  private Q_SLOTS:
    void shipped_steels_fit_their_tables() {
        for (const char* name : {"M330-35A", "M400-50A"}) {
            const IronLossLaw& law = shipped_materials().at(name).loss;
            QVERIFY(law.known());
            QVERIFY2(law.fit_error < 0.02, name);
            for (const LossPoint& p : law.points)
                CLOSE(law.loss(p.frequency, p.flux_density) / p.loss, 1, 0.06);
        }
    }
    /// Tables made with the sheet's skin effect and without it: the fit takes it where they show it.
    void a_table_says_whether_its_sheet_has_a_skin() {
        const Material& steel = shipped_materials().at("M330-35A");
        const Sheet sheet(steel.thickness, steel.resistivity, steel.density, steel.curve);
        for (const bool skin : {true, false}) {
            std::vector<LossPoint> points;
            for (double f : {50.0, 200.0, 1000.0, 3000.0})
                for (double b : {0.3, 0.6, 1.0, 1.4}) {
                    const double left = skin ? sheet_share(f / corner_at(sheet.corners, b)) : 1;
                    points.push_back({f, b,
                                      0.016 * f * std::pow(b, 1.8) + sheet.classical * left * f * f * b * b +
                                          4e-4 * std::pow(f * b, 1.5)});
                }
            const auto law = fit_iron_loss(points, sheet);
            QVERIFY(bool(law) && law->corners.empty() != skin);
            QVERIFY(law->fit_error < 2e-3);
            for (const LossPoint& p : points) CLOSE(law->loss(p.frequency, p.flux_density) / p.loss, 1, 0.01);
        }
    }
    void wrong_tables_get_a_sentence() {
        QVERIFY(!fit_iron_loss({{50, 1, 1}, {50, 1.5, 2}}, 0));
        QVERIFY(!fit_iron_loss({{50, 1, 1}, {50, 1.5, 2}, {50, 0.5, .3}, {50, 0.7, .5}}, 0)); // one frequency
        QVERIFY(!fit_iron_loss({{50, 1, 1}, {100, 1.5, 2}, {50, 0.5, -1}, {50, 0.7, .5}}, 0));
        const auto known = fit_iron_loss(
            {{50, 0.5, 0.4}, {50, 1, 1.2}, {50, 1.5, 2.9}, {400, 0.5, 6}, {400, 1, 20}, {400, 1.5, 50}}, 0);
        QVERIFY(bool(known) && known->hysteresis > 0 && known->fit_error < 0.1);
    }
    void a_sinusoidal_field_gives_the_law_back() {
        const auto model = ring();
        const IronLossLaw& law = model->machine.substance("stator.steel")->material.loss;
        for (double b : {0.4, 1.0, 1.5})
            for (double f : {50.0, 400.0}) {
                const auto loci = uniform(
                    *model, [&](double t) { return b * std::cos(t); }, [](double) { return 0.0; });
                CLOSE(field_losses(*model, loci).stator.at(f) / (steel_mass(*model) * law.loss(f, b)), 1, 2e-4);
            }
    }
    void a_sinusoidal_field_gives_a_power_law_back() {
        Machine machine = ring()->machine;
        for (Substance& s : machine.substances)
            if (s.path == "stator.steel")
                s.material.loss = *fit_iron_loss(s.material.loss.points, 0, LossLaw::Power);
        const auto model = *prepare_field(machine, {Quality::Draft});
        const IronLossLaw& law = model->machine.substance("stator.steel")->material.loss;
        QVERIFY(law.alpha > 1.2 && law.alpha < 1.9);
        for (double b : {0.4, 1.0, 1.5})
            for (double f : {50.0, 400.0}) {
                const auto loci = uniform(
                    *model, [&](double t) { return b * std::cos(t); }, [](double) { return 0.0; });
                CLOSE(field_losses(*model, loci).stator.at(f) / (steel_mass(*model) * law.loss(f, b)), 1, 1e-3);
            }
    }
    void a_rotating_field_loses_as_two_alternating_ones() {
        const auto model = ring();
        const auto along = uniform(
            *model, [](double t) { return std::cos(t); }, [](double) { return 0.0; });
        const auto round = uniform(
            *model, [](double t) { return std::cos(t); }, [](double t) { return std::sin(t); });
        const IronLoss one = field_losses(*model, along).stator, two = field_losses(*model, round).stator;
        CLOSE(two.hysteresis / one.hysteresis, 2, 1e-3);
        CLOSE(two.classical / one.classical, 2, 1e-9);
        CLOSE(two.excess / one.excess,
              8.763363 / std::pow(2 * pi, 1.5) > 0 ? std::pow(2 * pi, 1.5) / 8.763363 : 0, 1e-3);
    }
    void the_direction_of_the_field_does_not_matter() {
        const auto model = ring();
        const auto x = uniform(
            *model, [](double t) { return std::cos(t); }, [](double) { return 0.0; });
        const auto oblique = uniform(
            *model, [](double t) { return 0.6 * std::cos(t); }, [](double t) { return 0.8 * std::cos(t); });
        CLOSE(field_losses(*model, oblique).stator.at(50) / field_losses(*model, x).stator.at(50), 1, 1e-9);
    }
    void minor_loops_and_bias() {
        const auto model = ring();
        const IronLossLaw& law = model->machine.substance("stator.steel")->material.loss;
        const auto none = [](double) { return 0.0; };
        // A triangle of twelve loops within: their own loss each, beside the large loop's.
        const auto wave = [](double t) { return std::cos(t) + 0.2 * std::cos(13 * t); };
        const IronLoss with = field_losses(*model, uniform(*model, wave, none)).stator;
        const double large = steel_mass(*model) * law.hysteresis_per_cycle(1.2);
        QVERIFY(with.hysteresis > 1.02 * large && with.hysteresis < 1.6 * large);
        const auto biased = uniform(
            *model, [](double t) { return 0.9 + 0.3 * std::cos(t); }, none);
        CLOSE(field_losses(*model, biased).stator.hysteresis /
                  (steel_mass(*model) * law.hysteresis_per_cycle(0.3)),
              1, 1e-6);
        // Three times within the period is three loops.
        const auto thrice = uniform(
            *model, [](double t) { return 0.5 * std::cos(3 * t); }, none);
        CLOSE(field_losses(*model, thrice).stator.hysteresis /
                  (3 * steel_mass(*model) * law.hysteresis_per_cycle(0.5)),
              1, 1e-6);
    }
    void a_sixth_of_the_period_tells_the_whole_data() {
        QTest::addColumn<QString>("file");
        QTest::addColumn<int>("variant");
        QTest::newRow("ferry") << "ferry" << 0;
        QTest::newRow("observatory, 20 poles") << "observatory" << 0;
        QTest::newRow("observatory, 22 poles") << "observatory" << 1;
    }
    void a_sixth_of_the_period_tells_the_whole() {
        QFETCH(QString, file);
        QFETCH(int, variant);
        const auto project =
            *read_project((QStringLiteral(MAVLO_SOURCE "/demo/") + file + ".mavlo").toStdString());
        const Machine m = machine_of(project.variants[std::size_t(variant)].design);
        const auto model = *prepare_field(m, {Quality::Normal});
        const auto shift = m.symmetry.part;
        QVERIFY(shift.has_value());
        const auto period = electrical_period(m, 48, current_vector(m.rating.current, m.rating.advance));
        std::vector<std::vector<double>> fields(48);
        QVERIFY(bool(sweep(model, period, 0, {},
                           [&](std::size_t i, const FieldSolution& f) { fields[i] = f.potential; })));
        const Loci whole = make_loci(*model, fields, std::nullopt);
        const Loci sixth = make_loci(*model, {fields.begin(), fields.begin() + 8}, shift);
        // The first pitch's steel comes first in both; T.
        const Eigen::Index columns = sixth.stator.steel_bx.cols();
        CLOSE((whole.stator.steel_bx.leftCols(columns) - sixth.stator.steel_bx)
                  .leftCols(columns / 9)
                  .cwiseAbs()
                  .maxCoeff(),
              0, 2e-3);
        const FieldLosses a = field_losses(*model, whole), b = field_losses(*model, sixth);
        const double f = electrical_frequency(m, m.rating.speed);
        CLOSE(b.stator.at(f) / a.stator.at(f), 1, 1e-3);
        CLOSE(b.magnets / a.magnets, 1, 1e-3);
        CLOSE(b.rotor.at(f) / a.rotor.at(f), 1, 1e-3);
    }
    void losses_do_not_hang_on_the_mesh_data() {
        QTest::addColumn<QString>("file");
        QTest::newRow("ferry") << "ferry";
        QTest::newRow("observatory") << "observatory";
    }
    void losses_do_not_hang_on_the_mesh() {
        QFETCH(QString, file);
        const auto project =
            *read_project((QStringLiteral(MAVLO_SOURCE "/demo/") + file + ".mavlo").toStdString());
        const Machine m = machine_of(project.variants.front().design);
        const auto on_mesh = [&](double size) {
            const auto model = *prepare_field(m, {Quality::Normal, size});
            const auto period =
                *sweep_period_with_loci(model, 60, current_vector(m.rating.current, m.rating.advance), 0, {});
            return field_losses(*model, period.loci);
        };
        const FieldLosses coarse = on_mesh(1), fine = on_mesh(0.5);
        const double f = electrical_frequency(m, m.rating.speed);
        qInfo("stator %.4f, rotor %.4f, magnets %.4f", coarse.stator.at(f) / fine.stator.at(f),
              coarse.rotor.at(f) / fine.rotor.at(f), coarse.magnets / fine.magnets);
        CLOSE(coarse.stator.at(f) / fine.stator.at(f), 1, 5e-3);
        CLOSE(coarse.rotor.at(f) / fine.rotor.at(f), 1, 0.03);
        CLOSE(coarse.magnets / fine.magnets, 1, 0.03);
    }
    void eddy_currents_in_a_magnet() {
        CLOSE(finite_length_share(1000, 1), 1, 1e-3);
        CLOSE(finite_length_share(1, 1), 0.421731, 1e-5); // torsion of a square bar: 0.140577 a^4 (Timoshenko)
        CLOSE(finite_length_share(2, 1), 3 * 0.22868, 1e-4); // 2:1: 0.229 a b^3
        CLOSE(skin_depth(1.72e-8, 50, 1), 9.3e-3, 1e-4);
        // A uniform field across the magnets of a V: (w B omega)^2 / (24 rho) per volume of infinitely long
        // ones.
        const auto project = *read_project(MAVLO_SOURCE "/demo/ferry.mavlo");
        const Machine m = machine_of(project.variants[0].design);
        const auto model = *prepare_field(m, {Quality::Fine});
        Loci loci = uniform(
            *model, [](double) { return 0.0; }, [](double) { return 0.0; });
        double volume = 0;
        Eigen::Index column = 0;
        for (std::size_t i = 0; i < model->first_element[1]; ++i) {
            const auto& e = model->elements[i];
            const Part& part = model->part(e);
            if (part.use == Use::Solid) column += e.count;
            if (part.use != Use::Magnet) continue;
            volume += model->area(e) * m.stack_length * m.sector().count;
            for (int q = e.first; q < e.first + e.count; ++q, ++column) {
                const double along =
                    dot(model->points[std::size_t(q)].at, polar(1, part.direction.angle + pi / 2));
                for (int k = 0; k < loci.rotor.samples(); ++k)
                    loci.rotor.solid_a(k, column) = 0.1 * along * std::cos(2 * pi * k / loci.rotor.samples());
            }
        }
        const double w = m.values.number("rotor.magnet.width"), length = m.stack_length / 6;
        const double rho = m.magnet()->resistivity;
        const double wanted =
            std::pow(w * 0.1 * 2 * pi, 2) / (24 * rho) * volume * finite_length_share(length, w);
        CLOSE(field_losses(*model, loci).magnets / wanted, 1, 2e-5); // orders of cosines against the series
        CLOSE(field_losses(*model, loci).magnet_order, 1, 1e-6);
    }
    void pieces_of_magnets_keep_of_waves_what_the_rectangle_says_data() {
        QTest::addColumn<double>("length"); // of a piece, over the width
        QTest::addColumn<double>("waves");  // over the width; 0: a uniform field
        for (double length : {0.1667, 0.5, 2.0})
            for (double waves : {0.0, 1 / 7.0, 1 / 3.0, 1.0, 3.0, 7.0})
                QTest::addRow("%g long, %g waves", length, waves) << length << waves;
    }
    /// Poisson's equation of the stream function on the developed rectangle, by differences.
    void pieces_of_magnets_keep_of_waves_what_the_rectangle_says() {
        QFETCH(double, length);
        QFETCH(double, waves);
        const int n = 160, points = 640;
        const auto rate = [&](double s) { return std::cos(2 * pi * waves * s + 0.7); }; // dB/dt
        const double finite = loss_on_rectangle(rate, length, n);
        // Infinitely long: J is the integral of dB/dt, without net current.
        AcrossMagnet across{Eigen::VectorXd(points), Eigen::VectorXd::Constant(points, 1.0 / points), 1};
        Eigen::MatrixXd density(1, points);
        double sum = 0;
        for (int k = 0; k < points; ++k) {
            across.place[k] = (k + 0.5) / points;
            sum += rate(across.place[k]) / points;
            density(0, k) = sum - rate(across.place[k]) / points / 2;
        }
        density.array() -= density.mean();
        const double endless = density.squaredNorm() / points;
        const double kept = kept_in_pieces(across, density, length);
        qInfo("kept %.4f, by differences %.4f", kept, finite / endless);
        CLOSE(kept / (finite / endless), 1, 0.01);
        if (waves == 0) CLOSE(kept, finite_length_share(length, 1), 1e-4);
    }
    void a_magnet_in_a_closed_circuit_loses_what_its_load_line_says() {
        // Thickness h, gap g in ideal iron, opposing ampere-turns F: H h + B g/mu0 = -F, B = s B_r + mu H.
        constexpr double remanence = 1.2, knee = 0.3, mu = 1.05 * mu0, h = 5e-3;
        const double h_knee = (remanence - knee) / mu;
        struct Circuit {
            double gap, opposing;
        };
        const std::vector<Circuit> circuits{{1e-3, 0},    {1e-3, 1500},   {1e-3, 3600},
                                            {2e-3, 3000}, {0.5e-3, 3900}, {1e-3, 1e5}};
        Weakening weakening({{remanence, knee, mu}}, circuits.size());
        bool settled = false;
        for (int round = 0; round < 30 && !settled; ++round) {
            std::vector<MagnetElement> list;
            for (std::size_t k = 0; k < circuits.size(); ++k) {
                const double s = weakening.share() ? (*weakening.share())[k] : 1;
                const double b =
                    (s * remanence * h / mu - circuits[k].opposing) / (h / mu + circuits[k].gap / mu0);
                list.push_back({k, 1, b});
            }
            settled = weakening.update(list);
        }
        QVERIFY(settled);
        for (std::size_t k = 0; k < circuits.size(); ++k) {
            const auto [gap, opposing] = circuits[k];
            const double whole = (remanence * h / mu - opposing) / (h / mu + gap / mu0);
            const double on_knee = mu0 * (h_knee * h - opposing) / gap; // B where H stands at the knee's
            const double wanted = whole >= knee ? 1 : std::max(0.0, (on_knee + mu * h_knee) / remanence);
            CLOSE((*weakening.share())[k], wanted, 2e-3);
        }
        QVERIFY((*weakening.share())[0] == 1 && (*weakening.share())[5] == 0);
        QVERIFY((*weakening.share())[2] < 0.999 && (*weakening.share())[2] > 0.01);
    }
    void strands_in_the_computed_field_lose_what_the_slots_leakage_makes_data() {
        QTest::addColumn<bool>("round");
        QTest::newRow("round wires") << true;
        QTest::newRow("bars") << false;
    }
    void strands_in_the_computed_field_lose_what_the_slots_leakage_makes() {
        QFETCH(bool, round);
        // Without magnets, in deep slots with ideal steel: the field crosses the slot as the leakage field
        // does.
        Design design = design_of({{"rotor.kind", "salient"},
                                   {"rotor.poles", "4"},
                                   {"stator.slots", "12"},
                                   {"stator.slot.kind", "parallel-slot"},
                                   {"stator.slot.width", "5 mm"},
                                   {"stator.slot.depth", "18 mm"},
                                   {"stator.slot.opening", "1.5 mm"},
                                   {"stator.outer_diameter", "110 mm"},
                                   {"stator.steel", "linear(inf)"},
                                   {"rotor.steel", "linear(inf)"},
                                   {"winding.layers", "1"},
                                   {"winding.conductor.diameter", "0.9 mm"},
                                   {"winding.turns", "40"}});
        if (!round) {
            design.texts["winding.turns"] = "24";
            design.texts["winding.conductor.shape"] = "rectangular";
            design.texts["winding.conductor.width"] = "1.4 mm";
            design.texts["winding.conductor.height"] = "1.2 mm";
        }
        const Machine m = machine_of(design);
        const auto model = *prepare_field(m, {Quality::Normal});
        const double peak = 5, f = 50;
        const auto period = *sweep_period_with_loci(model, 48, current_vector(peak, 0.6), 0, {});
        const FieldLosses losses = field_losses(*model, period.loci);
        QVERIFY(losses.strands.has_value());
        const double direct = direct_copper_loss(m, peak);
        const AcResistance alternating(m);
        CLOSE(*losses.strands / (direct * alternating.leakage_at_1hz()), 1, 0.12);
        // While strands are thin the leakage is what the factor adds beside their own skin.
        const double own = round ? alternating.without_neighbours(f) : 1;
        CLOSE(alternating.leakage_at_1hz() * f * f / (alternating.factor(f) - own), 1, 0.02);
    }
    void magnets_behind_open_slots_make_strands_lose_without_current() {
        for (const char* shape : {"round", "rectangular"}) {
            const Machine open = machine_of(design_of({{"stator.slot.opening", "6 mm"},
                                                       {"winding.conductor.shape", shape},
                                                       {"winding.conductor.diameter", "0.8 mm"},
                                                       {"winding.conductor.width", "2 mm"},
                                                       {"winding.conductor.height", "1 mm"}}));
            const auto model = *prepare_field(open, {Quality::Normal});
            const auto idle = *sweep_period_with_loci(model, 48, Dq{}, 0, {});
            const FieldLosses losses = field_losses(*model, idle.loci);
            QVERIFY(*losses.strands > 0);
            // It brakes: with open terminals nothing else could bring it.
            const CopperLoss copper = copper_loss(AcResistance(open), 0, {0, 0}, 100, losses.strands);
            CLOSE(copper.direct + copper.alternating, 0, 1e-12);
            CLOSE(copper.stray / (*losses.strands * 1e4), 1, 0.02);
            const Balance b = balance_of(open, losses, copper, 100 * 2 * pi / open.pole_pairs(), 0, 0);
            CLOSE(*b.shaft(), -*b.total(), 1e-9);
        }
    }
    void alternating_current_in_the_slot() {
        const auto project = *read_project(MAVLO_SOURCE "/demo/ferry.mavlo");
        const Machine m = machine_of(project.variants[0].design);
        const AcResistance alternating(m);
        CLOSE(alternating.factor(0), 1, 0);
        const double low = alternating.factor(100) - 1, twice = alternating.factor(200) - 1;
        QVERIFY(low > 0);
        CLOSE(twice / low, 4, 0.02); // the square of the frequency while strands are thinner than the skin
        QVERIFY(alternating.factor(2000) > alternating.factor(1000));
    }
    void friction_and_air() {
        Machine m = machine_of({});
        m.friction_torque = 0.5;
        CLOSE(mechanical_loss(m, 100).bearings, 50, 1e-9);
        const double slow = mechanical_loss(m, 100).windage, fast = mechanical_loss(m, 200).windage;
        QVERIFY(fast > 6 * slow && fast < 8 * slow); // a little less than the cube: the drag falls
        CLOSE(mechanical_loss(m, 0).total(), 0, 0);
    }
    void salient_poles_stir_the_air() {
        Machine m = machine_of({});
        const double r = m.rotor_radius(), round = mechanical_loss(m, 200).windage;
        CLOSE(salient_drag(m), 1, 0);
        m.pole_depth = 0.2 * r;
        CLOSE(salient_drag(m), 3.9, 1e-12);
        const double once =
            mechanical_loss(m, 200).windage - round; // of the rim alone; end faces are as they were
        m.pole_depth = 0.4 * r;
        CLOSE((mechanical_loss(m, 200).windage - round) / once, (5.6 - 1) / (3.9 - 1), 1e-9);
        m.pole_depth = 0.03 * r;
        CLOSE(salient_drag(m), (1 + 2.71) / 2, 1e-12);
    }
    void skew_takes_harmonics_away() {
        std::vector<double> wave(96);
        for (std::size_t k = 0; k < wave.size(); ++k) {
            const double t = 2 * pi * double(k) / 96;
            wave[k] = 3 + std::cos(t) + 0.5 * std::sin(4 * t);
        }
        const double period = 0.4;
        const auto whole = skewed(wave, period, skewed_by(period, 0)); // over one period only the mean is left
        for (double value : whole) CLOSE(value, 3, 1e-12);
        const auto steps =
            skewed(wave, period, skewed_by(period, 4)); // four steps leave the fourth harmonic, its sign turned
        CLOSE(std::abs(harmonics(steps)[1]), 0, 1e-12);
        CLOSE(std::abs(harmonics(steps)[4]), 0.5, 1e-12);
        const double half = period / 2, factor = std::sin(pi * half / period) / (pi * half / period);
        CLOSE(std::abs(harmonics(skewed(wave, period, skewed_by(half, 0)))[1]), factor, 1e-12);
        double share = 0, mean_cosine = 0;
        for (const Slice& s : skewed_by(half, 0).slices()) {
            share += s.share;
            mean_cosine += s.share * std::cos(2 * pi * s.turn / period);
        }
        CLOSE(share, 1, 1e-14);
        CLOSE(mean_cosine, factor, 1e-6); // Gauss's points know the same
        const auto turned = shifted(wave, period, period / 96);
        for (std::size_t k = 0; k < 96; ++k) CLOSE(turned[k], wave[(k + 1) % 96], 1e-12);
    }
};
MAVLO_TEST(loss, TestLoss, Nothing)
#include "test_loss.moc"
