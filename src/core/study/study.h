#pragma once
// A study: the same questions of many designs. Answers are shared by content, so that nothing is solved twice.

#include "question/question.h"
#include "study/variation.h"

#include <functional>
#include <optional>

namespace mavlo {

struct StudyQuestion {
    std::string name;
    std::map<std::string, std::string> with;
    /// "cogging", or "cogging:points=48,…" as it was asked.
    std::string label;
};
/// "QUESTION" or "QUESTION:KEY=VALUE,KEY=VALUE"; a value may hold commas in double quotes.
Result<StudyQuestion> read_study_question(const std::string& text);

struct Study {
    Ask base; ///< design, materials, variant and quality
    std::vector<std::string> paths;
    std::vector<std::vector<std::string>> settings; ///< of each design, a text for every path
    std::vector<StudyQuestion> questions;
};

/// The design with its settings, all applied together.
Result<Design> study_design(const Study& study, std::size_t design);
/// What is asked of a design.
Result<Ask> study_ask(const Study& study, std::size_t design, std::size_t question);

/// Where answers are kept; either may be empty.
struct AnswerShelf {
    std::function<std::optional<Answer>(const std::string& question, const Ask&)> find{};
    std::function<std::optional<Problem>(const Answer&, const Ask&)> keep{};
};

/// A part of the designs: those whose number leaves `index` over `count`.
struct Shard {
    int index = 0, count = 1;
    bool holds(std::size_t design) const { return int(design % std::size_t(count)) == index; }
};

struct StudyPrice {
    int designs = 0, answers = 0, kept = 0, failed = 0; ///< that cannot be built
    long fields = 0;                                    ///< to be solved
    double seconds = 0;                                 ///< about, from a measured field; 0: none could be
};
Result<StudyPrice> study_price(const Study& study, const Shard& shard, const AnswerShelf& shelf, int threads);

/// Of one design: an answer to each question, or why there is none. Left out of the shard: neither.
struct StudyRow {
    std::vector<std::optional<Answer>> answers;
    Problems problems;
};

struct StudyRun {
    int threads = 0;
    std::stop_token stop{};
    PointStore points{};
    bool collect = false; ///< take what is kept and solve nothing
    /// After every answer; called from any thread, one at a time.
    std::function<void(int done, int total, double seconds_left)> progress{};
};

/// Designs are spread over the threads, each answer on one. What was kept is taken; what is finished is kept at
/// once, so that a run that was stopped or killed goes on. A design that fails is told and passed over. Stopped
/// between or within answers: rows so far, and those that are missing empty.
std::vector<StudyRow> run_study(const Study& study, const Shard& shard, const AnswerShelf& shelf,
                                const StudyRun& run);

} // namespace mavlo
