// Switched reluctance: windings, linkage curves, static torque and strokes against independent values, energy
// and symmetry.

#include "map/strokes.h"
#include "night.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"
#include "winding/proposal.h"

#include <QTemporaryDir>
#include <QtTest>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>

using namespace mavlo;

namespace {

/// A machine of the reference, with its own steel.
/// The reference's steels have no losses; now they have.
void set_lossy_steel(Ask& ask) {
    const Material& known = shipped_materials().at("M400-50A");
    for (auto& [name, material] : ask.materials) {
        material.loss = known.loss;
        material.density = known.density;
    }
}

Ask ask_of(const nlohmann::json& all, const nlohmann::json& m, bool linear = false) {
    const auto& in = m["inputs"];
    const auto of = [&](const char* key) { return in[key].get<double>(); };
    const auto metres = [](double x) { return fmt::format("{:.10g} m", x); };
    const auto angle = [](double x) { return fmt::format("{:.12g} rad", x); };
    const double body = 2 * pi / of("Ns") - of("beta_s");
    const bool alike = in["polarity"] == nlohmann::json(std::vector<int>(in["phases"].get<std::size_t>(), 1));
    Ask ask;
    ask.design = design_of({{"machine.stack_length", metres(of("length"))},
                            {"gap", metres(of("r_bore") - of("r_rotor_tip"))},
                            {"stator.outer_diameter", metres(2 * of("r_outer"))},
                            {"stator.bore_diameter", metres(2 * of("r_bore"))},
                            {"stator.slots", std::to_string(in["Ns"].get<int>())},
                            {"stator.slot.kind", "radial"},
                            {"stator.slot.body_angle", angle(body)},
                            {"stator.slot.opening_angle", angle(body)},
                            {"stator.slot.tip_depth", metres(of("r_coil_in") - of("r_bore"))},
                            {"stator.slot.depth", metres(of("r_slot_bottom") - of("r_bore"))},
                            {"rotor.kind", "salient"},
                            {"rotor.poles", std::to_string(in["Nr"].get<int>())},
                            {"rotor.pole_sides", "radial"},
                            {"rotor.pole_arc", angle(of("beta_r"))},
                            {"rotor.pole_depth", metres(of("r_rotor_tip") - of("r_rotor_slot"))},
                            {"rotor.shaft_diameter", metres(2 * of("r_shaft"))},
                            {"winding.form", "pole"},
                            {"winding.polarity", alike ? "alike" : "alternate"},
                            {"winding.phases", std::to_string(in["phases"].get<int>())},
                            {"winding.turns", std::to_string(in["turns_per_pole"].get<int>())},
                            {"rating.max_current", fmt::format("{} A", m["largest_current"].get<double>())},
                            {"rating.current", fmt::format("{} A", m["largest_current"].get<double>() / 2)}});
    const std::string steel = linear ? fmt::format("linear({})", m["linear_mu_r"].get<double>()) : "reference";
    for (const std::string side : {"stator", "rotor"}) {
        ask.design.texts[side + ".steel"] = steel;
        ask.design.texts[side + ".stacking_factor"] = "1";
    }
    Material material;
    material.name = "reference";
    material.kind = MaterialKind::Steel;
    std::vector<BhPoint> points;
    for (std::size_t k = 0; k < all["steel"]["H"].size(); ++k)
        points.push_back({all["steel"]["H"][k].get<double>(), all["steel"]["B"][k].get<double>()});
    auto curve = BhCurve::through(points);
    if (!curve) qFatal("the reference's curve is refused");
    material.curve = *curve;
    ask.materials["reference"] = material;
    return ask;
}

Answer answer_of(const Ask& ask, const char* question, const Run& run = {}) {
    auto answer = ask_question(question, ask, run);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

void within(double value, double wanted, double share, const std::string& what) {
    QVERIFY2(std::abs(value - wanted) <= share * std::abs(wanted),
             fmt::format("{}: {:.6g} is wanted to be {:.6g}", what, value, wanted).c_str());
}

/// A value of a map at one of its own places.
double at_place(const Map& map, double x, double y) {
    const auto nearest = [](const std::vector<double>& list, double wanted) {
        std::size_t best = 0;
        for (std::size_t k = 0; k < list.size(); ++k)
            if (std::abs(list[k] - wanted) < std::abs(list[best] - wanted)) best = k;
        return best;
    };
    return map.z[nearest(map.y, y)][nearest(map.x, x)];
}

} // namespace

class TestReluctance : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void pairs_data();
    void pairs();
    void alignedPositions();
    void wholeAsSector();
    void linkagesAndTorque();
    void coenergyKeepsEnergy();
    void strokes_data();
    void strokes();
    void fullStrokes();
    void toothPull();
    void planning();
    void badInput_data();
    void badInput();
    void ownCircuitAsHalfBridge();

