// Axial machines whose two gaps differ: against series, the mirrored half, and virtual work.

#include "asked.h"
#include "figure/gap_stress.h"
#include "figure/machine_model.h"
#include "machine/axial.h"
#include "machine/discs.h"
#include "night.h"
#include "support.h"
#include "test_program.h"

#include <algorithm>
#include <cmath>
#include <numbers>

using namespace mavlo;

namespace {

constexpr double pi = std::numbers::pi;

std::string mm(double metres) {
    return QString::number(metres * 1e3, 'g', 12).toStdString() + " mm";
}

constexpr double magnet = 8e-3, layer = 1.5e-3, mu_r = 1.05;

/// Two smooth stators of ideal iron with a layer of conductors each, and magnets alone between them; the room
/// between these has their permeability.
Design between_stators(double gap, double second) {
    return design_of({{"machine.topology", "axial-two-stators"},
                      {"rotor.core", "none"},
                      {"stator.steel", "linear(inf)"},
                      {"stator.stacking_factor", "1"},
                      {"stator.slot.kind", "gap-winding"},
                      {"winding.side_thickness", mm(layer)},
                      {"winding.sharing", "stacked"},
                      {"rotor.magnet.grade", "magnet(1.2 T, 1.05)"},
                      {"rotor.magnet.between", "linear(1.05)"},
                      {"rotor.magnet.magnetisation", "parallel"},
                      {"rotor.magnet.thickness", mm(magnet)},
                      {"machine.inner_diameter", "100 mm"},
                      {"machine.outer_diameter", "160 mm"},
                      {"machine.slices", "1"},
                      {"gap", mm(gap)},
                      {"gap.second", mm(second)}});
}

/// Scalar potential a sinh(u (y + g2)) in the lower gap, b sinh(u (h + g1 - y)) in the upper, P cosh + Q sinh
/// in the magnet; continuous with the normal flux density at both faces (J.R. Melcher, Continuum
/// Electromechanics, 1981, sec. 2.16). The sum of what a layer on each iron sees on average, over B_r.
double seen_by_both_layers(double u, double g1, double g2) {
    const double c = std::cosh(u * magnet), s = std::sinh(u * magnet), s1 = std::sinh(u * g1),
                 c1 = std::cosh(u * g1), s2 = std::sinh(u * g2), c2 = std::cosh(u * g2), coth = c1 / s1;
    const double a =
        (1 - c - s * coth / mu_r) / (s2 * c * coth + c2 * s * coth / mu_r + mu_r * s2 * s + c2 * c);
    const double p = a * s2, q = (1 + a * c2) / mu_r, b = (p * c + q * s) / s1;
    return (b - a) * std::sinh(u * layer) / (u * layer);
}

FieldSolution at_rest(const MachineModel& model, double angle, const PortValues& currents) {
    auto field = FieldSolver(std::shared_ptr<const MachineModel>(&model, [](auto*) {})).solve(angle, currents);
    if (!field) qFatal("no field");
    return std::move(*field);
}

std::shared_ptr<const MachineModel> model_of(const Design& design, Quality quality = Quality::Normal) {
    auto model = prepare_field(machine_of(design), {quality});
    if (!model) qFatal("%s", to_string(model.problems().front()).c_str());
    return *model;
}

Design slotted(const std::string& topology, const std::string& core, double gap, double second) {
    Design design = design_of({{"machine.topology", topology},
                               {"stator.slot.kind", core == "teeth" ? "between-teeth" : "parallel-slot"},
                               {"machine.slices", "1"},
                               {"gap", mm(gap)},
                               {"gap.second", mm(second)}});
    design.texts[topology == "axial-two-rotors" ? "stator.core" : "rotor.core"] = core;
    return design;
}

} // namespace

class TestUnequalGaps : public QObject {
    Q_OBJECT

    static void each_machine() {
        QTest::addColumn<QString>("topology");
        QTest::addColumn<QString>("core");
        if (by_night())
            QTest::newRow("magnets alone") << "axial-two-stators"
                                           << "none";
        QTest::newRow("iron disc") << "axial-two-stators"
                                   << "iron";
        QTest::newRow("teeth") << "axial-two-rotors"
                               << "teeth";
        if (by_night())
            QTest::newRow("yoke") << "axial-two-rotors"
                                  << "yoke";
    }

  private Q_SLOTS:
    void magnets_between_two_gaps_follow_the_series_data() {
        QTest::addColumn<double>("gap");
        QTest::addColumn<double>("second");
        QTest::newRow("1 and 2 mm") << 1e-3 << 2e-3;
        QTest::newRow("3 and 0.5 mm") << 3e-3 << 0.5e-3;
    }
    void magnets_between_two_gaps_follow_the_series() {
        QFETCH(double, gap);
        QFETCH(double, second);
        const double alike = 1.5e-3;
        const auto linkage = [](double g, double h) {
            return of(asked(between_stators(g, h), "no-load", {{"points", "24"}}, Quality::Fine),
                      "flux_linkage_peak");
        };
        const Machine m = machine_of(between_stators(gap, second));
        const double u = m.pole_pairs() / m.section.chart().flat;
        const double wanted = seen_by_both_layers(u, gap + layer, second + layer) /
                              seen_by_both_layers(u, alike + layer, alike + layer),
                     got = linkage(gap, second) / linkage(alike, alike);
        qInfo("%.6f times what equal gaps link, series %.6f", got, wanted);
        QVERIFY(std::abs(wanted - 1) > 5e-4);
        CLOSE(got, wanted, 1e-4);
    }

