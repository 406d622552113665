// Trade-offs: known fronts, limits, seeds, and a run that goes on.

#include "project/answers.h"
#include "study/surrogate.h"
#include "study/trade_off.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <QtTest>
#include <atomic>

using namespace mavlo;

namespace {

/// Two analytic figures over two shares, both wanted small: f1 = x, f2 = g (1 - sqrt(x/g)), g = 1 + 9 y: the
/// front is y = 0, f2 = 1 - sqrt(f1) (ZDT1 in two variables; E. Zitzler et al., Evol. Comput. 8, 2000).
Tried analytic(std::vector<double> at) {
    const double g = 1 + 9 * at[1];
    return {at, true, {at[0], g * (1 - std::sqrt(at[0] / g))}, {}};
}

TradeOff small_trade() {
    TradeOff trade;
    trade.base.design = design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}});
    trade.base.quality = Quality::Draft;
    for (const char* text : {"gap=0.6:1.4 mm", "rotor.magnet.arc=0.6:0.95", "stator.slot.opening=1:4 mm"})
        trade.free.push_back(*read_variation(text, trade.base.design));
    trade.goals = {{"torque_mean / mass_magnets", true}, {"cogging_peak_to_peak", false}};
    trade.questions = {*read_study_question("key-figures")};
    trade.designs = 25;
    return trade;
}

} // namespace

class TestTradeOff : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void dominance();
    void surrogate_goes_through();
    void known_front();
    void expressions();
    void bounds();
    void same_seed_same_front_and_going_on();
    void limits_are_kept();
    void mistakes();
};

void TestTradeOff::dominance() {
    const std::vector<Compromise> all{{{1, 4}, 0}, {{2, 2}, 0}, {{3, 3}, 0}, {{0, 0}, 0.1}, {{4, 1}, -1}};
    QCOMPARE(front_of(all), (std::vector<std::size_t>{0, 1, 4}));
    QVERIFY(dominates(all[2], all[3]));
}

void TestTradeOff::surrogate_goes_through() {
    std::vector<std::vector<double>> places = sample_shares(Sampled::Latin, 3, 30, 3);
    std::vector<double> values;
    for (const auto& p : places) values.push_back(std::sin(3 * p[0]) + p[1] * p[2]);
    const Surrogate surrogate(places, values);
    for (std::size_t i = 0; i < places.size(); ++i) QVERIFY(std::abs(surrogate(places[i]) - values[i]) < 1e-5);
    QVERIFY(std::abs(surrogate({0.5, 0.5, 0.5}) - (std::sin(1.5) + 0.25)) < 0.05);
}

void TestTradeOff::known_front() {
    std::vector<Tried> tried;
    for (const auto& place : sample_shares(Sampled::Latin, 2, 16, 1)) tried.push_back(analytic(place));
    for (unsigned round = 0; tried.size() < 96; ++round)
        for (const auto& place : places_to_try(tried, 8, round)) tried.push_back(analytic(place));
    std::vector<Compromise> all;
    for (const Tried& t : tried) all.push_back(compromise_of(t));
    std::vector<std::vector<double>> front, ideal;
    for (std::size_t i : front_of(all)) front.push_back(all[i].values);
    for (int k = 0; k <= 2000; ++k) ideal.push_back({k / 2000.0, 1 - std::sqrt(k / 2000.0)});
    const std::vector<double> best{0, 0}, worst{1.1, 1.1};
    const double reached = dominated_share(front, best, worst) / dominated_share(ideal, best, worst);
    qInfo("%g of the hypervolume with %d tries, %d on the front", reached, int(tried.size()),
          int(front.size()));
    QVERIFY(reached > 0.99);
}

