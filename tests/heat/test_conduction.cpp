// Conduction on meshes against independent solutions: half a slot pitch, steady and in time; annuli in closed
// form.

#include "heat/section_heat.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// Rings and sectors between radii, mirrored about angle 0.
struct TileOf {
    Tile tile;
    explicit TileOf(int pitches, double inner, double outer) {
        tile.pitch = 2 * pi / pitches;
        tile.gap_radius = inner;
        tile.face_radius = inner;
        tile.far_radius = outer;
    }
    int at(double r, double angle) { return tile.outline.add(polar(r, angle)); }
    void arc(double r, double from, double to) { tile.outline.arc(at(r, from), at(r, to)); }
    void ray(double angle, double from, double to) { tile.outline.line(at(from, angle), at(to, angle)); }
    void region(double r, double angle, Use use) { tile.regions.push_back({polar(r, angle), use, "part"}); }
};

BodyMesh mesh_of(const Tile& tile, int pitches, double factor) {
    const auto mesh = triangulate(tile, factor);
    if (!mesh) qFatal("%s", to_string(mesh.problems().front()).c_str());
    Body body;
    body.tile = tile;
    body.pitches = pitches;
    return body_mesh(body, 0, *mesh, 1, 1, false);
}

std::vector<int> regions_of(const BodyMesh& mesh) {
    std::vector<int> group;
    for (const auto& e : mesh.elements) group.push_back(mesh.parts[std::size_t(e.part)].region);
    return group;
}

enum SlotPart { GapPart, TipPart, WedgePart, ToothPart, WindingPart, YokePart, HousingPart };

Tile slot_tile(const nlohmann::json& in) {
    const int q = in["Q"];
    const auto r = [&](const char* name) { return in[name].get<double>(); };
    const double half = pi / q, slot = half * (1 - r("theta_slot_fraction")),
                 mouth = half * (1 - r("theta_opening_fraction"));
    TileOf t(q, r("r_rotor"), r("r_housing"));
    const double radii[] = {r("r_rotor"),    r("r_bore"), r("r_slot_in"),
                            r("r_slot_out"), r("r_yoke"), r("r_housing")};
    std::vector<double> angles{0, half};
    for (int k = 0; k < 6; ++k) {
        // On each circle every corner that lies on it.
        std::vector<double> on{0};
        if (k == 1 || k == 2) on.push_back(mouth);
        if (k == 2 || k == 3) on.push_back(slot);
        on.push_back(half);
        std::sort(on.begin(), on.end());
        for (std::size_t i = 1; i < on.size(); ++i)
            if (on[i] - on[i - 1] > 1e-9) t.arc(radii[k], on[i - 1], on[i]);
    }
    for (double angle : {0.0, half})
        for (int k = 1; k < 6; ++k) t.ray(angle, radii[k - 1], radii[k]);
    t.ray(mouth, radii[1], radii[2]);
    t.ray(slot, radii[2], radii[3]);
    const auto middle = [&](int k) { return (radii[k] + radii[k + 1]) / 2; };
    t.region(middle(0), half / 2, Use::Air);
    t.region(middle(1), (mouth + half) / 2, Use::Iron);
    t.region(middle(1), mouth / 2, Use::Air);
    t.region(middle(2), (slot + half) / 2, Use::Iron);
    t.region(middle(2), slot / 2, Use::Conductor);
    t.region(middle(3), half / 2, Use::Iron);
    t.region(middle(4), half / 2, Use::Iron);
    const double fine = (radii[1] - radii[0]) / 2;
    for (double angle : {slot, mouth})
        for (int k : {1, 2, 3}) t.tile.hints.push_back({polar(radii[k], angle), k == 3 ? 3e-4 : 1.5e-4});
    t.tile.gap_size = fine;
    t.tile.max_size = 1.5e-3;
    return t.tile;
}

/// Half a pitch, per metre.
struct SlotPitch {
    nlohmann::json in;
    Tile tile;
    BodyMesh mesh;
    HeatSystem system;
    int ambient;
    std::unique_ptr<SectionHeat> section;