    /// Two halves that are joined on the middle plane are the mirrored one.
    void halves_that_are_alike_are_the_mirrored_half_data() { each_machine(); }
    void halves_that_are_alike_are_the_mirrored_half() {
        QFETCH(QString, topology);
        QFETCH(QString, core);
        const auto solved = [&](double second) {
            const auto model = model_of(slotted(topology.toStdString(), core.toStdString(), 1e-3, second));
            const FieldSolution f = at_rest(*model, 0.04, {9, -2, -7});
            return std::tuple(model->sections.size(), f.torque, f.coenergy, f.flux_linkage);
        };
        const auto [one, torque, energy, linkage] = solved(1e-3);
        const auto [two, torque2, energy2, linkage2] = solved(1e-3 * (1 + 1e-9));
        QCOMPARE(one, 1u);
        QCOMPARE(two, 2u);
        CLOSE(torque2, torque, 1e-6 * std::abs(torque));
        CLOSE(energy2, energy, 1e-6 * std::abs(energy));
        QVERIFY(relative_difference(linkage2, linkage) < 1e-6);
    }

    /// What stands in the middle moves: the coenergy's slope is the difference of both pulls.
    void the_pull_on_the_middle_is_the_slope_of_the_coenergy_data() { each_machine(); }
    void the_pull_on_the_middle_is_the_slope_of_the_coenergy() {
        QFETCH(QString, topology);
        QFETCH(QString, core);
        const double gap = 0.8e-3, second = 1.4e-3, step = 1e-5;
        const auto moved = [&](double by) {
            return model_of(slotted(topology.toStdString(), core.toStdString(), gap + by, second - by),
                            Quality::Fine);
        };
        const auto coenergy = [&](double by) { return at_rest(*moved(by), 0.05, {0, 0, 0}).coenergy; };
        const auto model = moved(0);
        const FieldSolution field = at_rest(*model, 0.05, {0, 0, 0});
        const double first = axial_pull(*model, field), other = axial_pull(*model, field, true),
                     slope = (coenergy(-step) - coenergy(step)) / (2 * step);
        qInfo("%.5g and %.5g N; the coenergy's slope %.5g N, their difference %.5g N", first, other, slope,
              first - other);
        QVERIFY(first > 10 && other > 10);
        CLOSE(first - other, slope, 5e-4 * first);
    }

    void the_answer_tells_what_pulls_at_the_middle() {
        const Answer uneven =
            asked(slotted("axial-two-stators", "iron", 0.8e-3, 1.4e-3), "axial-pull", {{"points", "8"}});
        const double first = of(uneven, "axial_pull_mean"), other = of(uneven, "axial_pull_second_mean");
        QVERIFY(first > 1.1 * other);
        CLOSE(of(uneven, "axial_pull_on_middle_mean"), first - other, 1e-9 * first);
        QVERIFY(uneven.sentence.find("towards the first gap") != std::string::npos);
        // The nearer it comes to a side the more that side pulls.
        QVERIFY(of(uneven, "axial_stiffness_of_middle") < 0);
        const Answer even =
            asked(slotted("axial-two-stators", "iron", 1e-3, 1e-3), "axial-pull", {{"points", "8"}});
        CLOSE(of(even, "axial_pull_on_middle_mean"), 0, 1e-9 * first);
        // Iron between the magnets: both gaps are on their own, so that each side's slope counts.
        CLOSE(of(even, "axial_stiffness_of_middle"), 2 * of(even, "axial_stiffness"),
              0.03 * std::abs(of(even, "axial_stiffness")));
    }

    void the_drawing_shows_both_gaps() {
        const Machine m = machine_of(slotted("axial-two-rotors", "teeth", 1e-3, 2.5e-3));
        const Discs discs = make_discs(m);
        std::vector<std::pair<double, double>> iron; // along the axis, of all layers in their order
        for (const DiscLayer& layer : discs.layers)
            if (layer.use != Use::Conductor) iron.emplace_back(layer.from, layer.to);
        std::sort(iron.begin(), iron.end());
        std::vector<double> gaps;
        for (std::size_t k = 0; k + 1 < iron.size(); ++k)
            if (const double room = iron[k + 1].first - iron[k].second; room > 1e-6) gaps.push_back(room);
        std::sort(gaps.begin(), gaps.end());
        QCOMPARE(gaps.size(), 2u);
        CLOSE(gaps[0], 1e-3, 1e-9);
        CLOSE(gaps[1], 2.5e-3, 1e-9);
        QCOMPARE(discs.slices.size(), 1u);
    }

    void every_radius_counts_once() {
        Design design = slotted("axial-two-stators", "none", 1e-3, 1.3e-3);
        design.texts["machine.slices"] = "3";
        const Answer answer = asked(design, "no-load", {{"points", "24"}});
        QCOMPARE(answer.maps.front().y.size(), 3u);
        QVERIFY(answer.sentence.find("3 flat slices") != std::string::npos);
        QVERIFY(!answer.figure("linkage_three_dimensional_ratio"));
    }
};
MAVLO_TEST(unequal_gaps, TestUnequalGaps, Nothing)
#include "test_unequal_gaps.moc"
