// Films, wires in resin, and lumped bodies against independent values and closed forms.

#include "heat/film.h"
#include "heat/network.h"
#include "heat/wire_bundle.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

constexpr double zero = 273.15;

Fluid fluid_of(const nlohmann::json& in) {
    Fluid f;
    f.viscosity = in.value("nu", 1e-5);
    f.conductivity = in.value("k", 0.026);
    f.expansion = in.value("beta", 0.003);
    f.density = in.value("rho", 1.0);
    // What the number of Prandtl, or the diffusivity, leaves for the specific heat.
    const double pr = in.contains("Pr")      ? in["Pr"].get<double>()
                      : in.contains("alpha") ? f.viscosity / in["alpha"].get<double>()
                                             : 0.7;
    f.specific_heat =
        in.contains("cp") ? in["cp"].get<double>() : pr * f.conductivity / (f.viscosity * f.density);
    return f;
}

Channel channel_of(const nlohmann::json& in) {
    return {in["width"], in["height"], in["length"]};
}

/// Of the reference's network: losses of slot, end, tooth, yoke, housing, magnet over temperature and a factor
/// of the current.
struct ReferenceNetwork {
    nlohmann::json in;
    HeatNetwork network;
    explicit ReferenceNetwork(const nlohmann::json& inputs)
        : in(inputs) {
        std::vector<std::string> names{"slot", "end", "tooth", "yoke", "housing", "magnet"};
        std::vector<HeatNetwork::Joint> joints;
        for (const auto& r : in["R"]) joints.push_back({r[0], r[1], r[2]});
        std::vector<double> capacity;
        for (const auto& name : names) capacity.push_back(in["C"][name]);
        network = *HeatNetwork::of(names, joints, zero + in["T_amb"].get<double>(), capacity);
    }
    double of(const char* name) const { return in[name]; }
    LossLawOfHeat law(double factor = 1, double copper = 1) const {
        return [*this, factor, copper](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
            const double ref = zero + of("T_ref"), dm = t[5] - ref, b = 1 + of("a1") * dm + of("a2") * dm * dm,
                         db = of("a1") + 2 * of("a2") * dm;
            const bool torque = in["mode"] == "torque";
            const double i = factor * of("I_ref") / (torque ? b : 1), di = torque ? -i * db / b : 0;
            Eigen::VectorXd p = Eigen::VectorXd::Zero(6);
            if (slope) slope->setZero(6, 6);
            for (int k = 0; k < 2; ++k) {
                const double r = of(k == 0 ? "R_slot" : "R_end"), kac = of(k == 0 ? "kac" : "kac_end"),
                             rise = 1 + of("alpha") * (t[k] - ref);
                p[k] = copper * 3 * r * i * i * (rise + kac / rise);
                if (!slope) continue;
                (*slope)(k, k) = copper * 3 * r * i * i * of("alpha") * (1 - kac / (rise * rise));
                (*slope)(k, 5) += 2 * p[k] / i * di;
            }
            p[2] = of("Pt") * b * b;
            p[3] = of("Py") * b * b;
            p[5] = of("Pm");
            if (slope) {
                (*slope)(2, 5) = 2 * of("Pt") * b * db;
                (*slope)(3, 5) = 2 * of("Py") * b * db;
            }
            return p;
        };
    }
};

/// Constant losses.
LossLawOfHeat constant(Eigen::VectorXd p) {
    return [p](const Eigen::VectorXd&, Eigen::MatrixXd* slope) {
        if (slope) slope->setZero(p.size(), p.size());
        return p;
    };
}

void compare(const Eigen::VectorXd& kelvin, const nlohmann::json& wanted, double within) {
    const char* names[] = {"slot", "end", "tooth", "yoke", "housing", "magnet"};
    for (int k = 0; k < 6; ++k) CLOSE(kelvin[k] - zero, wanted[names[k]].get<double>(), within);
}

} // namespace