  private:
    const nlohmann::json m_all = reference("reluctance.json");
};

void TestReluctance::pairs_data() {
    QTest::addColumn<int>("slots");
    QTest::addColumn<int>("poles");
    QTest::addColumn<int>("phases");
    QTest::addColumn<bool>("fits");
    for (const auto& [s, p, m] : {std::array{6, 4, 3},
                                  {8, 6, 4},
                                  {12, 8, 3},
                                  {10, 8, 5},
                                  {18, 12, 3},
                                  {24, 16, 3},
                                  {16, 12, 4},
                                  {12, 10, 3},
                                  {6, 8, 3}})
        QTest::addRow("%d/%d, %d phases", s, p, m) << s << p << m << (s != 12 || p != 10);
    QTest::newRow("6/6") << 6 << 6 << 3 << false;
    QTest::newRow("9/6") << 9 << 6 << 3 << false;
    QTest::newRow("8/4, 4 phases") << 8 << 4 << 4 << false;
}

void TestReluctance::pairs() {
    QFETCH(int, slots);
    QFETCH(int, poles);
    QFETCH(int, phases);
    QFETCH(bool, fits);
    WindingInput in{slots, poles, phases, 2, 0};
    in.form = WindingForm::Pole;
    const auto layout = propose_winding(in);
    // Twelve and ten: one phase's coils would not be aligned at once.
    QCOMPARE(bool(layout), fits);
    if (!layout) {
        QVERIFY(!layout.problems().front().sentence.empty());
        return;
    }
    // Every slot holds two sides; a phase's poles are north and south in turn; currents alone magnetise to
    // zero.
    for (double at : slot_ampere_turns(*layout, std::vector<double>(std::size_t(phases), 0.0)))
        QCOMPARE(at, 0.0);
    std::vector<double> one(std::size_t(phases), 0.0);
    one[0] = 1;
    double sum = 0;
    for (double f : tooth_mmf(*layout, one)) sum += f;
    QVERIFY(std::abs(sum) < 1e-12);
    std::vector<double> steps = layout->lags;
    std::sort(steps.begin(), steps.end());
    for (std::size_t k = 0; k < steps.size(); ++k)
        QVERIFY(std::abs(steps[k] - 2 * pi * double(k) / phases) < 1e-9);
}

/// Where a phase is aligned its linkage is largest, and its torque none.
void TestReluctance::alignedPositions() {
    const Ask ask = ask_of(m_all, m_all["machines"][1]);
    const auto machine = build_machine(ask.design, ask.materials);
    QVERIFY(bool(machine));
    const auto model = prepare_field(*machine, {Quality::Draft});
    FieldSolver solver(*model);
    for (int phase = 0; phase < machine->winding.phases; ++phase) {
        const double aligned = phase_axis(machine->winding.layout, phase);
        PortValues one(std::size_t(machine->winding.phases), 0.0);
        one[std::size_t(phase)] = 5;
        const auto at = solver.solve(aligned, one), off = solver.solve(aligned + 0.05, one);
        QVERIFY(at && off);
        QVERIFY(at->flux_linkage[std::size_t(phase)] > off->flux_linkage[std::size_t(phase)]);
        QVERIFY(std::abs(at->torque) < 1e-6 * std::abs(off->torque));
        QVERIFY(off->torque < 0);
    }
}

