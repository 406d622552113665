#include "study/trade_off.h"

#include "quantity/csv.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace mavlo {
namespace {

constexpr int round_size = 8;
constexpr std::size_t most_goals = 4;

int first_samples(const TradeOff& trade) {
    return std::min(trade.designs - 1, std::max(2 * round_size, 2 * int(trade.free.size()) + 8));
}

/// Shares that stand for what the texts can be: list entries and whole numbers by their middles.
double snapped(const Variation& v, double share, const Design& design) {
    if (!v.texts.empty()) {
        const auto n = double(v.texts.size());
        return (std::min(std::floor(share * n), n - 1) + 0.5) / n;
    }
    if (find_parameter(v.path, design)->kind != ParameterKind::Whole || v.high == v.low) return share;
    return (std::round(v.low + share * (v.high - v.low)) - v.low) / (v.high - v.low);
}

/// Where the base design stands among the free parameters; empty where a list does not hold its value.
std::vector<double> place_of_base(const TradeOff& trade, const Values& values) {
    std::vector<double> at;
    for (const Variation& v : trade.free) {
        if (v.texts.empty()) {
            at.push_back(values.has(v.path) && v.high != v.low
                             ? (values.number(v.path) - v.low) / (v.high - v.low)
                             : 0.5);
            continue;
        }
        const auto found = std::find(v.texts.begin(), v.texts.end(), trade.base.design.text(v.path));
        const auto n = double(v.texts.size());
        at.push_back(found == v.texts.end() ? 0.5 / n : (double(found - v.texts.begin()) + 0.5) / n);
    }
    return at;
}

class Runner {
  public:
    Runner(const TradeOff& trade, const AnswerShelf& shelf, const StudyRun& run, const FrontGrows& grows)
        : m_trade(trade)
        , m_shelf(shelf)
        , m_run(run)
        , m_grows(grows)
        , m_begin(std::chrono::steady_clock::now()) {}

    Result<TradeFront> run() {
        auto values = resolve(m_trade.base.design);
        if (!values) return values.problems();
        TradedDesign base;
        base.at = place_of_base(m_trade, *values);
        for (const Variation& v : m_trade.free) base.settings.push_back(m_trade.base.design.text(v.path));
        if (auto problems = try_all({base}); !problems.empty()) return problems;
        if (!m_front.tried.front().problem.empty())
            return Problem{"base", fmt::format("The design to begin with cannot be judged: {}",
                                               m_front.tried.front().problem)};
        const auto shares =
            sample_shares(Sampled::Latin, m_trade.free.size(), first_samples(m_trade), m_trade.seed);
        for (std::size_t k = 0; k < shares.size(); k += round_size)
            if (auto problems =
                    try_places({shares.begin() + std::ptrdiff_t(k),
                                shares.begin() + std::ptrdiff_t(std::min(k + round_size, shares.size()))});
                !problems.empty())
                return problems;
        for (unsigned round = 1; int(m_front.tried.size()) < m_trade.designs; ++round) {
            const int left = m_trade.designs - int(m_front.tried.size());
            const auto places = places_to_try(known(), std::min(left, round_size), m_trade.seed * 7919 + round);
            if (auto problems = try_places(places); !problems.empty()) return problems;
        }
        return std::move(m_front);
    }

  private:
    std::vector<Tried> known() const {
        std::vector<Tried> list;
        for (const TradedDesign& design : m_front.tried) list.push_back(as_tried(design));
        return list;
    }

    Tried as_tried(const TradedDesign& design) const {
        Tried out{design.at, design.problem.empty(), {}, {}};
        for (std::size_t g = 0; g < design.goals.size(); ++g)
            out.values.push_back(m_trade.goals[g].more ? -design.goals[g] : design.goals[g]);
        for (std::size_t l = 0; l < design.limits.size(); ++l)
            out.excess.push_back(m_trade.limits[l].excess(design.limits[l]));
        return out;
    }