    SlotPitch(const nlohmann::json& inputs, double factor)
        : in(inputs)
        , tile(slot_tile(inputs))
        , mesh(mesh_of(tile, inputs["Q"], factor)) {
        const auto of = [&](const char* name) { return in[name].get<double>(); };
        ambient = system.add_nodes();
        system.hold(ambient, of("T_amb"));
        const auto group = [&](const char* name, int domain, const char* k, const char* c) {
            return HeatGroup{name, domain, of(k), of(k), of(c)};
        };
        section = std::make_unique<SectionHeat>(
            system, mesh,
            std::vector<HeatGroup>{
                group("gap", 0, "k_gap", "rho_c_gap"), group("tip", 0, "k_iron", "rho_c_iron"),
                group("wedge", 0, "k_wedge", "rho_c_wedge"), group("tooth", 0, "k_iron", "rho_c_iron"),
                group("winding", 1, "k_winding", "rho_c_winding"), group("yoke", 0, "k_iron", "rho_c_iron"),
                group("housing", 2, "k_housing", "rho_c_housing")},
            regions_of(mesh), 0.5);
        section->contact("liner", 0, 1, 1 / of("R_liner"));
        section->contact("fit", 0, 2, 1 / of("R_housing"));
        section->film("outside", tile.far_radius, ambient, of("h"));
        if (in["rotor"]["type"] == "temperature") {
            const int rotor = system.add_nodes();
            system.hold(rotor, in["rotor"]["T"]);
            section->film("rotor", tile.gap_radius, rotor, 1e9);
        }
    }
    Eigen::VectorXd power(double winding = 1) const {
        const auto watts = [&](int group, double density) {
            return system.spread(section->mean_of(group), density * section->volume(group));
        };
        Eigen::VectorXd p = watts(WindingPart, winding * in["q_winding"].get<double>()) +
                            watts(ToothPart, in["q_tooth"]) + watts(TipPart, in["q_tooth"]) +
                            watts(YokePart, in["q_yoke"]);
        if (in["rotor"]["type"] == "flux")
            p += system.spread(section->on_circle(tile.gap_radius),
                               in["rotor"]["W_per_m2"].get<double>() * section->circle_area(tile.gap_radius));
        return p;
    }
    double mean(int group, const Eigen::VectorXd& t) const {
        return HeatSystem::mean(section->mean_of(group), t);
    }
    double tooth(const Eigen::VectorXd& t) const {
        const double a = section->volume(ToothPart), b = section->volume(TipPart);
        return (a * mean(ToothPart, t) + b * mean(TipPart, t)) / (a + b);
    }
};

} // namespace

