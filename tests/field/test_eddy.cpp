// Eddy currents in time: solid and sleeved rotors against an exact solution, a bar's closed forms, the order of
// the steps.

#include "field/stepper.h"
#include "figure/eddy.h"
#include "night.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <complex>
#include <cstdlib>

using namespace mavlo;

namespace {

using Complex = std::complex<double>;

std::string metres(double x) {
    return std::to_string(x * 1e3) + " mm";
}
std::string permeability(const nlohmann::json& mu_r) {
    return mu_r.is_null() ? "linear(inf)" : "linear(" + std::to_string(mu_r.get<double>()) + ")";
}

Machine machine_of_case(const nlohmann::json& c) {
    const auto &stator = c["stator"], &slot = stator["segments"][0], &layers = c["rotor_layers"],
               &shell = layers.back();
    const double bore = stator["r_gap"], face = shell["r_out"], inside = layers[0]["r_in"];
    const std::string width = std::to_string(slot["width_deg"].get<double>()) + " deg";
    return machine_of(design_of(
        {{"machine.stack_length", "1000 mm"},
         {"gap", metres(bore - face)},
         {"stator.outer_diameter", metres(2 * stator["r_back"].get<double>())},
         {"stator.bore_diameter", metres(2 * bore)},
         {"stator.slots", std::to_string(stator["slots"].get<int>())},
         {"stator.steel", permeability(stator["mu_r"])},
         {"stator.stacking_factor", "1"},
         {"rotor.stacking_factor", "1"},
         {"stator.slot.kind", "radial"},
         {"stator.slot.opening_angle", width},
         {"stator.slot.body_angle", width},
         {"stator.slot.depth", metres(slot["r_to"].get<double>() - bore)},
         {"stator.slot.tip_depth", "0 mm"},
         {"rotor.kind", "solid"},
         {"rotor.poles", std::to_string(2 * c["pole_pairs"].get<int>())},
         {"rotor.shaft_diameter", metres(2 * inside)},
         {"rotor.steel", permeability(layers[0]["mu_r"])},
         {"rotor.shell.thickness", metres(face - shell["r_in"].get<double>())},
         {"rotor.shell.material", permeability(shell["mu_r"])},
         {"rotor.shell.resistivity", std::to_string(1e9 / shell["sigma"].get<double>()) + "e-9 Ohm.m"},
         {"winding.layers", "1"},
         {"winding.turns", std::to_string(c["turns"][0][0].get<int>())}}));
}

/// Mean torque and eddy loss of the last of some periods.
struct Turning {
    double torque = 0, loss = 0, input = 0; ///< N.m, W; of the currents, W
    Complex double_frequency;
};

class Runner {
  public:
    explicit Runner(const nlohmann::json& c, const ModelOptions& mesh = {})
        : m_case(c) {
        auto model = prepare_field(machine_of_case(c), mesh);
        if (!model) qFatal("%s", model.problems().front().sentence.c_str());
        m_model = *model;
    }
    PortValues currents(double t, bool all) const {
        PortValues out;
        for (const auto& phasor : m_case["current"]) {
            const Complex i(phasor[0].get<double>(), phasor[1].get<double>());
            out.push_back(all || out.empty() ? (i * std::polar(1.0, omega() * t)).real() : 0);
        }
        return out;
    }
    double omega() const { return 2 * pi * m_case["frequency"].get<double>(); }

    Turning run(double speed, bool all, int steps, int periods) const {
        FieldStepper stepper(m_model, make_conductance(*m_model, conducting_bodies(*m_model)));
        const double dt = 2 * pi / omega() / steps;
        const auto at = [&](double t) { return Position{speed * t, currents(t, all)}; };
        if (auto problem = stepper.begin(at(0))) qFatal("%s", problem->sentence.c_str());
        Turning out;
        for (int k = 0; k < steps * periods; ++k) {
            const double t = k * dt;
            auto step = stepper.step(dt, at(t + FieldStepper::first_stage * dt), at(t + dt));
            if (!step) qFatal("%s", step.problems().front().sentence.c_str());
            if (k >= steps * (periods - 1)) {
                out.torque += step->field.torque / steps;
                out.double_frequency +=
                    2.0 / steps * step->field.torque * std::polar(1.0, -2 * omega() * (t + dt));
                for (double loss : step->eddy_loss) out.loss += loss / steps;
                // Mean of i dpsi/dt.
                const PortValues before = currents(t, all), after = currents(t + dt, all);
                for (std::size_t p = 0; p < 3; ++p)
                    out.input += (before[p] + after[p]) / 2 *
                                 (step->field.flux_linkage[p] - stepper.field().flux_linkage[p]) / (steps * dt);
            }
            stepper.take(std::move(*step), dt);
        }
        return out;
    }