    Problems try_places(const std::vector<std::vector<double>>& places) {
        std::vector<TradedDesign> designs;
        for (const auto& place : places) {
            TradedDesign design;
            for (std::size_t d = 0; d < m_trade.free.size(); ++d) {
                const Variation& v = m_trade.free[d];
                design.at.push_back(snapped(v, place[d], m_trade.base.design));
                design.settings.push_back(text_at(v, design.at.back(), m_trade.base.design));
            }
            designs.push_back(std::move(design));
        }
        return try_all(std::move(designs));
    }

    Problems try_all(std::vector<TradedDesign> designs) {
        Study study;
        study.base = m_trade.base;
        study.questions = m_trade.questions;
        for (const Variation& v : m_trade.free) study.paths.push_back(v.path);
        for (const TradedDesign& design : designs) study.settings.push_back(design.settings);
        StudyRun within = m_run;
        within.progress = {};
        const auto rows = run_study(study, {}, m_shelf, within);
        if (m_run.stop.stop_requested()) return {stopped()};
        for (std::size_t d = 0; d < designs.size(); ++d) {
            if (auto problems = judge(study, d, rows[d], designs[d]); !problems.empty()) return problems;
            m_front.tried.push_back(std::move(designs[d]));
        }
        find_front();
        tell();
        return {};
    }

    Problems judge(const Study& study, std::size_t index, const StudyRow& row, TradedDesign& design) const {
        const auto fail = [&](const std::string& why) {
            design.goals.clear();
            design.limits.clear();
            design.problem = why;
            return Problems{};
        };
        if (!row.problems.empty()) return fail(to_string(row.problems.front()));
        const auto changed = study_design(study, index);
        const auto values = changed ? resolve(*changed) : Result<Values>(changed.problems());
        if (!values) return fail(to_string(values.problems().front()));
        design.within = true;
        for (const TradeGoal& goal : m_trade.goals) {
            const auto value = evaluate_expression(goal.expression, row.answers, *values);
            if (!value) return value.problems();
            if (!*value) return fail(fmt::format("{} does not apply.", goal.expression));
            design.goals.push_back(**value);
        }
        for (const Bound& bound : m_trade.limits) {
            const auto value = evaluate_expression(bound.expression, row.answers, *values);
            if (!value) return value.problems();
            if (!*value) return fail(fmt::format("{} does not apply.", bound.expression));
            design.limits.push_back(**value);
            design.within = design.within && bound.excess(**value) <= 0;
        }
        return {};
    }

    void find_front() {
        std::vector<Compromise> all;
        std::vector<std::size_t> place;
        for (std::size_t i = 0; i < m_front.tried.size(); ++i)
            if (m_front.tried[i].problem.empty()) {
                all.push_back(compromise_of(as_tried(m_front.tried[i])));
                place.push_back(i);
            }
        m_front.front.clear();
        for (std::size_t i : front_of(all)) m_front.front.push_back(place[i]);
    }

    void tell() const {
        const int done = int(m_front.tried.size());
        const double passed = std::chrono::duration<double>(std::chrono::steady_clock::now() - m_begin).count();
        if (m_run.progress) m_run.progress(done, m_trade.designs, passed / done * (m_trade.designs - done));
        if (m_grows) m_grows(m_front);
    }

    const TradeOff& m_trade;
    const AnswerShelf& m_shelf;
    const StudyRun& m_run;
    const FrontGrows& m_grows;
    std::chrono::steady_clock::time_point m_begin;
    TradeFront m_front;
};

} // namespace

Result<Bound> trade_limit(const std::string& text) {
    auto bound = read_bound(text);
    if (!bound || !bound->unit.empty())
        return Problem{"--limit",
                       fmt::format("\"{}\" is no limit; write EXPRESSION >= NUMBER or <=, in SI.", text)};
    return std::move(*bound);
}

