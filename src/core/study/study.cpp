#include "study/study.h"

#include "quantity/quantity.h"
#include "question/quick.h"

#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <mutex>
#include <set>

namespace mavlo {
namespace {

/// How much longer a field takes at a quality than the quick figures' own.
double pace_of(Quality quality) {
    return quality == Quality::Draft ? 1 : quality == Quality::Normal ? 3 : 10;
}

std::vector<std::string> outside_quotes(const std::string& text, char mark) {
    std::vector<std::string> parts{""};
    bool quoted = false;
    for (char c : text) {
        if (c == '"')
            quoted = !quoted;
        else if (c == mark && !quoted)
            parts.emplace_back();
        else
            parts.back() += c;
    }
    return parts;
}

} // namespace

Result<StudyQuestion> read_study_question(const std::string& text) {
    const auto colon = text.find(':');
    StudyQuestion question{std::string(trim(text.substr(0, colon))), {}, text};
    if (!find_question(question.name))
        return Problem{"--ask", fmt::format("There is no question \"{}\"; `mavlo-cli questions` lists them.",
                                            question.name)};
    if (colon == std::string::npos) return question;
    for (const std::string& part : outside_quotes(text.substr(colon + 1), ',')) {
        const auto equals = part.find('=');
        if (equals == std::string::npos)
            return Problem{
                "--ask",
                fmt::format("\"{}\" is no KEY=VALUE; put values with commas into double quotes.", part)};
        question.with[std::string(trim(part.substr(0, equals)))] = std::string(trim(part.substr(equals + 1)));
    }
    return question;
}

Result<Design> study_design(const Study& study, std::size_t index) {
    Design design = study.base.design;
    for (std::size_t k = 0; k < study.paths.size(); ++k) {
        auto changed = with_text(std::move(design), study.paths[k], study.settings[index][k]);
        if (!changed) return changed;
        design = std::move(*changed);
    }
    return design;
}

Result<Ask> study_ask(const Study& study, std::size_t design, std::size_t question) {
    auto changed = study_design(study, design);
    if (!changed) return changed.problems();
    Ask ask = study.base;
    ask.design = std::move(*changed);
    ask.with = study.questions[question].with;
    return ask;
}

Result<StudyPrice> study_price(const Study& study, const Shard& shard, const AnswerShelf& shelf, int threads) {
    StudyPrice price;
    std::set<std::string> known;
    double pace = 0;
    for (std::size_t d = 0; d < study.settings.size(); ++d) {
        if (!shard.holds(d)) continue;
        ++price.designs;
        const auto design = study_design(study, d);
        const auto machine =
            design ? build_machine(*design, study.base.materials) : Result<Machine>(design.problems());
        if (!machine) {
            ++price.failed;
            continue;
        }
        if (pace == 0)
            if (const auto model = prepare_field(*machine, quick_mesh()))
                if (const auto quick = quick_figures(*model, 1, {})) pace = quick->seconds_per_solve;
        for (std::size_t q = 0; q < study.questions.size(); ++q) {
            const auto ask = study_ask(study, d, q);
            ++price.answers;
            if (!known.insert(answer_key(study.questions[q].name, *ask)).second ||
                (shelf.find && shelf.find(study.questions[q].name, *ask))) {
                ++price.kept;
                continue;
            }
            const auto fields = question_price(*find_question(study.questions[q].name), *ask, *machine);
            if (!fields) {
                if (price.failed + price.kept == 0 && d == 0) return fields.problems();
                continue;
            }
            price.fields += *fields;
        }
    }
    price.seconds = double(price.fields) * pace * pace_of(study.base.quality) / thread_count(threads);
    return price;
}

namespace {

/// One answer at a time, from the shelf or solved.
class Worker {
  public:
    Worker(const Study& study, const AnswerShelf& shelf, const StudyRun& run)
        : m_study(study)
        , m_shelf(shelf)
        , m_run(run) {}

    void answer(std::size_t design, std::size_t question, StudyRow& row) const {
        auto ask = study_ask(m_study, design, question);
        if (!ask) return tell(ask.problems(), row);
        const std::string& name = m_study.questions[question].name;
        if (m_shelf.find)
            if (auto kept = m_shelf.find(name, *ask)) {
                row.answers[question] = std::move(kept);
                return;
            }
        if (m_run.collect) return tell_missing(*ask, row);
        Run one;
        one.threads = 1;
        one.watch.stop = m_run.stop;
        one.points = m_run.points;
        auto found = ask_question(name, *ask, one);
        if (!found) return tell(found.problems(), row);
        if (m_shelf.keep)
            if (const auto problem = m_shelf.keep(*found, *ask)) tell({*problem}, row);
        row.answers[question] = std::move(*found);
    }

  private:
    static void tell_missing(const Ask& ask, StudyRow& row) {
        const auto machine = build_machine(ask.design, ask.materials);
        if (!machine) return tell(machine.problems(), row);
        tell({{"", "Not answered yet; run the study again."}}, row);
    }

    static void tell(const Problems& problems, StudyRow& row) {
        if (is_stopped(problems)) return;
        for (const Problem& problem : problems)
            if (std::find(row.problems.begin(), row.problems.end(), problem) == row.problems.end())
                row.problems.push_back(problem);
    }

    const Study& m_study;
    const AnswerShelf& m_shelf;
    const StudyRun& m_run;
};

} // namespace

std::vector<StudyRow> run_study(const Study& study, const Shard& shard, const AnswerShelf& shelf,
                                const StudyRun& run) {
    std::vector<StudyRow> rows(study.settings.size());
    std::vector<std::size_t> designs;
    for (std::size_t d = 0; d < rows.size(); ++d) {
        if (!shard.holds(d)) continue;
        rows[d].answers.resize(study.questions.size());
        designs.push_back(d);
    }
    const int total = int(designs.size() * study.questions.size());
    const auto begin = std::chrono::steady_clock::now();
    const Worker worker(study, shelf, run);
    std::mutex mutex;
    int done = 0;
    // A design's answers share its mesh and its kept points: they stay on one thread.
    on_threads(int(designs.size()), run.threads, [&](int k) {
        const std::size_t design = designs[std::size_t(k)];
        for (std::size_t q = 0; q < study.questions.size(); ++q) {
            if (run.stop.stop_requested()) return;
            worker.answer(design, q, rows[design]);
            const std::lock_guard lock(mutex);
            ++done;
            const double passed =
                std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            if (run.progress) run.progress(done, total, passed / done * (total - done));
        }
    });
    return rows;
}

} // namespace mavlo
