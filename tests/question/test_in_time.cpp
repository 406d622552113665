// The question on supplies in time, with a map of constant inductances brought along, and on a machine's own.

#include "project/project.h"
#include "question/question.h"
#include "support.h"

#include <fmt/format.h>
#include <numbers>

using namespace mavlo;

namespace {

constexpr double pi = std::numbers::pi;

/// psi_d = psi + L_d i_d, psi_q = L_q i_q, with the torque that follows.
std::shared_ptr<const FluxMap> linear_map(const nlohmann::json& machine, double most) {
    const double ld = machine["Ld"], lq = machine["Lq"], psi = machine["psi"], p = machine["pole_pairs"];
    std::vector<double> id, iq;
    std::vector<FluxPoint> points;
    for (int k = -4; k <= 4; ++k) id.push_back(most * k / 4);
    for (int k = 0; k <= 4; ++k) iq.push_back(most * k / 4);
    for (double q : iq)
        for (double d : id) {
            FluxPoint point;
            point.current = {d, q};
            point.flux_linkage = {psi + ld * d, lq * q};
            point.torque = 1.5 * p * (point.flux_linkage.d * q - point.flux_linkage.q * d);
            points.push_back(point);
        }
    return std::make_shared<FluxMap>(id, iq, points);
}

Result<Answer> asked(const Design& design, std::map<std::string, std::string> with,
                     std::shared_ptr<const FluxMap> map = {}) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = Quality::Draft;
    Run run;
    run.map = std::move(map);
    return ask_question("in-time", ask, run);
}

/// A machine with these pole pairs; its fields are not asked for.
Design with_poles(int pairs) {
    Design design = new_project("surface")->variants.front().design;
    design.texts["rotor.poles"] = std::to_string(2 * pairs);
    design.texts["stator.slots"] = "12";
    design.texts["winding.span"] = "auto";
    return design;
}

} // namespace