class TestConduction : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void slot_pitch_steady() {
        const auto data = reference("heat.json");
        for (const auto& row : data["slot_pitch"]) {
            SlotPitch pitch(row["inputs"], 1);
            const auto t = pitch.system.steady(pitch.power());
            QVERIFY(bool(t));
            const auto& wanted = row["results"]["steady"];
            const auto off = [&](const char* what, double found) {
                qInfo("%s %.4f of %.4f", what, found, wanted[what].get<double>());
                CLOSE(found, wanted[what].get<double>(), 0.05);
            };
            off("T_mean_winding", pitch.mean(WindingPart, *t));
            off("T_mean_tooth", pitch.tooth(*t));
            off("T_mean_yoke", pitch.mean(YokePart, *t));
            off("T_mean_housing", pitch.mean(HousingPart, *t));
            off("T_max_winding", pitch.section->highest(WindingPart, *t));
            // What is lost comes out.
            CLOSE(pitch.system.into(pitch.ambient, *t) / pitch.power().sum(), 1, 1e-9);
            CLOSE(pitch.system.into(pitch.ambient, *t) /
                      wanted["flows_W_per_m_half_pitch"]["to_outside"].get<double>(),
                  1, 1e-4);
        }
    }
    void slot_pitch_in_time() {
        const auto data = reference("heat.json");
        for (const auto& row : data["slot_pitch"]) {
            SlotPitch pitch(row["inputs"], 1);
            const Eigen::VectorXd cold =
                Eigen::VectorXd::Constant(pitch.system.nodes(), row["inputs"]["T_amb"].get<double>());
            double step = 0.5;
            HeatSystem::Run run(pitch.system, cold, step);
            int seen = 0;
            for (const auto& wanted : row["results"]["step"]) {
                if (wanted["t"].get<double>() > 301) break;
                while (run.time() < wanted["t"].get<double>() - 1e-6) QVERIFY(!run.go(pitch.power()));
                CLOSE(pitch.mean(WindingPart, run.temperature()), wanted["T_mean_winding"].get<double>(), 0.1);
                CLOSE(pitch.tooth(run.temperature()), wanted["T_mean_tooth"].get<double>(), 0.1);
                CLOSE(pitch.mean(YokePart, run.temperature()), wanted["T_mean_yoke"].get<double>(), 0.1);
                ++seen;
            }
            QVERIFY(seen >= 3);
        }
    }
    /// Layers with generation and contacts: rings of a tile.
    void cylinders_in_series() {
        int seen = 0;
        const auto data = reference("heat.json");
        for (const auto& row : data["cylinders_in_series"]) {
            const auto& in = row["inputs"];
            const auto& r = in["r"];
            if (r[0].get<double>() == 0) continue; // a tile has a hole
            const int layers = int(r.size()) - 1, pitches = 24;
            TileOf t(pitches, r[0], r[std::size_t(layers)]);
            const double half = pi / pitches;
            for (int k = 0; k <= layers; ++k) t.arc(r[std::size_t(k)], 0, half);
            for (double angle : {0.0, half})
                for (int k = 0; k < layers; ++k) t.ray(angle, r[std::size_t(k)], r[std::size_t(k + 1)]);
            for (int k = 0; k < layers; ++k)
                t.region((r[std::size_t(k)].get<double>() + r[std::size_t(k + 1)].get<double>()) / 2, half / 2,
                         Use::Iron);
            t.tile.gap_size = t.tile.max_size = (t.tile.far_radius - t.tile.gap_radius) / 12;
            const BodyMesh mesh = mesh_of(t.tile, pitches, 1);
            HeatSystem system;
            const int ambient = system.add_nodes();
            system.hold(ambient, in["outer"]["T"]);
            std::vector<HeatGroup> groups;
            for (int k = 0; k < layers; ++k) {
                const double conductivity = in["k"][std::size_t(k)];
                groups.push_back({"layer", k, conductivity, conductivity, 1});
            }
            SectionHeat section(system, mesh, groups, regions_of(mesh), pitches);
            for (int k = 0; k + 1 < layers; ++k)
                section.contact("contact", k, k + 1, 1 / in["contact"][std::size_t(k)].get<double>());
            const bool held = in["outer"]["type"] == "temperature";
            section.film("outside", t.tile.far_radius, ambient, held ? 1e9 : in["outer"]["h"].get<double>());
            Eigen::VectorXd power = Eigen::VectorXd::Zero(system.nodes());
            for (int k = 0; k < layers; ++k)
                power += system.spread(section.mean_of(k),
                                       in["q"][std::size_t(k)].get<double>() * section.volume(k));
            if (in["inner"]["type"] == "flow")
                power += system.spread(section.on_circle(t.tile.gap_radius), in["inner"]["W_per_m"]);
            const auto found = system.steady(power);
            QVERIFY(bool(found));
            for (int k = 0; k < layers; ++k) {
                const auto& layer = row["results"]["layers"][std::size_t(k)];
                const double rise =
                    row["results"]["layers"][0]["T_max"].get<double>() - in["outer"]["T"].get<double>();
                CLOSE(HeatSystem::mean(section.mean_of(k), *found), layer["T_mean"].get<double>(), 1e-4 * rise);
                CLOSE(section.highest(k, *found), layer["T_max"].get<double>(), 1e-4 * rise);
            }
            // What is lost inside crosses the outer circle, along the radius.
            const double wanted = power.sum() / section.circle_area(t.tile.far_radius);
            for (std::size_t e = 0; e < mesh.elements.size(); ++e) {
                const auto flux = section.flux(e, *found);
                for (std::size_t k = 0; k < 6; ++k) {
                    const Point at = mesh.nodes[std::size_t(mesh.elements[e].node[k])];
                    if (std::abs(norm(at) - t.tile.far_radius) > 1e-9) continue;
                    const Point out = (1 / norm(at)) * at;
                    CLOSE((flux[k].x * out.x + flux[k].y * out.y) / wanted, 1, 0.01);
                    CLOSE((flux[k].y * out.x - flux[k].x * out.y) / wanted, 0, 0.01);
                }
            }
            ++seen;
        }
        QVERIFY(seen >= 3);
    }
    /// Sheets that conduct more along than across, with a flux that varies round the bore.
    void an_anisotropic_annulus() {
        const auto row = reference("heat.json")["anisotropic"][0];
        const auto& in = row["inputs"];
        TileOf t(2, in["a"], in["b"]);
        for (double r : {in["a"].get<double>(), in["b"].get<double>()}) {
            t.arc(r, 0, pi / 4);
            t.arc(r, pi / 4, pi / 2);
        }
        for (double angle : {0.0, pi / 2}) t.ray(angle, in["a"], in["b"]);
        t.region(0.07, 0.5, Use::Iron);
        t.tile.gap_size = t.tile.max_size = 1.5e-3;
        const BodyMesh mesh = mesh_of(t.tile, 2, 1);
        HeatSystem system;
        const int ambient = system.add_nodes();
        system.hold(ambient, in["T"]);
        SectionHeat section(system, mesh, {{"sheets", 0, in["k_r"], in["k_t"], 1}}, regions_of(mesh), 1);
        section.film("outside", t.tile.far_radius, ambient, in["h"]);
        // The flux by the edges' nodes at the bore: even shares times what stands there.
        const NodeShares even = section.on_circle(t.tile.gap_radius);
        std::map<int, double> angle;
        for (std::size_t e = 0; e < mesh.elements.size(); ++e)
            for (std::size_t k = 0; k < 6; ++k) {
                Eigen::VectorXd one = Eigen::VectorXd::Zero(system.nodes());
                const Point at = mesh.nodes[std::size_t(mesh.elements[e].node[k])];
                if (std::abs(norm(at) - t.tile.gap_radius) < 1e-8) angle[section.node_of(e, k)] = angle_of(at);
            }
        Eigen::VectorXd power = Eigen::VectorXd::Zero(system.nodes());
        for (const auto& [node, share] : even) {
            double flux = in["q0"];
            for (const auto& q : in["qn"])
                flux += q[1].get<double>() * std::cos(q[0].get<double>() * angle.at(node));
            power[node] += share * flux * section.circle_area(t.tile.gap_radius);
        }
        const auto found = system.steady(power);
        QVERIFY(bool(found));
        int seen = 0;
        for (const auto& p : row["results"]["points"]) {
            // The nearest node; angles are folded into the half pitch.
            const Point wanted = mavlo::polar(p["r"].get<double>(), p["theta"].get<double>());
            double least = 1e9, value = 0;
            for (std::size_t e = 0; e < mesh.elements.size(); ++e)
                for (std::size_t k = 0; k < 6; ++k) {
                    const double away = distance(mesh.nodes[std::size_t(mesh.elements[e].node[k])], wanted);
                    if (away < least) least = away, value = (*found)[section.node_of(e, k)];
                }
            qInfo("%.4f of %.4f, %.2g m away", value, p["T"].get<double>(), least);
            CLOSE(value, p["T"].get<double>(), least < 1e-7 ? 2e-3 : 0.6);
            ++seen;
        }
        QCOMPARE(seen, 5);
    }
    void no_way_out_is_said() {
        HeatSystem system;
        const int a = system.add_nodes(2);
        const int ambient = system.add_nodes();
        system.hold(ambient, 300);
        system.join("one", a, ambient, 1);
        Eigen::VectorXd power = Eigen::VectorXd::Zero(system.nodes());
        power[a + 1] = 1;
        const auto found = system.steady(power);
        QVERIFY(!found);
        QVERIFY(found.problems().front().sentence.size() > 40);
        system.join("other", a + 1, a, 0.5);
        const auto joined = system.steady(power);
        QVERIFY(bool(joined));
        CLOSE((*joined)[a], 301, 1e-9);
        CLOSE((*joined)[a + 1], 303, 1e-9);
    }
};
MAVLO_TEST(conduction, TestConduction, Nothing)
#include "test_conduction.moc"
