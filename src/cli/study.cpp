// study: the same questions of many designs.

#include "commands.h"
#include "interrupt.h"
#include "project/shelf.h"
#include "storage/file.h"
#include "study/slurm.h"
#include "study/study_table.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <memory>
#include <unistd.h>

namespace mavlo::cli {
namespace {

struct StudyOptions {
    std::string file, variant, output, quality = "normal", shard;
    std::vector<std::string> settings, vary, ask, figures, slurm_options;
    int samples = 0, threads = 0, shards = 0;
    unsigned seed = 1;
    bool paired = false, latin = false, price = false, slurm = false, detach = false;
};

Result<Shard> shard_of(const std::string& text) {
    if (text.empty()) return Shard{};
    int index = 0, count = 0;
    char rest = 0;
    if (std::sscanf(text.c_str(), "%d/%d%c", &index, &count, &rest) != 2 || count < 1 || index < 1 ||
        index > count)
        return Problem{"--shard", fmt::format("\"{}\" is no part; write I/N with I from 1 to N.", text)};
    return Shard{index - 1, count};
}

Result<Study> study_of(const StudyOptions& o) {
    auto chosen = choose(o.file, o.variant, o.settings);
    if (!chosen) return chosen.problems();
    Study study;
    study.base.design = chosen->design;
    study.base.materials = chosen->project.materials;
    study.base.variant = chosen->variant;
    study.base.quality = quality_of(o.quality);
    std::vector<Variation> variations;
    for (const std::string& text : o.vary) {
        auto variation = read_variation(text, chosen->design);
        if (!variation) return variation.problems();
        study.paths.push_back(variation->path);
        variations.push_back(std::move(*variation));
    }
    const Sampled sampling = o.samples > 0 ? (o.latin ? Sampled::Latin : Sampled::Sobol)
                             : o.paired    ? Sampled::Paired
                                           : Sampled::Grid;
    auto settings = settings_of(variations, sampling, o.samples, o.seed, chosen->design);
    if (!settings) return settings.problems();
    study.settings = std::move(*settings);
    for (const std::string& text : o.ask) {
        auto question = read_study_question(text);
        if (!question) return question.problems();
        study.questions.push_back(std::move(*question));
    }
    if (study.questions.empty()) return Problem{"--ask", "Nothing is asked; say --ask QUESTION."};
    return study;
}

int tell_price(const Study& study, const Shard& shard, const AnswerShelf& shelf, int threads) {
    const auto price = study_price(study, shard, shelf, threads);
    if (!price) return exit_code_of(price.problems());
    fmt::print("{{ \"designs\": {}, \"cannot_be_built\": {}, \"answers\": {}, \"kept\": {}, \"fields\": {}, "
               "\"seconds\": {:.3g} }}\n",
               price->designs, price->failed, price->answers, price->kept, price->fields, price->seconds);
    return done;
}

int write_table(const StudyOptions& o, const Study& study, const std::vector<StudyRow>& rows) {
    const StudyTable table = study_table(study, rows, o.figures);
    for (const std::string& figure : o.figures) {
        const auto named = [&](const StudyTable::Column& c) {
            return c.name == figure || c.name.ends_with("." + figure);
        };
        if (std::none_of(table.columns.begin(), table.columns.end(), named))
            complain({{"--figure", fmt::format("No answer has a figure {}.", figure)}}, "warning");
    }
    std::optional<Problem> problem;
    if (o.output.ends_with(".h5")) {
        problem = write_study_h5(table, study, rows, o.output);
    } else if (const std::string csv = study_to_csv(table); o.output.empty()) {
        std::fwrite(csv.data(), 1, csv.size(), stdout);
    } else {
        problem = write_file_atomically(o.output, csv);
    }
    if (problem) return exit_code_of({*problem});
    const auto failed = std::count_if(table.problems.begin(), table.problems.end(),
                                      [](const std::string& sentence) { return !sentence.empty(); });
    if (failed > 0)
        fmt::print(stderr, "{} of {} designs failed; the table says why.\n", failed, table.designs.size());
    return failed == std::ptrdiff_t(table.designs.size()) && failed > 0 ? wrong_input : done;
}

StudyCall call_of(const StudyOptions& o) {
    return {std::filesystem::read_symlink("/proc/self/exe").string(),
            std::filesystem::absolute(o.file).string(),
            o.variant,
            o.quality,
            o.settings,
            o.vary,
            o.ask,
            o.samples,
            o.seed,
            o.paired,
            o.latin};
}

/// Until the array is over, or the user wants to go.
Problems follow(const std::string& number, const Study& study, const AnswerShelf& shelf,
                const InterruptWatch& interrupt) {
    const std::size_t total = study.settings.size() * study.questions.size();
    ClusterProgress progress;
    if (isatty(STDERR_FILENO))
        progress = [&](const SlurmState& state, int answers) {
            fmt::print(stderr, "\rjob {}: {} running, {} waiting; {} of {} answers \033[K", number,
                       state.running, state.waiting, answers, total);
        };
    auto problems = follow_array(number, study, shelf, interrupt.token(), progress);
    if (progress) fmt::print(stderr, "\r\033[K");
    return problems;
}

/// Submits what is not answered yet and waits for it; empty when the answers lie on the shelf.
std::optional<int> spread(const StudyOptions& o, const Study& study, const AnswerShelf& shelf,
                          const std::filesystem::path& folder, const InterruptWatch& interrupt) {
    SlurmJob job;
    job.command = words_of(call_of(o));
    job.threads = o.threads > 0 ? o.threads : 1;
    job.shards = o.shards > 0 ? o.shards : int(std::min<std::size_t>(study.settings.size(), 64));
    job.options = o.slurm_options;
    job.folder = std::filesystem::absolute(folder);
    job.subject = fmt::format("{} {}", fmt::join(job.command, " "), job.shards);
    const auto number = submit(job, interrupt.token());
    if (!number) return exit_code_of(number.problems());
    if (o.detach) {
        fmt::print("{{ \"job\": {}, \"shards\": {} }}\n", *number, job.shards);
        return done;
    }
    if (const auto problems = follow(*number, study, shelf, interrupt); !problems.empty()) {
        if (is_stopped(problems))
            fmt::print(stderr, "Job {} goes on; the same command finds it again.\n", *number);
        return exit_code_of(problems);
    }
    return std::nullopt;
}

int run_command(const StudyOptions& o) {
    if (!o.output.empty() && !o.output.ends_with(".csv") && !o.output.ends_with(".h5")) {
        complain({{"-o", "A study is written as .csv or .h5."}});
        return wrong_usage;
    }
    const auto shard = shard_of(o.shard);
    if (!shard) return exit_code_of(shard.problems());
    const auto study = study_of(o);
    if (!study) return exit_code_of(study.problems());
    const AnswerStore store(o.file);
    const AnswerShelf shelf = shelf_of(store);
    if (o.price) return tell_price(*study, *shard, shelf, o.threads);
    const InterruptWatch interrupt;
    StudyRun run;
    if (o.slurm) {
        const int answers = int(study->settings.size() * study->questions.size());
        if (count_kept(*study, shelf) < answers)
            if (const auto code = spread(o, *study, shelf, store.folder(), interrupt)) return *code;
        run.collect = true;
    }
    run.threads = o.threads;
    run.stop = interrupt.token();
    run.points = PointStore(store.folder());
    const bool terminal = isatty(STDERR_FILENO);
    if (terminal)
        run.progress = [](int ready, int total, double left) {
            fmt::print(stderr, "\r{} of {} answers, about {:.0f} s left \033[K", ready, total, left);
        };
    const auto rows = run_study(*study, *shard, shelf, run);
    if (terminal) fmt::print(stderr, "\r\033[K");
    if (run.stop.stop_requested()) return interrupted;
    return write_table(o, *study, rows);
}

} // namespace

void add_study(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("study", "Ask questions of many designs; a table of their figures.");
    auto o = std::make_shared<StudyOptions>();
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("--variant", o->variant, "Variant to vary; the one in hand otherwise");
    command->add_option("--set", o->settings, "PATH=VALUE: change the design for all")->take_all()->expected(1);
    command
        ->add_option("--vary", o->vary,
                     "PATH=FROM:TO:COUNT or PATH=A,B,C; several: every value with every other's")
        ->take_all()
        ->expected(1);
    command->add_flag("--paired", o->paired, "Values of all --vary go together, one after the other");
    command->add_option("--sample", o->samples, "So many designs between the limits (Sobol's sequence)")
        ->check(CLI::Range(1, 100000));
    command->add_flag("--latin", o->latin, "Samples as a Latin hypercube");
    command->add_option("--seed", o->seed, "Of a Latin hypercube");
    command->add_option("--ask", o->ask, "QUESTION or QUESTION:KEY=VALUE,…")->take_all()->expected(1);
    command->add_option("--figure", o->figures, "A figure to keep; all otherwise")->take_all()->expected(1);
    command->add_option("-o,--output", o->output, "Table, .csv or .h5; standard output otherwise");
    command->add_option("--shard", o->shard, "I/N: the I-th of N parts of the designs");
    command->add_flag("--slurm", o->slurm, "Spread it over a cluster as a job array of Slurm, and collect");
    command->add_option("--shards", o->shards, "With --slurm: so many jobs; one a design otherwise, 64 at most")
        ->check(CLI::Range(1, 100000));
    command->add_option("--slurm-option", o->slurm_options, "With --slurm: a further option of sbatch")
        ->take_all()
        ->expected(1);
    command->add_flag("--detach", o->detach,
                      "With --slurm: submit and leave; the same call without it collects");
    command->add_flag("--price", o->price, "Say how many fields and about how many seconds, and stop");
    add_threads(*command, o->threads);
    command->add_option("--quality", o->quality, "draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->callback([o, &exit_code] { exit_code = run_command(*o); });
}

} // namespace mavlo::cli