Problems check(const TradeOff& trade) {
    if (trade.free.empty())
        return {{"--free", "Nothing is free; a parameter with its range is wanted, LOW:HIGH."}};
    if (trade.goals.empty() || trade.goals.size() > most_goals)
        return {{"--more", "One to four goals are wanted, figures of which more or less is better."}};
    if (trade.questions.empty()) return {{"--ask", "Nothing is asked."}};
    if (trade.designs < 2) return {{"--designs", "Two designs at least."}};
    for (const Variation& v : trade.free)
        if (v.texts.empty() && !(v.high > v.low))
            return {{v.path, "The upper limit must be above the lower one."}};
    return {};
}

Result<TradeFront> run_trade_off(const TradeOff& trade, const AnswerShelf& shelf, const StudyRun& run,
                                 const FrontGrows& grows) {
    if (auto problems = check(trade); !problems.empty()) return problems;
    return Runner(trade, shelf, run, grows).run();
}

std::vector<std::size_t> spread_over_front(const TradeOff& trade, const TradeFront& front, std::size_t count) {
    std::vector<std::size_t> order = front.front;
    if (trade.goals.empty()) return {};
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return front.tried[a].goals[0] < front.tried[b].goals[0]; });
    if (order.size() <= count || count == 0) {
        order.resize(std::min(order.size(), count));
        return order;
    }
    std::vector<std::size_t> chosen;
    for (std::size_t k = 0; k < count; ++k)
        chosen.push_back(order[count == 1 ? order.size() / 2 : k * (order.size() - 1) / (count - 1)]);
    return chosen;
}

Result<Design> traded_design(const TradeOff& trade, const TradedDesign& traded) {
    Study study;
    study.base = trade.base;
    for (const Variation& v : trade.free) study.paths.push_back(v.path);
    study.settings = {traded.settings};
    return study_design(study, 0);
}

std::string gain_over_base(const TradeOff& trade, const TradeFront& front) {
    const TradedDesign& base = front.tried.front();
    const TradedDesign* best = nullptr;
    double most = 0;
    // Of those that better every goal, the one by most in all: the product of the ratios.
    for (std::size_t i : front.front) {
        double all = 0;
        bool better = true;
        for (std::size_t g = 0; g < trade.goals.size() && better; ++g) {
            const double now = front.tried[i].goals[g], was = base.goals[g];
            better = trade.goals[g].more ? now > was : now < was;
            const double ratio = trade.goals[g].more == (was > 0) ? now / was : was / now;
            all += ratio > 0 ? std::log(ratio) : 1;
        }
        if (better && (!best || all > most)) most = all, best = &front.tried[i];
    }
    std::string text =
        fmt::format("{} designs tried, {} on the front.", front.tried.size(), front.front.size());
    if (!best) return text + " None betters the base in every goal.";
    text += " The one that betters all goals most:";
    for (std::size_t g = 0; g < trade.goals.size(); ++g)
        text += fmt::format("{} {} {:+.1f} %", g ? "," : "", trade.goals[g].expression,
                            100 * (best->goals[g] / base.goals[g] - 1));
    return text + " against the base.";
}

std::string trade_to_csv(const TradeOff& trade, const TradeFront& front) {
    std::string out = "design";
    for (const Variation& v : trade.free) out += "," + csv_cell(v.path);
    for (const TradeGoal& goal : trade.goals) out += "," + csv_cell(goal.expression);
    for (const Bound& bound : trade.limits) out += "," + csv_cell(bound.expression);
    out += ",within_limits,on_front,problem\n";
    for (std::size_t i = 0; i < front.tried.size(); ++i) {
        const TradedDesign& d = front.tried[i];
        out += fmt::format("{}", i);
        for (const std::string& text : d.settings) out += "," + csv_cell(text);
        const auto numbers = [&](const std::vector<double>& values, std::size_t count) {
            for (std::size_t k = 0; k < count; ++k)
                out += k < values.size() ? fmt::format(",{:.9g}", values[k]) : ",";
        };
        numbers(d.goals, trade.goals.size());
        numbers(d.limits, trade.limits.size());
        const bool on = std::find(front.front.begin(), front.front.end(), i) != front.front.end();
        out += fmt::format(",{:d},{:d},{}\n", d.within, on, csv_cell(d.problem));
    }
    return out;
}

} // namespace mavlo