class TestHeatLaws : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void films() {
        const auto all = reference("heat.json")["correlations"];
        int seen = 0;
        const auto check = [&](double found, double wanted, double within = 1e-9) {
            ++seen;
            CLOSE(found / wanted, 1, within);
        };
        constexpr double rounded = 1e-3; // these give Pr beside nu and the diffusivity, each rounded
        for (const auto& v : all["gap_becker_kaye"]["values"]) {
            const auto& in = v["inputs"];
            const Film film = gap_by_becker_kaye({in["r_rotor"], in["r_stator"]}, in["omega"], fluid_of(in));
            check(film.coefficient, v["results"]["h"]);
            QCOMPARE(film.in_range, v["results"]["in_range"].get<bool>());
        }
        for (const auto& v : all["gap_gazley_taylor"]["values"]) {
            const auto& in = v["inputs"];
            check(gap_by_taylor({in["r_rotor"], in["r_stator"]}, in["omega"], fluid_of(in)).coefficient,
                  v["results"]["h"]);
        }
        for (const auto& v : all["gap_gazley_axial"]["values"]) {
            const auto& in = v["inputs"];
            check(gap_with_axial_flow({in["r_rotor"], in["r_stator"]}, in["omega"], in["v_axial"], fluid_of(in))
                      .coefficient,
                  v["results"]["h"]);
        }
        for (const auto& v : all["horizontal_cylinder"]["values"]) {
            const auto& in = v["inputs"];
            check(horizontal_cylinder(in["D"], in["T_s"], in["T_a"], fluid_of(in)).coefficient,
                  v["results"]["h"], rounded);
        }
        for (const auto& v : all["vertical_plate"]["values"]) {
            const auto& in = v["inputs"];
            check(vertical_plate(in["L"], in["T_s"], in["T_a"], fluid_of(in)).coefficient, v["results"]["h"],
                  rounded);
        }
        for (const auto& v : all["fin_channel_heiles"]["values"]) {
            const auto& in = v["inputs"];
            check(rib_channel(in["v"], in["L"], in["s"], in["H"], fluid_of(in)).coefficient, v["results"]["h"]);
        }
        for (const auto& v : all["finned_housing"]["values"]) {
            const auto& in = v["inputs"];
            check(ribbed_wall(in["h"], in["fin_height"], in["fin_thickness"], in["fin_gap"], in["k_fin"]),
                  v["results"]["h_effective"]);
        }
        for (const auto& v : all["flat_plate"]["values"]) {
            const auto& in = v["inputs"];
            check(flat_plate(in["L"], in["v"], fluid_of(in)).coefficient, v["results"]["h"]);
        }
        for (const auto& v : all["jacket_channel"]["values"]) {
            const auto &in = v["inputs"], &out = v["results"];
            const Channel channel = channel_of(in);
            const Fluid fluid = fluid_of(in);
            if (out.contains("h_gnielinski"))
                check(turbulent_channel(channel, in["v"], fluid).coefficient, out["h_gnielinski"]);
            if (out.contains("h_dittus_boelter"))
                check(dittus_boelter(channel, in["v"], fluid).coefficient, out["h_dittus_boelter"]);
            if (out.contains("h_hausen"))
                check(laminar_channel(channel, in["v"], fluid).coefficient, out["h_hausen"]);
        }
        for (const auto& v : all["rectangular_duct_laminar"]["values"]) {
            const auto duct = laminar_duct(v["inputs"]["aspect"]);
            check(duct.nusselt_temperature, v["results"]["Nu_T"]);
            check(duct.nusselt_flux, v["results"]["Nu_H1"]);
            check(duct.friction, v["results"]["f_Re_fanning"]);
        }
        for (const auto& v : all["radiation"]["values"]) {
            const auto& in = v["inputs"];
            const double t1 = zero + in["T1"].get<double>(), t2 = zero + in["T2"].get<double>();
            if (in.contains("eps2"))
                check(radiation_between(in["eps1"], in["eps2"], in["r1"].get<double>() / in["r2"].get<double>(),
                                        t1, t2),
                      v["results"]["h_r"]);
            else
                check(radiation(in["eps1"], t1, t2), v["results"]["h_r"]);
        }
        QVERIFY(seen >= 35);
    }
    void wires_in_resin() {
        int exact = 0;
        const auto data = reference("heat.json");
        for (const auto& row : data["bundle"]) {
            const auto& in = row["inputs"];
            WireBundle b;
            b.resin = in["k_resin"];
            if (in.contains("fill_of_coated_wire")) {
                b.fill = in["fill_of_coated_wire"];
                b.wire = in["k_copper"];
                b.coat = in["k_coat"];
                b.bare_radius = in["copper_to_outer_diameter"];
                CLOSE(coated_wire(b) / row["results"]["equivalent_wire_k"].get<double>(), 1, 1e-9);
            } else {
                b.fill = in["fill"];
                b.wire = in["k_wire"];
                const auto [low, high] = hashin_shtrikman_bounds(b);
                CLOSE(low / row["results"]["hashin_shtrikman"][0].get<double>(), 1, 1e-9);
                CLOSE(high / row["results"]["hashin_shtrikman"][1].get<double>(), 1, 1e-9);
                CLOSE(wiener_bounds(b).first / row["results"]["wiener"][0].get<double>(), 1, 1e-9);
            }
            const auto array = in["array"] == "square" ? WireArray::Square : WireArray::Hexagonal;
            CLOSE(across_wires(b, array) / row["results"]["k_effective"].get<double>(), 1, 1e-6);
            ++exact;
        }
        QVERIFY(exact > 15);
        WireBundle touching;
        touching.fill = 0.95;
        touching.wire = 400;
        touching.resin = 0.2;
        QVERIFY(std::isnan(across_wires(touching, WireArray::Square)));
    }
    void fixed_points_and_runaway() {
        int runaways = 0;
        const auto data = reference("heat.json");
        for (const auto& row : data["coupled_fixed_point"]) {
            const ReferenceNetwork r(row["inputs"]);
            const SteadyHeat found = steady_heat(r.network, r.law());
            const auto& wanted = row["results"];
            if (wanted.contains("T")) {
                QVERIFY(!found.runs_away);
                compare(found.temperature, wanted["T"], 1e-6);
            } else {
                QVERIFY(found.runs_away);
                ++runaways;
            }
        }
        qInfo("%d of them run away", runaways);
    }
    /// One body: loss and slope by hand. R P0 (1 + a (T - Ta)) with R P0 a = 1 at the threshold.
    void a_body_that_runs_away() {
        const auto network = HeatNetwork::of({"winding"}, {{"winding", "ambient", 2}}, 300, {100});
        const auto law = [](double factor) {
            return [factor](const Eigen::VectorXd& t, Eigen::MatrixXd* slope) {
                const double p = 50 * factor * factor;
                if (slope) slope->setConstant(1, 1, p * 0.004);
                return Eigen::VectorXd(Eigen::VectorXd::Constant(1, p * (1 + 0.004 * (t[0] - 300))));
            };
        };
        const SteadyHeat steady = steady_heat(*network, law(1));
        CLOSE(steady.temperature[0], 300 + 100 / (1 - 0.4), 1e-8);
        QVERIFY(steady_heat(*network, law(1.7)).runs_away);
        CLOSE(runaway_factor(*network, law, 0.1, 5), std::sqrt(1 / 0.4), 1e-5);
        QVERIFY(!HeatNetwork::of({"a", "b"}, {{"a", "ambient", 1}}, 300, {1, 1}));
        QVERIFY(!HeatNetwork::of({"a"}, {{"a", "ambient", 0}}, 300, {1}));
    }
    void networks_over_time() {
        const auto data = reference("heat.json");
        for (const auto& row : data["network_transient"]) {
            nlohmann::json inputs;
            for (const auto& c : data["coupled_fixed_point"])
                if (c["name"] == row["inputs"]["network"]) inputs = c["inputs"];
            const ReferenceNetwork r(inputs);
            const auto follow = [&](const LossLawOfHeat& law, const nlohmann::json& steps) {
                std::vector<double> times;
                for (const auto& s : steps) times.push_back(s["t"]);
                std::vector<std::pair<double, Eigen::VectorXd>> told;
                heat_over_time(r.network, law, r.network.at_rest, 0, times.back(), times,
                               [&](double t, const Eigen::VectorXd& at) {
                                   told.emplace_back(t, at);
                                   return true;
                               });
                QCOMPARE(told.size(), times.size());
                for (std::size_t k = 0; k < told.size(); ++k) {
                    CLOSE(told[k].first, times[k], 1e-9);
                    compare(told[k].second, steps[k]["T"], 1e-3);
                }
            };
            if (row["results"].contains("times")) { // an overload that finds no rest
                follow(r.law(), row["results"]["times"]);
                continue;
            }
            Eigen::VectorXd p(6);
            const char* names[] = {"slot", "end", "tooth", "yoke", "housing", "magnet"};
            for (int k = 0; k < 6; ++k) p[k] = row["inputs"]["constant_losses_W"][names[k]];
            const auto constants = time_constants(r.network);
            for (std::size_t k = 0; k < constants.size(); ++k)
                CLOSE(constants[k] / row["results"]["time_constants"][k].get<double>(), 1, 1e-6);
            follow(constant(p), row["results"]["step_constant_losses"]);
            if (row["results"].contains("step_coupled_losses"))
                follow(r.law(), row["results"]["step_coupled_losses"]["times"]);
            std::vector<DutySegment> cycle;
            for (const auto& s : row["inputs"]["duty_segments"]) cycle.push_back({s[0], s[1]});
            const auto in_duty = [&](const DutySegment& s) {
                Eigen::VectorXd q = p;
                q[0] *= s.share;
                q[1] *= s.share;
                return constant(q);
            };
            const Eigen::VectorXd begin = periodic_heat(r.network, in_duty, cycle);
            compare(begin, row["results"]["duty_periodic"][0]["T"], 1e-3);
        }
    }
    void fluids() {
        // Dry air at 300 K and water at 20 degC as tables have them.
        const Fluid air = dry_air(300);
        CLOSE(air.density, 1.177, 2e-3);
        CLOSE(air.viscosity / 15.89e-6, 1, 2e-2);
        CLOSE(air.conductivity, 0.0263, 3e-4);
        CLOSE(air.prandtl(), 0.707, 1e-2);
        CLOSE(dry_air(300, air_pressure(3000)).density / air.density, 0.692, 5e-3);
        const auto water = coolant("water", 293.15);
        QVERIFY(bool(water));
        CLOSE(water->density, 998.2, 1);
        CLOSE(water->viscosity / 1.004e-6, 1, 3e-2);
        QVERIFY(!coolant("water", 260));
        QVERIFY(!coolant("water", 400));
        QVERIFY(!coolant("beer", 300));
    }
};
MAVLO_TEST(heat_laws, TestHeatLaws, Nothing)
#include "test_heat_laws.moc"
