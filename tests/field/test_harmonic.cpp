// Fields of phasors: cages under travelling sheets against exact solutions; what saturated steel answers.

#include "field/corrections.h"
#include "field/gap_circle.h"
#include "field/harmonic_solver.h"
#include "field/quadrature.h"
#include "figure/eddy.h"
#include "night.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

#include <complex>

using namespace mavlo;

namespace {

using Complex = std::complex<double>;

std::string text(double number, const char* unit) {
    return std::to_string(number) + unit;
}
double value_of(const nlohmann::json& j, const char* name) {
    return j[name].get<double>();
}
std::string steel(const nlohmann::json& mu_r) {
    return mu_r.is_null() ? "linear(inf)" : text(mu_r.get<double>(), "").insert(0, "linear(") + ")";
}

/// A cage under a smooth stator, one metre long.
Machine smooth_machine(const nlohmann::json& c) {
    const auto &stator = c["stator"], &rotor = c["rotor"], &bar = rotor["bar"];
    const double face = value_of(rotor, "r_gap"), bridge = face - value_of(bar, "r_from");
    const std::string width = text(value_of(bar, "width_deg"), " deg");
    return machine_of(
        design_of({{"machine.stack_length", "1000 mm"},
                   {"gap", text(1e3 * (value_of(stator, "r_bore") - face), " mm")},
                   {"stator.outer_diameter", text(2e3 * value_of(stator, "r_back"), " mm")},
                   {"stator.bore_diameter", text(2e3 * value_of(stator, "r_bore"), " mm")},
                   {"stator.slot.kind", "none"},
                   {"stator.outer_boundary", "closed"},
                   {"stator.steel", steel(stator["mu_r"])},
                   {"stator.stacking_factor", "1"},
                   {"rotor.kind", "cage"},
                   {"rotor.poles", std::to_string(2 * c["order"].get<int>())},
                   {"rotor.bars", std::to_string(rotor["slots"].get<int>())},
                   {"rotor.shaft_diameter", text(2e3 * value_of(rotor, "r_back"), " mm")},
                   {"rotor.steel", steel(rotor["mu_r"])},
                   {"rotor.stacking_factor", "1"},
                   {"rotor.bar.kind", "radial"},
                   {"rotor.bar.opening_angle", width},
                   {"rotor.bar.body_angle", width},
                   {"rotor.bar.bridge", text(1e3 * bridge, " mm")},
                   {"rotor.bar.depth", text(1e3 * (face - value_of(bar, "r_to")), " mm")},
                   {"rotor.bar.tip_depth", "0 mm"},
                   {"rotor.bar.material", "conductor(" + text(1e9 / value_of(bar, "sigma"), "e-9 Ohm.m)")},
                   {"rotor.bar.temperature", "20 degC"},
                   {"rotor.ring.resistance", "0 Ohm"},
                   {"rotor.ring.inductance", "0 uH"}}),
        {.whole = true});
}

/// Two ports more: sheets K = cos and sin of n theta on the bore, each of 1 A/m.
void add_sheets(FieldModel& model, int order, double bore) {
    const GapCircle circle(model.meshes[1].gap, model.meshes[1].unknown, model.sector.pitches[1], model.sector);
    const std::vector<int> orders{order};
    const Eigen::MatrixXcd integrals = circle.integrals(orders);
    std::vector<double> cosine(std::size_t(model.unknowns()), 0.0), sine = cosine;
    const auto count = Eigen::Index(circle.unknowns().size());
    for (Eigen::Index k = 0; k < count; ++k) {
        const Complex sum = circle.sums(integrals, orders, Eigen::VectorXd::Unit(count, k))[0];
        const auto unknown = std::size_t(circle.unknowns()[std::size_t(k)]);
        cosine[unknown] = bore * sum.real();
        sine[unknown] = -bore * sum.imag();
    }
    model.port_load.push_back(std::move(cosine));
    model.port_load.push_back(std::move(sine));
}

} // namespace