class TestInTime : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void answers_match_the_reference_data() {
        QTest::addColumn<int>("number");
        const auto data = reference("drive.json");
        int n = 0;
        for (const auto& c : data["cases"]) {
            if (c["machine"]["emf"] == "sine" && c["drive"]["kind"] != "hysteresis")
                QTest::newRow(c["id"].get<std::string>().c_str()) << n;
            ++n;
        }
    }
    void answers_match_the_reference() {
        QFETCH(int, number);
        const auto data = reference("drive.json");
        const nlohmann::json c = data["cases"][std::size_t(number)];
        const auto &machine = c["machine"], &drive = c["drive"], &bridge = c["bridge"];
        const std::string kind = drive["kind"];
        std::map<std::string, std::string> with{
            {"speed", fmt::format("{} rpm", machine["speed_rpm"].get<double>())},
            {"resistance", fmt::format("{} Ohm", machine["R"].get<double>())},
            {"supply", kind == "sine"             ? "sine-voltage"
                       : kind == "six180"         ? "six-step"
                       : drive["svm"].get<bool>() ? "space-vector"
                                                  : "sine-triangle"},
            {"voltage_angle", fmt::format("{} deg", drive["delta_deg"].get<double>())}};
        if (kind == "sine") with["voltage"] = fmt::format("{} V", drive["V"].get<double>());
        if (kind == "pwm") {
            with["carrier_frequency"] = fmt::format("{} Hz", drive["fc"].get<double>());
            with["modulation"] = fmt::format("{}", drive["M"].get<double>());
            with["sampling"] = drive["sampling"] == "natural" ? "natural" : "regular";
        }
        if (!bridge.is_null()) {
            with["dc_voltage"] = fmt::format("{} V", bridge["Vdc"].get<double>());
            with["switch_drop"] = fmt::format("{} V", bridge["V_switch"].get<double>());
            with["diode_drop"] = fmt::format("{} V", bridge["V_diode"].get<double>());
            with["switch_resistance"] = fmt::format("{} Ohm", bridge["R_switch"].get<double>());
            with["diode_resistance"] = fmt::format("{} Ohm", bridge["R_diode"].get<double>());
        }
        const auto& wanted = c["steady"];
        const auto answer = asked(with_poles(machine["pole_pairs"]), with,
                                  linear_map(machine, 1.2 * wanted["current"]["peak_U"].get<double>()));
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        CLOSE(*answer->figure("torque_mean") / wanted["torque"]["mean"].get<double>(), 1, 5e-3);
        CLOSE(*answer->figure("current_rms") / wanted["current"]["rms_U"].get<double>(), 1, 5e-3);
        if (!bridge.is_null())
            CLOSE(*answer->figure("dc_current_mean") / wanted["dc_link"]["current_mean"].get<double>(), 1,
                  5e-3);
        CLOSE(*answer->figure("voltage_line_rms") / wanted["line_voltage_UV"]["rms"].get<double>(), 1, 5e-3);
        const Curve* spectrum = answer->curve("current_u_spectrum");
        QVERIFY(spectrum);
        const auto amplitudes = wanted["current"]["harmonics_U"]["amplitude"];
        for (std::size_t k = 1; k <= 13; ++k)
            CLOSE(spectrum->y[k], amplitudes[k].get<double>(), 0.01 * amplitudes[1].get<double>());
    }
    void a_machine_on_its_own_map() {
        // Current-fed and voltage-fed runs of one point agree: the voltage that load asks for drives that
        // current.
        Design design = new_project("vee")->variants.front().design;
        Ask ask;
        ask.design = design;
        ask.quality = Quality::Draft;
        ask.with = {{"points", "24"}};
        const auto load = ask_question("load", ask);
        QVERIFY(bool(load));
        const Machine m = machine_of(design);
        const double omega = m.pole_pairs() * m.rating.speed, r = *load->figure("phase_resistance"),
                     psi_d = *load->figure("flux_linkage_d"), psi_q = *load->figure("flux_linkage_q");
        const Dq i = current_vector(m.rating.current, m.rating.advance);
        const double vd = r * i.d - omega * psi_q, vq = r * i.q + omega * psi_d;
        const auto run =
            asked(design, {{"voltage", fmt::format("{} V", std::hypot(vd, vq))},
                           {"voltage_angle", fmt::format("{} deg", std::atan2(-vd, vq) * 180 / pi)}});
        if (!run) QFAIL(to_string(run.problems().front()).c_str());
        CLOSE(*run->figure("torque_mean") / *load->figure("torque_mean"), 1, 0.01);
        CLOSE(*run->figure("current_fundamental") / m.rating.current, 1, 0.01);
        CLOSE(*run->figure("iq") / i.q, 1, 0.02);
        // What comes in is copper and the shaft's.
        CLOSE((*run->figure("input_power") - 1.5 * r * std::pow(*run->figure("current_fundamental"), 2)) /
                  *run->figure("mechanical_power"),
              1, 5e-3);
        QVERIFY(!run->figure("dc_current_mean")); // no bridge
    }
    void wrong_inputs_get_a_sentence() {
        const Design design = new_project("surface")->variants.front().design;
        const auto map = linear_map(reference("drive.json")["cases"][0]["machine"], 20);
        const std::map<std::string, std::string> wrong[] = {
            {{"supply", "hysteresis"}, {"band", "0 A"}},
            {{"supply", "space-vector"}, {"carrier_frequency", "0 Hz"}},
            {{"supply", "blocks"}, {"chop_current", "5 A"}},
            {{"supply", "sine-voltage"}, {"voltage", "0 V"}},
            {{"supply", "six-step"}, {"speed", "0 rpm"}},
            {{"supply", "nothing"}}};
        for (const auto& with : wrong) {
            const auto answer = asked(design, with, map);
            QVERIFY2(!answer && answer.problems().front().sentence.size() > 15, with.begin()->second.c_str());
        }
        Design delta = design;
        delta.texts["winding.connection"] = "delta";
        QVERIFY(!asked(delta, {}, map));
        Design five = new_project("surface-distributed")->variants.front().design;
        five.texts["winding.phases"] = "5";
        five.texts["stator.slots"] = "40";
        five.texts["rotor.poles"] = "4";
        five.texts["winding.span"] = "auto";
        QVERIFY(!asked(five, {}, map));
    }
};
QTEST_APPLESS_MAIN(TestInTime)
#include "test_in_time.moc"