void TestTradeOff::expressions() {
    Answer answer;
    answer.question = "load";
    answer.figures = {{"torque_mean", 12.0, "N.m"}, {"iron_loss", std::nullopt, "W"}};
    const auto values = resolve(design_of({{"gap", "2 mm"}}));
    const auto value = [&](const char* text) { return evaluate_expression(text, {answer}, *values); };
    QCOMPARE(**value("torque_mean / (gap * 1000)"), 6.0);
    QCOMPARE(**value("load.torque_mean^2"), 144.0);
    QVERIFY(bool(value("iron_loss + 1")) && !*value("iron_loss + 1"));
    QVERIFY(!value("torque_meen"));
    QVERIFY(!value("torque_mean +"));
}

void TestTradeOff::bounds() {
    const auto bound = trade_limit("torque_mean >= 250");
    QVERIFY(bool(bound));
    QVERIFY(bound->excess(300) < 0 && bound->excess(200) > 0);
    QVERIFY(trade_limit("a<=-2")->excess(-3) < 0);
    for (const char* text : {"torque_mean", "torque_mean = 3", ">= 3", "a >= three"})
        QVERIFY(!trade_limit(text));
}

void TestTradeOff::same_seed_same_front_and_going_on() {
    QTemporaryDir folder;
    const AnswerStore store(folder.filePath("a.mavlo").toStdString());
    std::atomic<int> solved = 0;
    const AnswerShelf shelf{[&](const std::string& q, const Ask& ask) { return store.find(q, ask); },
                            [&](const Answer& a, const Ask& ask) {
                                ++solved;
                                return store.keep(a, ask);
                            }};
    const TradeOff trade = small_trade();
    std::stop_source source;
    StudyRun run;
    run.stop = source.get_token();
    int rounds = 0;
    const auto stopped_one = run_trade_off(trade, shelf, run, [&](const TradeFront&) {
        if (++rounds == 3) source.request_stop();
    });
    QVERIFY(!stopped_one && is_stopped(stopped_one.problems()));
    const int before = solved;
    QVERIFY(before > 0);
    const auto first = run_trade_off(trade, shelf, {});
    QVERIFY(bool(first));
    QCOMPARE(first->tried.size(), std::size_t(25));
    const auto again = run_trade_off(trade, {}, {});
    QVERIFY(bool(again));
    QCOMPARE(trade_to_csv(trade, *again), trade_to_csv(trade, *first));
    QVERIFY(solved <= 25);
    const TradedDesign& base = first->tried.front();
    const bool better = std::any_of(first->front.begin(), first->front.end(), [&](std::size_t i) {
        return first->tried[i].goals[0] > base.goals[0] && first->tried[i].goals[1] < base.goals[1];
    });
    QVERIFY(better);
    QVERIFY(gain_over_base(trade, *first).find("betters all goals most") != std::string::npos);
}

void TestTradeOff::limits_are_kept() {
    TradeOff trade = small_trade();
    trade.free.push_back(
        *read_variation("stator.bore_diameter=10:80 mm", trade.base.design)); // some cannot be built
    trade.goals = {{"torque_mean", true}};
    trade.limits = {*trade_limit("cogging_peak_to_peak <= 0.5"), *trade_limit("slot_fill >= 0")};
    const auto front = run_trade_off(trade, {}, {});
    QVERIFY(bool(front));
    int failed = 0;
    for (const TradedDesign& d : front->tried) failed += !d.problem.empty();
    QVERIFY(failed > 0);
    for (std::size_t i : front->front) QVERIFY(front->tried[i].within);
}

void TestTradeOff::mistakes() {
    TradeOff trade = small_trade();
    trade.goals = {{"torque_meen", true}};
    const auto unknown = run_trade_off(trade, {}, {});
    QVERIFY(!unknown);
    QVERIFY(unknown.problems().front().sentence.find("no figure or parameter torque_meen") !=
            std::string::npos);
    trade.goals.clear();
    QVERIFY(!run_trade_off(trade, {}, {}));
    trade = small_trade();
    trade.free.clear();
    QVERIFY(!run_trade_off(trade, {}, {}));
}

MAVLO_TEST(trade_off, TestTradeOff, Nothing)
#include "test_trade_off.moc"