class TestHarmonic : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void cages_under_sheets_data() {
        QTest::addColumn<int>("number");
        QTest::newRow("open bars") << 0;
        QTest::newRow("closed bars") << 1;
        if (by_night()) QTest::newRow("ideal iron") << 2;
    }
    void cages_under_sheets() {
        QFETCH(int, number);
        const auto c = reference("cages_under_sheets.json")["cases"][std::size_t(number)];
        auto prepared = prepare_field(smooth_machine(c));
        if (!prepared) qFatal("%s", prepared.problems().front().sentence.c_str());
        auto model = std::const_pointer_cast<MachineModel>(*prepared);
        const int order = c["order"];
        add_sheets(*model, order, value_of(c["stator"], "r_bore"));
        for (const bool segments : {false, true}) {
            auto conductance = std::make_shared<Conductance>(conductance_of(*model, conducting_bodies(*model)));
            if (segments) {
                conductance->rings.resistance = value_of(c["ring"], "R");
                conductance->rings.inductance = value_of(c["ring"], "L");
            }
            HarmonicSolver solver(model, conductance, 0);
            for (const auto& row : c["rows"]) {
                if (row["ring"] != segments) continue;
                const double sheet = value_of(c, "sheet");
                const auto field = solver.solve({50, value_of(row, "slip"), {1, Complex(0, -1)}, sheet});
                QVERIFY(field);
                const double bars = std::accumulate(field->eddy_loss.begin(), field->eddy_loss.end(), 0.0);
                CLOSE(field->torque / value_of(row, "torque"), 1, 5e-3);
                CLOSE(bars / value_of(row, "bar_loss"), 1, 5e-3);
                if (segments) CLOSE(field->ring_loss / value_of(row, "ring_loss"), 1, 5e-3);
                const Complex bar(row["bar_current"][0], row["bar_current"][1]);
                CLOSE(std::abs(field->bar_current[0] / bar - 1.0), 0, 5e-3);
                // What crosses the gap goes into the cage.
                const double slip = value_of(row, "slip");
                CLOSE((bars + field->ring_loss) / (slip * 2 * pi * 50 / order * field->torque), 1, 1e-4);
            }
        }
    }
    /// Forces between two potentials, and their slope on the way.
    void the_steel_follows_its_slope() {
        const auto model = prepare_field(machine_of(design_of({})), {.quality = Quality::Draft});
        QVERIFY(bool(model));
        const auto n = std::size_t((*model)->unknowns());
        HarmonicSteel steel(**model);
        QVERIFY(!steel.empty());
        PhasorPotential at = PhasorPotential::zero(n), change = at;
        for (std::size_t i = 0; i < n; ++i) {
            at.re[i] = 0.02 * std::sin(1.0 + double(i));
            at.im[i] = 0.02 * std::cos(3.0 * double(i));
            change.re[i] = std::cos(2.0 * double(i));
            change.im[i] = std::sin(5.0 + 2.0 * double(i));
        }
        const auto forces = [&](double step) {
            PhasorPotential there = at, out = PhasorPotential::zero(n);
            there.add(step, change);
            steel.set(there);
            steel.add_forces(out);
            return out;
        };
        constexpr double step = 1e-7;
        PhasorPotential difference = forces(step);
        difference.add(-1, forces(-step));
        difference.scale(0.5 / step);
        steel.set(at);
        std::vector<double> values((*model)->pattern->row.size(), 0.0);
        steel.add_stiffness(values);
        PhasorPotential slope = PhasorPotential::zero(n);
        multiply(*(*model)->pattern, values, change.re, change.im, slope.re, slope.im);
        const double alone = slope.squared();
        steel.add_conjugate_product(change, slope);
        QVERIFY(std::abs(slope.squared() / alone - 1) > 1e-3); // the conjugate's part is there
        difference.add(-1, slope);
        CLOSE(std::sqrt(difference.squared() / slope.squared()), 0, 1e-5);
    }
    /// A field that turns without changing meets the curve itself: H = h(|B|) along B.
    void turning_fields_meet_the_curve() {
        const auto model = prepare_field(machine_of(design_of({})), {.quality = Quality::Draft});
        QVERIFY(bool(model));
        const FieldModel& m = **model;
        HarmonicSteel steel(m);
        // A = b (x - j y) has B = b (-j, -1): the whole of it turns.
        PhasorPotential at = PhasorPotential::zero(std::size_t(m.unknowns())), out = at;
        constexpr double b = 1.7;
        for (const BodyMesh& mesh : m.meshes)
            for (std::size_t k = 0; k < mesh.nodes.size(); ++k)
                if (mesh.unknown[k] >= 0 && mesh.sign[k] > 0) {
                    at.re[std::size_t(mesh.unknown[k])] = b * mesh.nodes[k].x;
                    at.im[std::size_t(mesh.unknown[k])] = -b * mesh.nodes[k].y;
                }
        steel.set(at);
        steel.add_forces(out);
        // Where all elements round a node hold that field, the forces are those of a linear steel with the
        // same reluctivity; at the sector's ends and at A = 0 they hold another.
        std::vector<double> re(out.re.size(), 0.0), im = re;
        std::vector<bool> elsewhere(re.size(), false);
        for (int index : m.nonlinear) {
            const auto& e = m.elements[std::size_t(index)];
            const auto ar = local_values(e, at.re), ai = local_values(e, at.im);
            for (int q = e.first; q < e.first + e.count; ++q) {
                const auto& p = m.points[std::size_t(q)];
                const Point gr = gradient(p, ar), gi = gradient(p, ai);
                const bool uniform = std::hypot(gr.x - b, gr.y) + std::hypot(gi.x, gi.y + b) < 1e-9;
                const double nu = p.weight * m.laws[std::size_t(e.law)].at(b).h / b;
                for (std::size_t k = 0; k < 6; ++k) {
                    if (e.unknown[k] < 0) continue;
                    const auto unknown = std::size_t(e.unknown[k]);
                    re[unknown] += e.sign[k] * nu * gr.x * p.gx[k];
                    im[unknown] += e.sign[k] * nu * gi.y * p.gy[k];
                    if (!uniform) elsewhere[unknown] = true;
                }
            }
        }
        int compared = 0;
        for (std::size_t i = 0; i < re.size(); ++i)
            if (!elsewhere[i] && re[i] != 0) {
                ++compared;
                CLOSE(out.re[i], re[i], 1e-9 * std::sqrt(inner(re, re)));
                CLOSE(out.im[i], im[i], 1e-9 * std::sqrt(inner(im, im)));
            }
        QVERIFY(compared > 100);
    }
};

MAVLO_TEST(harmonic, TestHarmonic, Nothing)
#include "test_harmonic.moc"
