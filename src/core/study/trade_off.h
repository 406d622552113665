#pragma once
// Trade-offs: free parameters within limits, what shall be more or less, and what must be kept.

#include "quantity/bound.h"
#include "study/expression.h"
#include "study/proposal_search.h"
#include "study/study.h"

namespace mavlo {

struct TradeGoal {
    std::string expression;
    bool more = false;
};

struct TradeOff {
    Ask base;
    std::vector<Variation> free;
    std::vector<TradeGoal> goals; ///< one to four
    std::vector<Bound> limits;
    std::vector<StudyQuestion> questions;
    int designs = 100; ///< to be tried, the base among them
    unsigned seed = 1;
};
/// A limit of a trade-off, in SI: a sentence where it is none.
Result<Bound> trade_limit(const std::string& text);
/// What is wrong with it, in sentences.
Problems check(const TradeOff& trade);

struct TradedDesign {
    std::vector<std::string> settings; ///< a text for every free parameter
    std::vector<double> at;            ///< their shares of the ranges
    std::vector<double> goals, limits; ///< values of the expressions; empty where it failed
    bool within = false;               ///< keeps all limits
    std::string problem;               ///< why there are no values
};

struct TradeFront {
    std::vector<TradedDesign> tried; ///< the base first
    std::vector<std::size_t> front;  ///< those no other one beats
};

/// After every round; called from the thread that runs it.
using FrontGrows = std::function<void(const TradeFront&)>;

/// A Latin hypercube, then rounds of places_to_try(), eight designs each whatever the threads, so that the same
/// seed gives the same front. What was answered before is taken from the shelf: a run that was stopped or
/// killed goes on when it is run again.
Result<TradeFront> run_trade_off(const TradeOff& trade, const AnswerShelf& shelf, const StudyRun& run,
                                 const FrontGrows& grows = {});

/// Designs of the front that lie apart, at most so many, in the order of the first goal.
std::vector<std::size_t> spread_over_front(const TradeOff& trade, const TradeFront& front, std::size_t count);

/// The design of a setting.
Result<Design> traded_design(const TradeOff& trade, const TradedDesign& traded);

/// By what the front betters the base: a sentence.
std::string gain_over_base(const TradeOff& trade, const TradeFront& front);

std::string trade_to_csv(const TradeOff& trade, const TradeFront& front);

} // namespace mavlo