void TestReluctance::wholeAsSector() {
    const Ask ask = ask_of(m_all, m_all["machines"][0]);
    std::vector<double> torque, linkage;
    for (const bool whole : {false, true}) {
        const auto machine = build_machine(ask.design, ask.materials, {.whole = whole});
        QVERIFY(bool(machine));
        QCOMPARE(machine->sector().count, whole ? 1 : 2);
        const auto field = FieldSolver(*prepare_field(*machine, {Quality::Draft})).solve(0.3, {8, 4, 0});
        QVERIFY(bool(field));
        torque.push_back(field->torque);
        linkage.push_back(field->flux_linkage[0]);
    }
    within(torque[0], torque[1], 1e-6, "torque");
    within(linkage[0], linkage[1], 1e-7, "linkage");
}

void TestReluctance::linkagesAndTorque() {
    for (const auto& m : m_all["machines"]) {
        Ask ask = ask_of(m_all, m);
        std::set<double> currents;
        for (const auto& p : m["points"]) currents.insert(p["i"].get<double>());
        ask.with["currents"] = fmt::format("{} A", fmt::join(currents, ", "));
        // Places a tenth of a degree apart hold every angle of the reference, half a degree most.
        const double half = 180.0 / m["inputs"]["Nr"].get<double>(), step = by_night() && half < 40 ? 0.1 : 0.5;
        ask.with["points"] = std::to_string(int(std::lround(half / step)) + 1);
        const Answer answer = answer_of(ask, "linkage-curves");
        const Map &linkage = *answer.map("flux_linkage"), &torque = *answer.map("torque"),
                  &coenergy = *answer.map("coenergy");
        std::map<double, double> aligned, peak;
        for (std::size_t k = 0; k < linkage.y.size(); ++k) {
            aligned[linkage.y[k]] = at_place(linkage, 0, linkage.y[k]);
            peak[linkage.y[k]] = *std::max_element(torque.z[k].begin(), torque.z[k].end());
        }
        std::size_t compared = 0;
        for (const auto& p : m["points"]) {
            const double degrees = p["theta"].get<double>() * 180 / pi, i = p["i"];
            const double apart = std::abs(std::remainder(degrees + half, linkage.x[1] - linkage.x[0]));
            if (apart > 1e-6) continue;
            ++compared;
            const std::string where =
                fmt::format("{} at {:.3g} deg, {} A", m["name"].get<std::string>(), degrees, i);
            QVERIFY2(std::abs(at_place(linkage, degrees, i) - p["psi"]["A"].get<double>()) <
                         0.0025 * aligned[i],
                     where.c_str());
            QVERIFY2(std::abs(at_place(torque, degrees, i) - p["torque"].get<double>()) < 0.005 * peak[i],
                     where.c_str());
            within(at_place(coenergy, degrees, i), p["coenergy"], 0.004, where);
            // What the other phases link, with its sign.
            const Map& second = *answer.map(answer.map("flux_linkage_v") ? "flux_linkage_v" : "flux_linkage_b");
            QVERIFY2(std::abs(at_place(second, degrees, i) - p["psi"]["B"].get<double>()) < 0.001 * aligned[i],
                     where.c_str());
        }
        QVERIFY(compared >= (step < 0.5 || half > 40 ? m["points"].size() : 9));
    }
}

