// trade-off: free parameters, goals and limits; the front of best compromises.

#include "study/trade_off.h"

#include "commands.h"
#include "interrupt.h"
#include "project/shelf.h"
#include "storage/file.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <memory>
#include <unistd.h>

namespace mavlo::cli {
namespace {

struct TradeOptions {
    std::string file, variant, output, quality = "normal";
    std::vector<std::string> settings, free, more, less, limits, ask;
    int designs = 100, threads = 0, keep = 0;
    unsigned seed = 1;
};

Result<TradeOff> trade_of(const TradeOptions& o, const Chosen& chosen) {
    TradeOff trade;
    trade.base.design = chosen.design;
    trade.base.materials = chosen.project.materials;
    trade.base.variant = chosen.variant;
    trade.base.quality = quality_of(o.quality);
    trade.designs = o.designs;
    trade.seed = o.seed;
    for (const std::string& text : o.free) {
        auto variation = read_variation(text, chosen.design);
        if (!variation) return variation.problems();
        trade.free.push_back(std::move(*variation));
    }
    for (const std::string& text : o.more) trade.goals.push_back({text, true});
    for (const std::string& text : o.less) trade.goals.push_back({text, false});
    for (const std::string& text : o.limits) {
        auto bound = trade_limit(text);
        if (!bound) return bound.problems();
        trade.limits.push_back(std::move(*bound));
    }
    for (const std::string& text : o.ask.empty() ? std::vector<std::string>{"key-figures"} : o.ask) {
        auto question = read_study_question(text);
        if (!question) return question.problems();
        trade.questions.push_back(std::move(*question));
    }
    return trade;
}

/// Designs of the front into the project, each as a variant that follows the base's name.
std::optional<Problem> keep_variants(const TradeOptions& o, const TradeOff& trade, const TradeFront& front,
                                     Project project) {
    int number = 0;
    for (std::size_t i : spread_over_front(trade, front, std::size_t(o.keep))) {
        const auto design = traded_design(trade, front.tried[i]);
        if (!design) return design.problems().front();
        std::string name;
        do name = fmt::format("trade-off {}", ++number);
        while (project.find(name));
        Variant variant;
        variant.name = name;
        variant.design = *design;
        project.variants.push_back(std::move(variant));
    }
    return write_project(project, o.file);
}

int run_command(const TradeOptions& o) {
    auto chosen = choose(o.file, o.variant, o.settings);
    if (!chosen) return exit_code_of(chosen.problems());
    const auto trade = trade_of(o, *chosen);
    if (!trade) return exit_code_of(trade.problems());
    const AnswerStore store(o.file);
    const AnswerShelf shelf = shelf_of(store);
    const InterruptWatch interrupt;
    StudyRun run;
    run.threads = o.threads;
    run.stop = interrupt.token();
    run.points = PointStore(store.folder());
    const bool terminal = isatty(STDERR_FILENO);
    if (terminal)
        run.progress = [](int tried, int total, double left) {
            fmt::print(stderr, "\r{} of {} designs, about {:.0f} s left \033[K", tried, total, left);
        };
    const auto front = run_trade_off(*trade, shelf, run);
    if (terminal) fmt::print(stderr, "\r\033[K");
    if (!front) return exit_code_of(front.problems());
    fmt::print(stderr, "{}\n", gain_over_base(*trade, *front));
    const std::string csv = trade_to_csv(*trade, *front);
    if (o.output.empty())
        std::fwrite(csv.data(), 1, csv.size(), stdout);
    else if (const auto problem = write_file_atomically(o.output, csv))
        return exit_code_of({*problem});
    if (o.keep > 0)
        if (const auto problem = keep_variants(o, *trade, *front, chosen->project))
            return exit_code_of({*problem});
    return done;
}

} // namespace

void add_trade_off(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("trade-off", "Search free parameters for the best compromises.");
    auto o = std::make_shared<TradeOptions>();
    const auto list = [&](const char* name, std::vector<std::string>& values, const char* help) {
        command->add_option(name, values, help)->take_all()->expected(1);
    };
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("--variant", o->variant, "Variant to begin with; the one in hand otherwise");
    list("--set", o->settings, "PATH=VALUE: change the design to begin with");
    list("--free", o->free, "PATH=LOW:HIGH or PATH=A,B,C: what may change");
    list("--more", o->more, "An expression over figures and parameters that shall be large");
    list("--less", o->less, "One that shall be small; with --more one to four in all");
    list("--limit", o->limits, "EXPRESSION>=NUMBER or EXPRESSION<=NUMBER, in SI");
    list("--ask", o->ask, "QUESTION or QUESTION:KEY=VALUE,… whose figures are named; key-figures otherwise");
    command->add_option("--designs", o->designs, "Designs to try")->check(CLI::Range(2, 100000));
    command->add_option("--seed", o->seed, "Another one searches otherwise");
    command->add_option("--keep", o->keep, "Add so many designs of the front to the project, as variants")
        ->check(CLI::Range(1, 100));
    command->add_option("-o,--output", o->output, "Table of all designs, .csv; standard output otherwise");
    add_threads(*command, o->threads);
    command->add_option("--quality", o->quality, "draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->callback([o, &exit_code] { exit_code = run_command(*o); });
}

} // namespace mavlo::cli
