// How much of the plane of currents a machine needs: poles that are no mirror images, magnets on poles that
// stand out, currents round a delta.

#include "project/project.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/delta_round.h"
#include "support.h"
#include "test_program.h"

#include <cmath>

using namespace mavlo;

namespace {

/// Buried magnets with a hole on one side of each pole.
Design lopsided() {
    Design design = new_project("bar")->variants.front().design;
    FreeShape hole;
    hole.name = "hole";
    hole.mirrored = false;
    hole.x = "59 mm";
    hole.y = "14 mm";
    hole.radius = "2 mm";
    design.shapes.push_back(hole);
    return design;
}

std::string amperes(double value) {
    return std::to_string(value) + " A";
}

} // namespace

class TestPlane : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_lopsided_pole_is_no_mirror_image() {
        const Design design = lopsided();
        QVERIFY(!machine_of(design).symmetry.mirrored);
        const Answer map =
            asked(design, "flux-map", {{"id", "-20, 0 A"}, {"iq", "-40, 0, 40 A"}, {"points", "36"}});
        const Map& torque = *map.map("torque");
        QCOMPARE(torque.z.size(), 3U);
        const double up = torque.z[2][0], down = torque.z[0][0];
        qInfo("torque %.4f N.m at +40 A along q, %.4f N.m at -40 A", up, down);
        QVERIFY(std::abs(up + down) > 2e-3 * up);
        const double current = std::hypot(20.0, 40.0);
        for (const auto& [iq, mapped] : {std::pair{40.0, up}, {-40.0, down}}) {
            const double advance = std::atan2(20.0, iq) * 180 / pi;
            const Answer load = asked(design, "load",
                                      {{"current", amperes(current)},
                                       {"advance", std::to_string(advance) + " deg"},
                                       {"points", "36"}});
            CLOSE(of(load, "torque_mean") / mapped, 1, 5e-3);
        }
        // A list from 0 on would be mirrored.
        Ask half;
        half.design = design;
        half.with = {{"id", "-20, 0 A"}, {"iq", "0, 40 A"}};
        QVERIFY(!ask_question("flux-map", half));
        // As a generator its current is found as such.
        const Answer brake = asked(design, "current-for-torque", {{"torque", "-40 N.m"}});
        const Answer check = asked(design, "load",
                                   {{"current", amperes(of(brake, "current"))},
                                    {"advance", std::to_string(of(brake, "advance")) + " deg"}});
        CLOSE(of(check, "torque_mean"), -40, 0.2);
    }
    /// Weak magnets on salient poles: L_d > L_q, the best current magnetises.
    void magnets_on_poles_that_stand_out() {
        Design design = new_project("reluctance-salient")->variants.front().design;
        FreeShape magnet;
        magnet.name = "magnet";
        magnet.use = Use::Magnet;
        magnet.x = "46 mm";
        magnet.y = "0 mm";
        magnet.radius = "3 mm";
        magnet.mirrored = true;
        magnet.material = "magnet(0.3 T, 1.05)";
        design.shapes.push_back(magnet);
        QVERIFY(machine_of(design).facts().magnets);
        const std::map<std::string, std::string> range{{"map_steps", "4"}, {"dc_voltage", "2000 V"}};
        auto with = range;
        with["torque"] = "30 N.m";
        const Answer point = asked(design, "working-point", with);
        QVERIFY(of(point, "id") > 0);
        const Answer best = asked(design, "current-for-torque", {{"torque", "30 N.m"}});
        CLOSE(of(point, "current") / of(best, "current"), 1, 0.03);
    }
    void a_current_round_a_delta() {
        constexpr double linkage = 0.02, resistance = 0.5, inductance = 2e-3, omega = 400;
        PeriodSeries series;
        series.flux_linkage.resize(3);
        for (int i = 0; i < 72; ++i) {
            const double angle = 2 * pi * i / 72;
            series.torque.push_back(0);
            for (int k = 0; k < 3; ++k)
                series.flux_linkage[std::size_t(k)].push_back(std::cos(angle - 2 * pi * k / 3) +
                                                              linkage * std::cos(3 * angle));
        }
        const DeltaRound round = delta_round(series, resistance, inductance, omega);
        const double peak = 3 * omega * linkage / std::hypot(resistance, 3 * omega * inductance);
        CLOSE(round.current, peak / std::sqrt(2.0), 1e-9 * peak);
        CLOSE(round.loss, 1.5 * resistance * peak * peak, 1e-9);
    }
    /// With currents given the delta's own is found by harmonics; on a voltage the circuit finds it in time.
    void a_delta_loses_alike_given_and_driven() {
        Design design = new_project("surface-distributed")->variants.front().design;
        design.texts["winding.connection"] = "delta";
        const Answer driven = asked(design, "in-time", {{"supply", "sine-voltage"}, {"points", "240"}});
        const double id = of(driven, "id"), iq = of(driven, "iq");
        const Answer given = asked(design, "load",
                                   {{"current", amperes(std::hypot(id, iq))},
                                    {"advance", std::to_string(std::atan2(-id, iq) * 180 / pi) + " deg"}});
        qInfo("round the delta %.4f A, %.4f W; copper %.4f W given, %.4f W driven", of(given, "delta_current"),
              of(given, "delta_loss"), of(given, "copper_loss_dc"), of(driven, "copper_loss"));
        QVERIFY(of(given, "delta_loss") > 0.002 * of(given, "copper_loss_dc"));
        CLOSE(of(given, "copper_loss_dc") / of(driven, "copper_loss"), 1, 0.03);
    }
};
MAVLO_TEST(plane, TestPlane, Nothing)
#include "test_plane.moc"