    double torque_after_a_quarter(double speed, int steps) const {
        FieldStepper stepper(m_model, make_conductance(*m_model, conducting_bodies(*m_model)));
        const double dt = 2 * pi / omega() / steps;
        const auto at = [&](double t) { return Position{speed * t, currents(t, true)}; };
        if (auto problem = stepper.begin(at(0))) qFatal("%s", problem->sentence.c_str());
        for (int k = 0; k < steps / 4; ++k) {
            const double t = k * dt;
            auto step = stepper.step(dt, at(t + FieldStepper::first_stage * dt), at(t + dt));
            if (!step) qFatal("%s", step.problems().front().sentence.c_str());
            stepper.take(std::move(*step), dt);
        }
        return stepper.field().torque;
    }

  private:
    const nlohmann::json& m_case;
    std::shared_ptr<const MachineModel> m_model;
};

} // namespace

class TestEddy : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void turning_rotors_match_the_reference_data() {
        QTest::addColumn<int>("result");
        const auto cases = reference("solid_rotor.json")["cases"];
        // Always one rotor under three phases, the other under one; the rest at night.
        const bool all = by_night();
        for (const auto& [name, c] : cases.items())
            for (int k : {3, int(c["results"].size()) - 3})
                if (all || (k == 3) == (name == "p1a")) QTest::addRow("%s %d", name.c_str(), k) << k;
    }
    void turning_rotors_match_the_reference() {
        QFETCH(int, result);
        const auto cases = reference("solid_rotor.json")["cases"];
        const auto& c = cases[std::string(QTest::currentDataTag()).substr(0, 3)];
        const auto& wanted = c["results"][std::size_t(result)];
        double largest = 0; // torque of this feed
        for (const auto& r : c["results"])
            if (r["feed"] == wanted["feed"])
                largest = std::max({largest, std::abs(r["torque"].get<double>()),
                                    std::hypot(r["torque_double_frequency"][0].get<double>(),
                                               r["torque_double_frequency"][1].get<double>())});
        const bool all = wanted["feed"] == "three_phase";
        const Turning got =
            Runner(c).run(wanted["omega"], all, 300, QTest::currentDataTag()[2] == 'a' ? 7 : 12);
        const double torque = wanted["torque"], loss = wanted["rotor_loss"];
        qInfo("torque %.5g against %.5g, loss %.5g against %.5g", got.torque, torque, got.loss, loss);
        CLOSE(got.torque, torque, 0.01 * largest);
        CLOSE(got.loss, loss, 0.01 * loss);
        const Complex twice(wanted["torque_double_frequency"][0].get<double>(),
                            wanted["torque_double_frequency"][1].get<double>());
        QVERIFY2(std::abs(got.double_frequency - twice) < 0.01 * largest,
                 qPrintable(QString::number(std::abs(got.double_frequency - twice))));
    }

    void steps_are_of_order_two() {
        const auto cases = reference("solid_rotor.json")["cases"];
        ModelOptions coarse;
        coarse.quality = Quality::Draft;
        coarse.extra_factor = 2;
        const Runner runner(cases["p1a"], coarse);
        const double speed = 0.6 * runner.omega() / 2;
        // The field at one instant, reached in steps of a 40th, an 80th, … of a period.
        std::vector<double> torque;
        for (int steps : {40, 80, 160, 1280}) torque.push_back(runner.torque_after_a_quarter(speed, steps));
        const double first = std::abs(torque[0] - torque[3]), second = std::abs(torque[1] - torque[3]),
                     third = std::abs(torque[2] - torque[3]);
        qInfo("errors %.3g %.3g %.3g", first, second, third);
        QVERIFY(first / second > 3 && second / third > 3);
        QVERIFY(third < 0.01 * std::abs(torque[3]));
    }

    void what_the_currents_bring_is_what_the_rotor_turns_into_heat_and_work() {
        const auto cases = reference("solid_rotor.json")["cases"];
        const Runner runner(cases["p1a"]);
        const double speed = 0.8 * runner.omega() / 2;
        const Turning got = runner.run(speed, true, 200, 5);
        qInfo("input %.6g, torque times speed and loss %.6g", got.input, got.torque * speed + got.loss);
        CLOSE(got.input, got.torque * speed + got.loss, 2e-3 * got.input);
    }

    void magnets_lose_with_the_square_of_the_frequency_and_then_with_its_root() {
        // The rotor stands; one phase carries alternating current.
        Design design = design_of({{"rotor.magnet.grade", "magnet(1.1 T, 1.05)"},
                                   {"stator.steel", "linear(5000)"},
                                   {"rotor.steel", "linear(5000)"},
                                   {"rotor.magnet.thickness", "5 mm"}});
        Machine machine = machine_of(design);
        for (Substance& s : machine.substances)
            if (s.material.kind == MaterialKind::Magnet) {
                s.resistivity = 1.4e-6;
                s.length = 1; // long: no ends
            }
        ModelOptions fine;
        fine.extra_factor = 0.5;
        const auto model = *prepare_field(machine, fine);
        const auto loss = [&](double frequency) {
            FieldStepper stepper(model, make_conductance(*model, conducting_bodies(*model)));
            const int steps = 80;
            const double dt = 1 / frequency / steps;
            const auto at = [&](double t) {
                return Position{0, {10 * std::cos(2 * pi * frequency * t), 0, 0}};
            };
            if (stepper.begin(at(0))) return 0.0;
            double sum = 0;
            for (int k = 0; k < 3 * steps; ++k) {
                auto step = stepper.step(dt, at((k + FieldStepper::first_stage) * dt), at((k + 1) * dt));
                if (!step) return 0.0;
                for (double w : step->eddy_loss) sum += k >= 2 * steps ? w / steps : 0;
                stepper.take(std::move(*step), dt);
            }
            return sum;
        };
        const double slow = loss(20), twice = loss(40), fast = loss(2e6), faster = loss(8e6);
        qInfo("20 Hz %.4g W, 40 Hz %.4g W, 2 MHz %.4g W, 8 MHz %.4g W", slow, twice, fast, faster);
        CLOSE(twice / slow, 4, 0.01);
        QVERIFY(slow > 0);
        // Resistance-limited: int (dA/dt - mean)^2 / rho of the static field.
        const double quadratic = resistance_limited(*model, 10 * 2 * pi * 20);
        CLOSE(slow / quadratic, 1, 0.01);
        // Skin-limited: the surface's field is what the currents ask, the depth falls with the root; an eighth
        // is left to skins as thin as the elements.
        CLOSE(std::log(faster / fast) / std::log(4), 0.5, 0.125);
    }

  private:
    /// Mean loss with the phase's current changing at this amplitude (A/s).
    static double resistance_limited(const MachineModel& model, double rate) {
        FieldSolver solver(std::shared_ptr<const FieldModel>(&model, [](const FieldModel*) {}));
        const auto with = solver.solve(0, {1, 0, 0}), without = solver.solve(0, {});
        std::vector<double> potential = with->potential;
        for (std::size_t i = 0; i < potential.size(); ++i) potential[i] -= without->potential[i];
        double sum = 0;
        for (const EddyBody& body : conducting_bodies(model)) {
            double area = 0, mean = 0, square = 0;
            for (std::size_t k = 0; k < body.elements.size(); ++k) {
                const auto& e = model.elements[body.elements[k]];
                const auto a = local_values(e, potential);
                for (int q = e.first; q < e.first + e.count; ++q) {
                    const auto& p = model.points[std::size_t(q)];
                    double value = 0;
                    for (std::size_t n = 0; n < 6; ++n) value += body.sign[k] * p.n[n] * a[n];
                    area += p.weight;
                    mean += p.weight * value;
                    square += p.weight * value * value;
                }
            }
            sum += body.conductivity * (square - mean * mean / area);
        }
        return 0.5 * rate * rate * sum * model.depth * model.sector.count;
    }
};

MAVLO_TEST(eddy, TestEddy, EventLoop)
#include "test_eddy.moc"
