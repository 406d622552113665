#include "figure/circulating.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"
#include "winding/alternatives.h"
#include "winding/balance.h"
#include "winding/coil_table.h"
#include "winding/conductor.h"
#include "winding/proposal.h"
#include "winding/wire.h"

#include <map>
#include <numbers>
#include <random>
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
                    if (layers == 2 || slots % 2 == 0) QCOMPARE(int(sides.size()), slots * layers);
                }
        QVERIFY2(feasible > 300, qPrintable(QString::number(feasible)));
    }
    void infeasible_pairs_get_a_sentence() {
        for (const WindingInput& in : {WindingInput{10, 10}, WindingInput{12, 12}, WindingInput{8, 6, 3, 1},
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
        const double over = 10 * mmf(*layout, current, 0.5 * pitch),
                     other = 10 * mmf(*layout, current, 1.5 * pitch);
        CLOSE(std::abs(over - other), 20, 1e-9);
        CLOSE(over + 2 * other, 0, 1e-9);
    }
    void conductors_of_every_shape() {
        ConductorInput in;
        in.slot_area = 400e-6;
        in.turns_in_slot = 200;
        in.fill_factor = 0.5;
        CLOSE(size_conductor(in).area, 1e-6, 1e-15);
        CLOSE(size_conductor(in).fill, 0.5, 1e-12);
        in.diameter = 1e-3;
        in.strands = 2;
        in.grade = 1;
        const ConductorSize round = size_conductor(in);
        CLOSE(round.area, std::numbers::pi / 2 * 1e-6, 1e-12);
        CLOSE(round.outer_width, 1.062e-3, 1e-9); // IEC 60317-0-1
        CLOSE(round.insulated_fill, 400 * std::numbers::pi / 4 * 1.062e-3 * 1.062e-3 / 400e-6, 1e-9);
        in.shape = ConductorShape::Rectangular;
        in.width = 3e-3;
        in.strands = 1;
        CLOSE(size_conductor(in).height, 1e-6 / 3e-3, 1e-12);
        in.shape = ConductorShape::Litz;
        in.diameter = 0.1e-3;
        in.strands = 100;
        CLOSE(size_conductor(in).area, 100 * std::numbers::pi / 4 * 1e-8, 1e-14);
        CLOSE(size_conductor(in).outer_width, 1.155 * 10 * 0.117e-3, 1e-9);
    }
    void wires_of_the_standards() {
        CLOSE(insulated_diameter(0.5e-3, 1), 0.544e-3, 1e-9);
        CLOSE(insulated_diameter(0.5e-3, 2), 0.566e-3, 1e-9);
        CLOSE(insulated_diameter(0.5e-3, 0), 0.5e-3, 1e-12);
        double before = 0;
        for (const WireSize& wire : metric_wires()) {
            QVERIFY(wire.diameter > before);
            before = wire.diameter;
            QVERIFY(wire.increase[0] < wire.increase[1] && wire.increase[1] < wire.increase[2]);
        }
        for (const WireSize& wire : gauge_wires()) // 36 and 0000 gauge are defined: 5 mil and 460 mil, 39 steps
            if (wire.name == "AWG 36") CLOSE(wire.diameter, 0.127e-3, 1e-12);
        const auto near = nearest_wires(0.52e-3);
        QCOMPARE(near.metric.front().name, std::string("0.500 mm"));
        QCOMPARE(near.metric.back().name, std::string("0.560 mm"));
        QCOMPARE(near.gauge.size(), std::size_t(2));
    }
    void phases_repeat_after_the_smallest_step() {
        for (int m : {2, 3, 4, 5, 7}) CLOSE(phase_step(phase_lags(m)).angle, pi / m, 1e-12);
        CLOSE(phase_step(phase_lags(6)).angle, pi / 6, 1e-12);
        CLOSE(phase_step(phase_lags(9)).angle, pi / 9, 1e-12);
        CLOSE(phase_step(phase_lags(9, pi / 9)).angle, pi / 9, 1e-12);
        CLOSE(phase_step(phase_lags(6, 0)).angle, pi / 3, 1e-12);
        CLOSE(phase_step(phase_lags(6, 0.2)).angle, pi / 3, 1e-12);
        CLOSE(phase_step(phase_lags(1)).angle, pi, 1e-12);
    }
    void random_feasible_windings_are_balanced() {
        std::mt19937 random(5);
        const auto any = [&](int low, int high) { return std::uniform_int_distribution(low, high)(random); };
        int feasible = 0;
        for (int round = 0; feasible < 1000 && round < 60000; ++round) {
            WindingInput in{any(3, 96), 2 * any(1, 24), any(1, 9),
                            std::array{1, 1, 2, 2, 4, 6}[std::size_t(any(0, 5))], 0};
            if (any(0, 2) == 0) in.span = any(1, 12);
            in.form = std::array{WindingForm::Lap, WindingForm::Lap, WindingForm::Ring,
                                 WindingForm::Concentric}[std::size_t(any(0, 3))];
            if (in.layers >= 4) in.layer_shift = any(0, 2);
            if (in.phases % 3 == 0 && in.phases > 3 && any(0, 1))
                in.set_shift = any(0, 1) * std::numbers::pi / 3;
            const auto layout = propose_winding(in);
            if (!layout) {
                QVERIFY(!layout.problems().front().sentence.empty());
                continue;
            }
            ++feasible;
            const WindingBalance balance = judge_balance(*layout);
            QVERIFY2(balance.unbalance < 1e-12 && balance.sentences.empty(),
                     qPrintable(QStringLiteral("%1/%2 m%3 l%4 span %5: %6")
                                    .arg(in.slots)
                                    .arg(in.poles)
                                    .arg(in.phases)
                                    .arg(in.layers)
                                    .arg(in.span)
                                    .arg(balance.unbalance)));
            if (in.phases != 1 && in.phases != 2 && in.phases != 4 && !in.set_shift && in.phases != 6)
                CLOSE(balance.zero_sequence, 0, 1e-12);
            // Turns alike, no two sides in one place, every side in the machine.
            std::set<std::pair<int, int>> places;
            for (const Coil& coil : layout->coils)
                for (const CoilSide& side : {coil.go, coil.back}) {
                    if (side.slot == outside_core) continue;
                    QVERIFY(side.slot >= 0 && side.slot < in.slots && side.layer < in.layers);
                    QVERIFY(places.insert({side.slot, side.layer}).second);
                }
            for (double turns : balance.turns) CLOSE(turns, balance.turns[0], 0);
        }
        QCOMPARE(feasible, 1000);
    }
    void infeasible_pairs_name_the_nearest() {
        const auto none = propose_winding({10, 10, 3, 2});
        QVERIFY(none.problems().front().sentence.find("9 or 12") != std::string::npos ||
                none.problems().front().sentence.find("9") != std::string::npos);
        WindingInput shifted{24, 4, 6, 2};
        shifted.set_shift = 0.3;
        QVERIFY(propose_winding(shifted).problems().front().path == "winding.set_shift");
    }
    void empty_slots_where_a_layer_cannot_be_full() {
        const auto layout = propose_winding({15, 10, 3, 1});
        QVERIFY(bool(layout));
        QCOMPARE(layout->coils.size(), std::size_t(6)); // 12 of 15 slots
        QVERIFY(judge_balance(*layout).balanced());
        CLOSE(std::abs(winding_factor(*layout, 5)), std::sqrt(3.0) / 2, 1e-9); // sin(120 deg/2)
    }
    void concentric_coils_have_their_lap_windings_factor() {
        // Full-pitch sides are the same; only who is joined with whom differs.
        for (const auto& [slots, poles] : {std::pair{36, 4}, {24, 4}, {48, 8}, {24, 2}}) {
            WindingInput in{slots, poles, 3, 1, 0, WindingForm::Concentric};
            const auto concentric = propose_winding(in);
            QVERIFY(bool(concentric));
            const auto lap = propose_winding({slots, poles, 3, 2, slots / poles});
            CLOSE(std::abs(winding_factor(*concentric, poles / 2)), std::abs(winding_factor(*lap, poles / 2)),
                  1e-12);
            std::set<int> spans;
            for (const Coil& coil : concentric->coils) spans.insert(span_of(coil, slots));
            QCOMPARE(int(spans.size()), slots / poles / 3); // q different ones
        }
    }
    void hand_edits_are_judged_as_phasors_sum() {
        std::mt19937 random(3);
        const auto any = [&](int low, int high) { return std::uniform_int_distribution(low, high)(random); };
        for (int round = 0; round < 1000; ++round) {
            const int slots = 12 * any(1, 3), poles = 2 * any(1, 6);
            auto layout = propose_winding({slots, poles, 3, 2});
            if (!layout) continue;
            std::vector<Coil> coils = layout->coils;
            for (int edit = any(0, 3); edit > 0; --edit) {
                const auto which = std::size_t(any(0, int(coils.size()) - 1));
                switch (any(0, 3)) {
                case 0:
                    coils[which].turns = any(1, 9);
                    break;
                case 1:
                    coils[which].sign = -coils[which].sign;
                    break;
                case 2:
                    coils = swapped(coils, {any(0, slots - 1), any(0, 1)}, {any(0, slots - 1), any(0, 1)});
                    break;
                default:
                    coils[which].phase = any(0, 2);
                }
            }
            const auto hand = layout_by_hand(coils, {slots, poles, 3, 2});
            if (!hand) continue; // a phase without coils
            const WindingBalance judged = judge_balance(*hand);
            std::array<std::complex<double>, 3> sum{};
            std::array<double, 3> turns{};
            for (const Coil& c : coils) {
                const double step = std::numbers::pi * poles / slots;
                sum[std::size_t(c.phase)] +=
                    c.sign * c.turns *
                    (std::polar(1.0, -step * c.go.slot) - std::polar(1.0, -step * c.back.slot));
                turns[std::size_t(c.phase)] += c.turns;
            }
            for (int k = 0; k < 3; ++k) sum[std::size_t(k)] *= std::polar(1.0, 2 * std::numbers::pi * k / 3);
            const auto mean = (sum[0] + sum[1] + sum[2]) / 3.0;
            if (std::abs(mean) < 1e-9) continue;
            double worst = 0;
            for (const auto& s : sum) worst = std::max(worst, std::abs(s - mean) / std::abs(mean));
            CLOSE(judged.unbalance, worst, 1e-9 * (1 + worst));
            QCOMPARE(judged.balanced(), worst < 1e-9);
            for (int k = 0; k < 3; ++k) CLOSE(judged.turns[std::size_t(k)], turns[std::size_t(k)], 1e-12);
        }
    }
    void tables_are_read_as_they_are_written() {
        for (int m : {1, 3, 5, 6}) {
            const auto layout = propose_winding({m == 5 ? 60 : 72, 4, m, 2});
            if (!layout) QFAIL(layout.problems().front().sentence.c_str());
            const auto back = coils_from_table(table_of_coils(layout->coils, m), m);
            QVERIFY(back && *back == layout->coils);
        }
        WindingInput ring{12, 4, 3, 1, 0, WindingForm::Ring};
        const auto rings = propose_winding(ring);
        QVERIFY(*coils_from_table(table_of_coils(rings->coils, 3), 3) == rings->coils);
        // Another order, semicolons, other words; blanks without a header.
        const auto other = coils_from_table("phase;turns;slot;layer;back;layer\n-V;12;3;1;4;0\n", 3);
        QVERIFY(other && other->front() == (Coil{1, -1, {3, 1}, {4, 0}, 12}));
        const auto blanks = coils_from_table("0 3 1 4 0 12 w\n1 5 1 6 0 -7 U\n", 3);
        QVERIFY(blanks && blanks->at(1).sign == -1 && blanks->at(1).turns == 7);
        for (const char* bad : {"", "0,1,0,2,0,5,X\n", "0,1,0,2,0,0,U\n", "0,1.5,0,2,0,5,U\n", "1,2,3\n"}) {
            const auto wrong = coils_from_table(bad, 3);
            QVERIFY(!wrong && wrong.problems().front().sentence.size() > 15);
        }
    }
    void paths_are_alike_or_said() {
        const auto layout = propose_winding({12, 10, 3, 2});
        QCOMPARE(possible_paths(*layout), (std::vector<int>{1, 2}));
        const ParallelPaths four = parallel_paths(*layout, 0, 4);
        QVERIFY(!four.alike && four.difference > 0.1);
        const auto lap = propose_winding({36, 4, 3, 2});
        QCOMPARE(possible_paths(*lap), (std::vector<int>{1, 2, 4}));
        for (int a : {2, 4}) CLOSE(parallel_paths(*lap, 1, a).difference, 0, 1e-12);
    }
    void paths_that_differ_carry_a_current_round() {
        // One coil of ten has two turns more, so that its path is stronger than the other.
        Design design = design_of({{"stator.slots", "24"},
                                   {"rotor.poles", "4"},
                                   {"winding.layers", "2"},
                                   {"winding.turns", "10"},
                                   {"winding.paths", "2"}});
        const Machine even = machine_of(design);
        CLOSE(circulating_current(even, 100, 150).largest, 0, 1e-9);
        design.coils = even.winding.layout.coils;
        const auto first = std::find_if(design.coils.begin(), design.coils.end(),
                                        [](const Coil& coil) { return coil.phase == 0; });
        first->turns = 12;
        const Machine odd = machine_of(design);
        const ParallelPaths paths = parallel_paths(odd.winding.layout, 0, 2);
        QCOMPARE(paths.emf.size(), std::size_t(2));
        CLOSE(std::abs(paths.emf[0] + paths.emf[1] - 2.0), 0, 1e-12);
        // Two turns of the eighty and two, seen from the mean of both paths, at 15 degrees electrical.
        CLOSE(paths.difference, 2 / (41 * std::cos(std::numbers::pi / 12)), 1e-3);
        const Conductor wire = machine_conductor(odd);
        const double still = 100 * paths.difference / 2 / (2 * wire.phase_resistance[0]) / std::sqrt(2.0);
        const CirculatingCurrent slow = circulating_current(odd, 100, 1e-6);
        CLOSE(slow.largest / still, 1, 1e-6);
        // Two paths of the one phase that is uneven.
        CLOSE(slow.loss / (2 * still * still * 2 * wire.phase_resistance[0]), 1, 1e-6);
        QVERIFY(circulating_current(odd, 100, 1000).largest < slow.largest);
    }
    void alternatives_are_ranked() {
        const auto list = winding_alternatives({36, 4, 3, 2});
        QVERIFY(list.size() >= 5);
        for (std::size_t i = 1; i < list.size(); ++i) QVERIFY(list[i - 1].merit >= list[i].merit - 1e-9);
        for (const auto& a : list) {
            QVERIFY(a.winding_factor > 0.1 && a.harmonic_leakage > 0);
            const auto layout = propose_winding(a.input);
            CLOSE(std::abs(winding_factor(*layout, 2)), a.winding_factor, 1e-12);
        }
        // Differential leakage of full-pitch windings with 3 slots a pole and phase: 0.0141 (Richter).
        const auto full = propose_winding({36, 4, 3, 2, 9});
        CLOSE(harmonic_leakage(*full), 0.0141, 2e-4);
    }
    void waves_of_a_three_phase_winding() {
        // F_p = m/2 4/pi N k_w/(2p) of balanced currents, forward; fifth backward, seventh forward, no third.
        const auto layout = propose_winding({36, 4, 3, 2, 9});
        const double turns = layout->turns_of_phase(0);
        const auto main = travelling_mmf(*layout, 2);
        CLOSE(main.forward, 1.5 * 4 / pi * turns * std::abs(winding_factor(*layout, 2)) / 4, 1e-9);
        CLOSE(main.backward, 0, 1e-9);
        CLOSE(travelling_mmf(*layout, 10).forward, 0, 1e-9);
        QVERIFY(travelling_mmf(*layout, 10).backward > 0.01 && travelling_mmf(*layout, 14).forward > 0.01);
        CLOSE(travelling_mmf(*layout, 6).forward + travelling_mmf(*layout, 6).backward, 0, 1e-9);
        // The steps' curve is the sum of its waves.
        const std::vector<double> currents{1, -0.5, -0.5};
        double sum = 0;
        const double at = 0.07;
        for (int n = 1; n < 20000; ++n)
            sum += (mmf_wave(*layout, currents, n) * std::polar(1.0, -n * at)).real();
        CLOSE(sum, mmf(*layout, currents, at), 2e-3 * std::abs(sum));
    }
};
MAVLO_TEST(winding, TestWinding, Nothing)
#include "test_winding.moc"
