#include "support.h"
#include "winding/conductor.h"

#include <map>
#include <numbers>
#include <set>

using namespace mavlo;

class TestWinding : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void factors_match_the_reference() {
        const auto data = reference("winding_factors.json");
        for (const auto& w : data["windings"]) {
            const auto layout = propose_winding({w["slots"], w["poles"], 3, w["layers"], w["span"]});
            const auto name = w["slots"].dump() + "/" + w["poles"].dump() + " span " + w["span"].dump();
            if (!layout) QFAIL((name + ": " + layout.problems().front().sentence).c_str());
            const int p = w["poles"].get<int>() / 2;
            CLOSE(std::abs(winding_factor(*layout, p)), w["kw1"].get<double>(), 1e-6);
            for (const auto& [order, value] : w["kw_by_electrical_order"].items())
                CLOSE(std::abs(winding_factor(*layout, p * std::stoi(order))), value.get<double>(), 1e-6);
            for (const auto& [order, value] : w["kw_by_mechanical_order"].items())
                CLOSE(std::abs(winding_factor(*layout, std::stoi(order))), value.get<double>(), 1e-6);
        }
    }
    void every_feasible_pair_is_balanced() {
        int feasible = 0;
        for (int slots = 3; slots <= 72; slots += 3)
            for (int poles = 2; poles <= 60; poles += 2)
                for (int layers : {1, 2}) {
                    const auto layout = propose_winding({slots, poles, 3, layers, 0});
                    if (!layout) {
                        QVERIFY(!layout.problems().front().sentence.empty());
                        continue;
                    }
                    ++feasible;
                    const auto u = winding_factor(*layout, poles / 2, 0),
                               v = winding_factor(*layout, poles / 2, 1),
                               w = winding_factor(*layout, poles / 2, 2);
                    CLOSE(std::abs(v), std::abs(u), 1e-9);
                    // V lags U by 120 electrical degrees, W by 240, seen by a rotor that turns
                    // counter-clockwise.
                    CLOSE(std::remainder(std::arg(u / v) - 2 * std::numbers::pi / 3, 2 * std::numbers::pi), 0,
                          1e-9);
                    CLOSE(std::remainder(std::arg(v / w) - 2 * std::numbers::pi / 3, 2 * std::numbers::pi), 0,
                          1e-9);
                    std::set<std::pair<int, int>> sides;
                    for (const Coil& coil : layout->coils) {
                        QVERIFY(sides.insert({coil.go.slot, coil.go.layer}).second);
                        QVERIFY(sides.insert({coil.back.slot, coil.back.layer}).second);
                    }
                    QCOMPARE(int(sides.size()), slots * layers);
                }
        QVERIFY2(feasible > 300, qPrintable(QString::number(feasible)));
    }
    void infeasible_pairs_get_a_sentence() {
        for (const WindingInput& in : {WindingInput{10, 10}, WindingInput{12, 12}, WindingInput{9, 6, 3, 1},
                                       WindingInput{12, 7}, WindingInput{12, 10, 5}, WindingInput{2, 2},
                                       WindingInput{12, 10, 3, 3}, WindingInput{12, 10, 3, 2, 12}}) {
            const auto layout = propose_winding(in);
            QVERIFY(!layout);
            QVERIFY(!layout.problems().front().path.empty() && layout.problems().front().sentence.size() > 20);
        }
    }
    void mmf_of_one_tooth_is_a_step() {
        const auto layout = propose_winding({3, 2, 3, 2, 1});
        QVERIFY(bool(layout));
        // Coil of phase U alone: over its tooth the MMF differs by N i from the rest, and its mean is zero.
        const std::vector<double> current{2, 0, 0};
        const double pitch = 2 * std::numbers::pi / 3;
        const double over = mmf(*layout, current, 10, 0.5 * pitch),
                     other = mmf(*layout, current, 10, 1.5 * pitch);
        CLOSE(std::abs(over - other), 20, 1e-9);
        CLOSE(over + 2 * other, 0, 1e-9);
    }
    void resistance_of_a_known_coil() {
        // 100 turns of 1 mm2 with a 0.3 m turn, 4 coils in series on each of 2 paths.
        ConductorInput in;
        in.slot_area = 400e-6;
        in.layers = 2;
        in.turns = 100;
        in.coils_per_phase = 8;
        in.paths = 2;
        in.fill_factor = 0.5;
        in.resistivity = 1.7241e-8;
        in.stack_length = 0.1;
        in.coil_width = 0.1 / std::numbers::pi;
        const Conductor c = size_conductor(in);
        CLOSE(c.area, 1e-6, 1e-15);
        CLOSE(c.turn_length, 0.3, 1e-12);
        CLOSE(c.resistance, 1.7241e-8 * 100 * 0.3 * 4 / 1e-6 / 2, 1e-9);
        CLOSE(c.fill, 0.5, 1e-12);
        in.strand_diameter = 1e-3;
        in.strands = 2;
        CLOSE(size_conductor(in).area, std::numbers::pi / 2 * 1e-6, 1e-12);
    }
};
QTEST_APPLESS_MAIN(TestWinding)
#include "test_winding.moc"
