// Slots and poles judged: factors by closed forms, cogging periods, pull, and what cannot be wound.

#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"
#include "winding/slot_pole_pair.h"

#include <complex>
#include <numeric>

using namespace mavlo;

namespace {}

class TestPairs : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void known_factors_data() {
        QTest::addColumn<int>("slots");
        QTest::addColumn<int>("poles");
        QTest::addColumn<double>("factor");
        // Coils round single teeth: pitch factor times distribution over the star's neighbours.
        QTest::newRow("3/2") << 3 << 2 << std::sin(pi / 3);
        QTest::newRow("6/4") << 6 << 4 << std::sin(pi / 3);
        QTest::newRow("9/8") << 9 << 8 << std::sin(4 * pi / 9) * std::sin(pi / 6) / (3 * std::sin(pi / 18));
        QTest::newRow("12/10") << 12 << 10 << std::sin(5 * pi / 12) * std::cos(pi / 12);
        QTest::newRow("12/14") << 12 << 14 << std::sin(7 * pi / 12) * std::cos(pi / 12);
        QTest::newRow("24/20") << 24 << 20 << std::sin(5 * pi / 12) * std::cos(pi / 12);
    }
    void known_factors() {
        QFETCH(int, slots);
        QFETCH(int, poles);
        QFETCH(double, factor);
        const auto pair = judge_pair(slots, poles, 3, 2);
        QVERIFY(bool(pair));
        CLOSE(pair->winding_factor, factor, 1e-9);
        QCOMPARE(pair->span, 1);
    }
    void every_pair_is_judged_soundly() {
        int wound = 0;
        for (int phases : {2, 3, 5, 6})
            for (int layers : {1, 2})
                for (int slots = 2; slots <= 60; ++slots)
                    for (int poles = 2; poles <= 40; poles += 2) {
                        const auto pair = judge_pair(slots, poles, phases, layers);
                        const auto layout = propose_winding({slots, poles, phases, layers, 0});
                        QCOMPARE(bool(pair), bool(layout));
                        if (!pair) {
                            QVERIFY(!layout.problems().front().sentence.empty());
                            continue;
                        }
                        ++wound;
                        QVERIFY(pair->winding_factor > 0 && pair->winding_factor <= 1 + 1e-12);
                        QCOMPARE(pair->cogging_per_turn % slots, 0);
                        QCOMPARE(pair->cogging_per_turn % poles, 0);
                        QCOMPARE(pair->unbalanced_pull, std::gcd(slots, poles) == 1);
                        QVERIFY(pair->span >= 1 && pair->span <= slots / 2 + 1);
                        // Every phase has the same factor, and all together no sum.
                        std::complex<double> sum = 0;
                        for (int phase = 0; phase < phases; ++phase) {
                            const auto factor = winding_factor(*layout, poles / 2, phase);
                            CLOSE(std::abs(factor), pair->winding_factor, 1e-9);
                            if (phases == 3 || phases == 5) sum += factor;
                        }
                        CLOSE(std::abs(sum), 0, 1e-9);
                    }
        QVERIFY(wound > 500);
    }
    void two_layers_allow_what_one_layer_allows() {
        for (int slots = 6; slots <= 48; slots += 6)
            for (int poles = 2; poles <= 28; poles += 2)
                if (judge_pair(slots, poles, 3, 1)) QVERIFY(judge_pair(slots, poles, 3, 2).has_value());
    }
};
MAVLO_TEST(pairs, TestPairs, Nothing)
#include "test_pairs.moc"