/// The map's own slopes: linkage over the current, torque over the angle, to the last digits.
void TestReluctance::coenergyKeepsEnergy() {
    Ask ask = ask_of(m_all, m_all["machines"][2]);
    ask.with["points"] = "16";
    const Answer answer = answer_of(ask, "linkage-curves");
    const Map &psi = *answer.map("flux_linkage"), &w = *answer.map("coenergy"), &t = *answer.map("torque");
    LinkageGrid grid;
    grid.even = true;
    grid.period = 2 * pi / 8;
    grid.current = psi.y;
    const Eigen::Index n = 16, currents = Eigen::Index(psi.y.size());
    grid.coenergy = grid.linkage = grid.torque = Eigen::MatrixXd(currents, n);
    for (Eigen::Index j = 0; j < n; ++j) {
        grid.angle.push_back(psi.x[std::size_t(j)] * pi / 180);
        for (Eigen::Index k = 0; k < currents; ++k) {
            const auto row = std::size_t(k), column = std::size_t(j);
            grid.linkage(k, j) = psi.z[row][column];
            grid.coenergy(k, j) = w.z[row][column];
            grid.torque(k, j) = t.z[row][column];
        }
    }
    const LinkageMap map(grid);
    const double step = 1e-6;
    for (const double angle : {-0.35, -0.2, -0.11, 0.07, 0.3})
        for (const double current : {3.0, 17.0, 44.0, 71.0}) {
            const auto p = map.at(angle, current);
            within((map.at(angle, current + step).coenergy - map.at(angle, current - step).coenergy) /
                       (2 * step),
                   p.linkage, 1e-6, "linkage");
            within((map.at(angle + step, current).coenergy - map.at(angle - step, current).coenergy) /
                       (2 * step),
                   p.torque, 1e-5, "torque");
            within(map.current_of(angle, p.linkage), current, 1e-9, "current");
            within(map.at(angle + grid.period, current).torque, p.torque, 1e-9, "period");
        }
    // At the solved places the coenergy's slope is the gap's torque and the phase's linkage.
    within(map.at(grid.angle[6], grid.current[9]).torque, grid.torque(9, 6), 1e-9, "torque at a place");
}

void TestReluctance::strokes_data() {
    QTest::addColumn<int>("machine");
    QTest::addColumn<int>("stroke");
    for (int m = 0; m < int(m_all["machines"].size()); ++m)
        for (int k = 0; k < int(m_all["machines"][std::size_t(m)]["circuit"].size()); ++k) {
            const auto& name = m_all["machines"][std::size_t(m)]["circuit"][std::size_t(k)]["inputs"]["name"];
            // Every case of the smallest machine; of the others a pulse, and by night a chopped current.
            if (m == 0 || name == "single" || (name == "hard" && by_night()))
                QTest::addRow("%s %s", m_all["machines"][std::size_t(m)]["name"].get<std::string>().c_str(),
                              name.get<std::string>().c_str())
                    << m << k;
        }
}

void TestReluctance::strokes() {
    QFETCH(int, machine);
    QFETCH(int, stroke);
    const auto& m = m_all["machines"][std::size_t(machine)];
    const auto &in = m["circuit"][std::size_t(stroke)]["inputs"],
               &out = m["circuit"][std::size_t(stroke)]["results"];
    Ask ask = ask_of(m_all, m, in["material"] == "linear");
    ask.with = {{"speed", fmt::format("{} rpm", in["rpm"].get<double>())},
                {"dc_voltage", fmt::format("{} V", in["V"].get<double>())},
                {"turn_on", fmt::format("{} deg", in["on_deg"].get<double>())},
                {"turn_off", fmt::format("{} deg", in["off_deg"].get<double>())},
                {"mode", in["mode"]},
                {"resistance", fmt::format("{} Ohm", in["R"].get<double>())},
                {"iron_points", "0"}};
    if (in.contains("i_hi")) {
        ask.with["chop_current"] =
            fmt::format("{} A", (in["i_hi"].get<double>() + in["i_lo"].get<double>()) / 2);
        ask.with["band"] = fmt::format("{:.9g} A", in["i_hi"].get<double>() - in["i_lo"].get<double>());
    }
    // The map is kept between the cases of a machine.
    static QTemporaryDir folder;
    Run run;
    run.points = PointStore(folder.path().toStdString());
    const Answer answer = answer_of(ask, "strokes", run);
    const auto figure = [&](const char* name) { return *answer.figure(name); };
    within(figure("torque_mean"), out["torque_mean"], 0.004, "torque");
    within(figure("current_rms"), out["current_rms"], 0.004, "rms current");
    within(figure("current_peak"), out["current_peak"], 0.005, "peak");
    within(figure("energy_a_stroke"), out["energy_loop_J"], 0.004, "loop");
    within(figure("dc_current_mean"), out["dc_current_mean"], 0.004, "link current");
    QVERIFY(std::abs(figure("extinction_angle") - out["extinction_angle"].get<double>() * 180 / pi) < 0.15);
    const double strokes = m["inputs"]["Nr"].get<double>() * m["inputs"]["phases"].get<double>();
    within(figure("energy_a_stroke") * strokes / (2 * pi), figure("torque_mean"), 0.002, "loop times strokes");
    QVERIFY(std::abs(figure("power_unaccounted")) < 0.002);
}

