// Conductors in the gap of a round machine: against the series of the slotless field, and in questions.

#include "asked.h"
#include "night.h"
#include "support.h"
#include "test_program.h"

#include <cmath>
#include <numbers>

using namespace mavlo;

namespace {

constexpr double pi = std::numbers::pi;
constexpr double thickness = 0.6e-3, side = 8 * pi / 180, span = 26 * pi / 180, turns = 12, length = 0.05;

std::string mm(double metres) {
    return QString::number(metres * 1e3, 'g', 12).toStdString() + " mm";
}

/// Nine coils before six poles, as many as three in each phase, all in phase.
Design smooth_with_coils(const nlohmann::json& g, const std::string& distance = "0 mm") {
    return design_of(
        {{"gap", mm(g["R_stator_bore"].get<double>() - g["R_magnet"].get<double>() - thickness)},
         {"stator.outer_diameter", mm(2 * g["R_stator_outer"].get<double>())},
         {"stator.bore_diameter", mm(2 * (g["R_stator_bore"].get<double>() - thickness))},
         {"machine.stack_length", mm(length)},
         {"stator.slots", "9"},
         {"stator.slot.kind", "gap-winding"},
         {"stator.steel", "linear(inf)"},
         {"rotor.steel", "linear(inf)"},
         {"stator.stacking_factor", "1"},
         {"rotor.stacking_factor", "1"},
         {"rotor.poles", "6"},
         {"rotor.magnet.thickness", mm(g["R_magnet"].get<double>() - g["R_rotor_iron"].get<double>())},
         {"rotor.magnet.arc", "0.8"},
         {"rotor.magnet.magnetisation", "parallel"},
         {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
         {"rotor.shaft_diameter", "0 mm"},
         {"winding.layers", "2"},
         {"winding.span", "1"},
         {"winding.turns", "12"},
         {"winding.side_thickness", mm(thickness)},
         {"winding.side_angle", "8 deg"},
         {"winding.coil_span", "26 deg"},
         {"winding.side_distance", distance}});
}

/// r (r^(n-1) + R^(2n) r^(-n-1)) / n, integrated over the area between two radii and divided by it: the
/// potential where no radial component leaves the iron's circle R along it (Zhu, Howe, Bolte, Ackermann 1993).
double mean_potential(double n, double stator, double from, double to) {
    const auto primitive = [&](double r) {
        return std::pow(r, n + 2) / (n + 2) - std::pow(stator, 2 * n) * std::pow(r, 2 - n) / (n - 2); // n > 2
    };
    return (primitive(to) - primitive(from)) / n / ((to * to - from * from) / 2);
}

} // namespace

class TestGapWinding : public QObject {
    Q_OBJECT

    /// Of the case with parallel magnets and ideal iron.
    static nlohmann::json parallel_magnets(const nlohmann::json& data) {
        for (const auto& c : data["cases"])
            if (c["magnetisation"] == "parallel" && !c["mu_iron"].is_number()) return c;
        qFatal("no such case");
    }

  private Q_SLOTS:
    void its_linkage_follows_the_series() {
        const auto data = reference("slotless_pm.json");
        const auto& g = data["geometry"];
        const double n = 3, stator = g["R_stator_bore"], face = g["R_magnet"], middle = (stator + face) / 2;
        const double b = parallel_magnets(data)["harmonics"][0]["Br_mid"];
        const double at_middle = std::pow(middle, n - 1) + std::pow(stator, 2 * n) * std::pow(middle, -n - 1);
        const double potential = b / at_middle * mean_potential(n, stator, stator - thickness, stator);
        const double wanted = 3 * turns * length * 2 * std::sin(n * span / 2) * potential *
                              std::sin(n * side / 2) / (n * side / 2);
        const Answer answer = asked(smooth_with_coils(g), "no-load", {{"points", "24"}}, Quality::Normal);
        const double found = of(answer, "flux_linkage_peak");
        qInfo("%.6g Wb, series %.6g Wb", found, wanted);
        CLOSE(found, wanted, 1e-3 * wanted);
        const Answer idle = asked(smooth_with_coils(g), "cogging", {}, Quality::Normal);
        CLOSE(of(idle, "cogging_peak_to_peak"), 0, 1e-4); // what the mesh leaves
    }

    void torque_is_current_times_linkage() {
        const auto data = reference("slotless_pm.json");
        const Design design = smooth_with_coils(data["geometry"]);
        const double linkage = of(asked(design, "no-load", {{"points", "24"}}), "flux_linkage_peak");
        const Answer loaded =
            asked(design, "load", {{"current", "5 A"}, {"advance", "0 deg"}, {"points", "24"}});
        CLOSE(of(loaded, "torque_mean"), 1.5 * 3 * linkage * 5, 5e-3 * of(loaded, "torque_mean"));
    }

    void room_behind_the_conductors_moves_the_iron() {
        const auto data = reference("slotless_pm.json");
        const auto linkage = [&](const char* distance) {
            return of(asked(smooth_with_coils(data["geometry"], distance), "no-load", {{"points", "24"}}),
                      "flux_linkage_peak");
        };
        const double near = linkage("0 mm"), far = linkage("0.2 mm");
        QVERIFY(far < 0.98 * near && far > 0.7 * near);
    }

    void it_stands_inside_and_outside() {
        Design outer = design_of({{"machine.topology", "outer-rotor"}, {"stator.slot.kind", "gap-winding"}});
        const Answer answer = asked(outer, "load", {{"points", "24"}});
        QVERIFY(std::abs(of(answer, "torque_mean")) > 0.01);
    }

    void it_answers_or_says_why_not_data() {
        QTest::addColumn<QString>("question");
        for (const char* question :
             {"heat", "eccentricity", "inductances", "winding", "in-time", "demagnetisation"})
            if (by_night() || std::string_view(question).ends_with("ation") || question[0] == 'e' ||
                question[0] == 'h')
                QTest::newRow(question) << question;
    }
    void it_answers_or_says_why_not() {
        QFETCH(QString, question);
        Ask ask;
        ask.design = design_of({{"stator.slot.kind", "gap-winding"}});
        ask.quality = Quality::Draft;
        const auto answer = ask_question(question.toStdString(), ask);
        if (!answer) QFAIL(to_string(answer.problems().front()).c_str());
        QVERIFY(!answer->sentence.empty());
    }
};
MAVLO_TEST(gap_winding, TestGapWinding, Nothing)
#include "test_gap_winding.moc"