/// On the fields: power is accounted for, loops give the torque, and the map alone is near.
void TestReluctance::fullStrokes() {
    Ask ask = ask_of(m_all, m_all["machines"][2]);
    ask.quality = Quality::Draft;
    ask.with = {{"speed", "700 rpm"},     {"dc_voltage", "120 V"},    {"turn_on", "-19 deg"},
                {"turn_off", "-4.5 deg"}, {"mode", "hard"},           {"chop_current", "50 A"},
                {"band", "4 A"},          {"resistance", "0.12 Ohm"}, {"iron_points", "0"},
                {"method", "field"}};
    const Answer full = answer_of(ask, "strokes");
    QVERIFY2(std::abs(*full.figure("power_unaccounted")) < 0.01, // 96 steps a period, on a draft mesh
             qPrintable(QString::number(*full.figure("power_unaccounted"))));
    within(*full.figure("torque_mean_by_map"), *full.figure("torque_mean"), 0.03, "map against fields");
    // Phases do the same one after the other: this winding is the same for each.
    const Curve &u = *full.curve("current_u"), &v = *full.curve("current_v");
    const auto peak = [](const Curve& c) { return *std::max_element(c.y.begin(), c.y.end()); };
    within(peak(v), peak(u), 0.02, "phases alike"); // as near as the rounds of a stretch bring them
    within(*full.figure("energy_a_stroke") * 24 / (2 * pi), *full.figure("torque_mean"), 0.01, "loops");
}

/// The pull on a tooth of the first phase: from a part of the period as from the whole, by map as on fields.
void TestReluctance::toothPull() {
    Ask ask = ask_of(m_all, m_all["machines"][2]);
    ask.quality = Quality::Draft;
    set_lossy_steel(ask);
    ask.with = {{"speed", "700 rpm"},      {"dc_voltage", "120 V"}, {"turn_on", "-19 deg"},
                {"turn_off", "-4.5 deg"},  {"mode", "hard"},        {"chop_current", "50 A"},
                {"resistance", "0.12 Ohm"}};
    const auto with_points = [&](const char* points) {
        Ask one = ask;
        one.with["iron_points"] = points;
        return answer_of(one, "strokes");
    };
    // 145 positions cannot be parted among the phases: every one is solved.
    const Answer part = with_points("144"), whole = with_points("145");
    const auto pull = [](const Answer& a) { return a.curve("tooth_force_radial")->y; };
    const double most = *part.figure("tooth_force_peak");
    QVERIFY(most > 0);
    for (std::size_t k = 0; k < pull(part).size(); ++k)
        QVERIFY2(std::abs(pull(part)[k] - pull(whole)[k]) < 0.04 * most,
                 qPrintable(QString::number(pull(part)[k] - pull(whole)[k])));
    // It is there while the phase carries current, and nearly gone half a period later.
    const Curve& current = *part.curve("current_u");
    const auto at = std::size_t(std::max_element(current.y.begin(), current.y.end()) - current.y.begin());
    QVERIFY(pull(part)[at] > 0.2 * most);
    // Its mean and its waves give it back: a spectrum's first entry is the mean.
    double mean = 0;
    for (std::size_t k = 1; k < pull(part).size(); ++k) mean += pull(part)[k] / double(pull(part).size() - 1);
    within(part.curve("tooth_force_radial_spectrum")->y[0], mean, 1e-3, "mean pull");
    // On the fields, with the phases' own currents, it is near; so is the iron's loss.
    ask.with["method"] = "field";
    const Answer full = answer_of(ask, "strokes");
    within(*full.figure("tooth_force_peak"), most, 0.1, "pull on the fields");
    QVERIFY(*part.figure("iron_loss_stator") > 0);
    within(*full.figure("iron_loss_stator"), *part.figure("iron_loss_stator"), 0.15, "iron");
    // Without fields for it there is none, and none is invented.
    ask.with["method"] = "map";
    QVERIFY(!with_points("0").figure("tooth_force_peak"));
}

/// Envelope and efficiency: the points keep their torque and limits, more current gives more, least loss loses
/// least.
void TestReluctance::planning() {
    Ask ask = ask_of(m_all, m_all["machines"][0]);
    ask.quality = Quality::Draft;
    ask.design.texts["rating.dc_voltage"] = "300 V";
    ask.design.texts["rating.max_speed"] = "4000 rpm";
    set_lossy_steel(ask);
    ask.with = {{"speeds", "500, 2000, 4000 rpm"},
                {"torques", "1, 3 N.m"},
                {"quadrants", "motor"},
                {"max_current", "12 A"},
                {"map_positions", "16"}};
    const Answer loss = answer_of(ask, "efficiency-map");
    const Map &peak = *loss.map("current_peak"), &total = *loss.map("loss_total"),
              &copper = *loss.map("loss_copper"), &off = *loss.map("turn_off"), &on = *loss.map("turn_on"),
              &efficiency = *loss.map("efficiency");
    for (std::size_t j = 0; j < 2; ++j)
        for (std::size_t i = 0; i < 3; ++i) {
            if (std::isnan(total.z[j][i])) continue;
            QVERIFY(peak.z[j][i] < 12.1 && off.z[j][i] > on.z[j][i]);
            const double power = peak.y[j] * peak.x[i] * pi / 30;
            // Copper comes from the terminals, all else from the torque.
            const double braking = total.z[j][i] - copper.z[j][i];
            within((power - braking) / (power + copper.z[j][i]), efficiency.z[j][i], 0.02, "efficiency");
        }
    QVERIFY(!std::isnan(total.z[1][0]));
    ask.with["aim"] = "least-ripple";
    const Answer ripple = answer_of(ask, "efficiency-map");
    QVERIFY(ripple.map("torque_ripple")->z[0][0] <= loss.map("torque_ripple")->z[0][0] * 1.001);
    QVERIFY(ripple.map("loss_total")->z[0][0] >= total.z[0][0] * 0.999);
    const Curve& envelope = *loss.curve("envelope");
    QVERIFY(envelope.y[0] > envelope.y[2]);
}

void TestReluctance::badInput_data() {
    QTest::addColumn<QString>("question");
    QTest::addColumn<QString>("key");
    QTest::addColumn<QString>("value");
    QTest::addColumn<QString>("says");
    QTest::newRow("order") << "strokes"
                           << "turn_off"
                           << "-80 deg"
                           << "is on for";
    QTest::newRow("still") << "strokes"
                           << "speed"
                           << "0 rpm"
                           << "above zero";
    QTest::newRow("voltage") << "strokes"
                             << "dc_voltage"
                             << "0 V"
                             << "voltage above zero";
    QTest::newRow("band") << "strokes"
                          << "band"
                          << "0 A"
                          << "band must be";
    QTest::newRow("far beyond") << "strokes"
                                << "turn_on"
                                << "-44 deg"
                                << "far beyond";
    QTest::newRow("dq") << "flux-map"
                        << ""
                        << ""
                        << "switched by position";
    QTest::newRow("currents") << "linkage-curves"
                              << "currents"
                              << "0, 5 A"
                              << "above zero";
    QTest::newRow("supply") << "in-time"
                            << "supply"
                            << "six-step"
                            << "supply=own";
    QTest::newRow("no circuit") << "in-time"
                                << "supply"
                                << "own"
                                << "no circuit of its own";
}

void TestReluctance::badInput() {
    QFETCH(QString, question);
    QFETCH(QString, key);
    QFETCH(QString, value);
    QFETCH(QString, says);
    Ask ask = ask_of(m_all, m_all["machines"][0]);
    ask.quality = Quality::Draft;
    if (question == "strokes") ask.with = {{"mode", "hard"}, {"turn_on", "-36 deg"}, {"turn_off", "-10 deg"}};
    if (key == "turn_on")
        ask.with = {{"mode", "single"}, {"speed", "200 rpm"}, {"turn_off", "0 deg"}, {"dc_voltage", "600 V"}};
    if (!key.isEmpty()) ask.with[key.toStdString()] = value.toStdString();
    const auto answer = ask_question(question.toStdString(), ask);
    QVERIFY(!answer);
    QVERIFY2(QString::fromStdString(answer.problems().front().sentence).contains(says),
             answer.problems().front().sentence.c_str());
}

/// The half-bridges written as a netlist of the design's own do what the question does by itself.
void TestReluctance::ownCircuitAsHalfBridge() {
    Ask ask = ask_of(m_all, m_all["machines"][0]);
    ask.quality = Quality::Draft;
    set_lossy_steel(ask);
    ask.with = {{"speed", "3000 rpm"},   {"dc_voltage", "300 V"},    {"turn_on", "-36 deg"},
                {"turn_off", "-14 deg"}, {"resistance", "0.85 Ohm"}, {"iron_points", "0"}};
    const Answer half_bridge = answer_of(ask, "strokes");
    // Four rotor poles: electrical angles are four times the mechanical ones; phases follow by their lags.
    const auto machine = build_machine(ask.design, ask.materials);
    QVERIFY(bool(machine));
    std::string text = "VDC link 0 300\n.model sm sw(vt=0.5 ron=1u)\n.model dm d(ron=1u)\n";
    for (int k = 0; k < 3; ++k) {
        const double lag = machine->winding.layout.lags[std::size_t(k)] * 180 / pi;
        text +=
            fmt::format("VG{0} g{0} 0 angle(0 1 {1} {2})\nSH{0} link a{0} g{0} 0 sm\nSL{0} b{0} 0 g{0} 0 sm\n"
                        "DH{0} b{0} link dm\nDL{0} 0 a{0} dm\nX{0} a{0} b{0} phase_{0} 0.85\n",
                        k + 1, lag - 144, lag - 56);
    }
    ask.design.circuits["bridges"] = text;
    ask.with = {{"supply", "own"}, {"circuit", "bridges"}, {"speed", "3000 rpm"}, {"end_inductance", "0"}};
    const Answer own = answer_of(ask, "in-time");
    for (const char* name : {"torque_mean", "current_rms", "current_peak", "input_power"})
        within(*own.figure(name), *half_bridge.figure(name), 0.002, name);
    QVERIFY(std::abs(*own.figure("power_unaccounted")) < 0.003);
    // On the fields likewise, with what phases link of each other.
    ask.with["method"] = "field";
    const Answer own_full = answer_of(ask, "in-time");
    ask.with = {{"speed", "3000 rpm"},   {"dc_voltage", "300 V"},    {"turn_on", "-36 deg"},
                {"turn_off", "-14 deg"}, {"resistance", "0.85 Ohm"}, {"method", "field"}};
    const Answer full = answer_of(ask, "strokes");
    for (const char* name : {"torque_mean", "current_rms", "input_power"})
        within(*own_full.figure(name), *full.figure(name), 0.01, name);
    QVERIFY(*full.figure("iron_loss_stator") > 0);
    within(*own_full.figure("iron_loss_stator"), *full.figure("iron_loss_stator"), 0.03, "iron");
    QVERIFY(std::abs(*own_full.figure("power_unaccounted")) < 0.01);
}

MAVLO_TEST(reluctance, TestReluctance, EventLoop)
#include "test_reluctance.moc"
