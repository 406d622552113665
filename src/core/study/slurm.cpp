#include "study/slurm.h"

#include "machine/hash.h"
#include "quantity/quantity.h"
#include "storage/file.h"
#include "study/process.h"

#include <algorithm>
#include <cctype>
#include <chrono>
#include <fmt/format.h>
#include <thread>

namespace mavlo {
namespace {

constexpr double slurm_patience = 60; // s

/// A word that the shell takes as it is (POSIX.1-2017, 2.2.2).
std::string quoted(const std::string& word) {
    std::string out = "'";
    for (char c : word) out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return out + "'";
}

std::filesystem::path file_of(const SlurmJob& job, const char* suffix) {
    return job.folder / fmt::format("slurm-{}{}", sha256(job.subject).substr(0, 16), suffix);
}

std::string number_in(const std::string& text) {
    std::string number;
    for (char c : text)
        if (std::isdigit(static_cast<unsigned char>(c)))
            number += c;
        else if (!number.empty())
            break;
    return number;
}

std::string first_line(const std::string& text) {
    return std::string(trim(std::string_view(text).substr(0, text.find('\n'))));
}

std::string submitted_before(const SlurmJob& job) {
    const std::string number = number_in(read_kept(file_of(job, ".job"), 1000).value_or(""));
    if (number.empty()) return {};
    const auto state = slurm_state(number);
    return state && !state->over() ? number : std::string();
}

} // namespace

std::vector<std::string> words_of(const StudyCall& call) {
    std::vector<std::string> words{call.program, "study", call.file, "--quality", call.quality};
    const auto add = [&](const char* option, const std::vector<std::string>& values) {
        for (const std::string& value : values) words.insert(words.end(), {option, value});
    };
    if (!call.variant.empty()) add("--variant", {call.variant});
    add("--set", call.settings);
    add("--vary", call.vary);
    add("--ask", call.ask);
    if (call.samples > 0) add("--sample", {std::to_string(call.samples)});
    add("--seed", {std::to_string(call.seed)});
    if (call.paired) words.emplace_back("--paired");
    if (call.latin) words.emplace_back("--latin");
    return words;
}

/// Of what stands in lines that begin with #SBATCH: whatever ends them, or that Slurm takes for a pattern.
std::optional<Problem> unfit_for_slurm(const SlurmJob& job) {
    const std::string folder = job.folder.string();
    const auto is_control = [](unsigned char c) { return c < 0x20 || c == 0x7F; };
    if (std::any_of(folder.begin(), folder.end(), is_control) ||
        folder.find_first_of(R"(%"\)") != std::string::npos)
        return Problem{folder,
                       "The name of this folder holds an end of line, a quotation mark, a percent sign or a "
                       "backslash, which a script for Slurm cannot hold; move the project to another folder."};
    for (const std::string& option : job.options)
        if (std::any_of(option.begin(), option.end(), is_control))
            return Problem{"--slurm-option", "An option for Slurm is one line without control characters."};
    return std::nullopt;
}

/// Slurm adds to the logs by their names, through links: what stands there must be a log of ours, or nothing.
std::optional<Problem> unfit_log(const SlurmJob& job) {
    for (int shard = 1; shard <= job.shards; ++shard) {
        const std::filesystem::path log = file_of(job, "").string() + fmt::format("-{}.log", shard);
        if (std::filesystem::symlink_status(log).type() == std::filesystem::file_type::not_found ||
            is_kept(log))
            continue;
        return Problem{log.string(),
                       "A link, or what is no file, stands where Slurm's log will be; remove it."};
    }
    return std::nullopt;
}

std::string slurm_script(const SlurmJob& job) {
    std::string script = "#!/bin/bash\n#SBATCH --job-name=mavlo-study\n";
    script += fmt::format("#SBATCH --array=1-{}\n#SBATCH --cpus-per-task={}\n", job.shards, job.threads);
    script += fmt::format("#SBATCH --output=\"{}\"\n#SBATCH --open-mode=append\n#SBATCH --requeue\n",
                          (file_of(job, "").string() + "-%a.log"));
    for (const std::string& option : job.options) script += fmt::format("#SBATCH {}\n", option);
    script += "exec";
    for (const std::string& word : job.command) script += " " + quoted(word);
    return script + fmt::format(" --threads {} --shard \"$SLURM_ARRAY_TASK_ID/{}\"\n", job.threads, job.shards);
}

Result<std::string> submit(const SlurmJob& job, const std::stop_token& stop) {
    for (auto problem : {unfit_for_slurm(job), unfit_log(job)})
        if (problem) return *problem;
    if (auto number = submitted_before(job); !number.empty()) return number;
    std::error_code error;
    std::filesystem::create_directories(job.folder, error);
    const auto script = file_of(job, ".sh");
    if (auto problem = write_kept(script, slurm_script(job))) return *problem;
    const auto sent = run_program({"sbatch", "--parsable", script.string()}, {}, {slurm_patience, stop});
    if (!sent && sent.problems().front().path.empty()) return sent.problems();
    if (!sent) {
        const bool missing = sent.problems().front().sentence == not_installed;
        return Problem{"--slurm", (missing ? "Slurm's sbatch is not found; install slurm-client"
                                           : "Slurm's sbatch did not answer: " +
                                                 sent.problems().front().sentence + " Try again") +
                                      std::string(", or run the shards with --shard.")};
    }
    const std::string number = number_in(sent->output);
    if (sent->exit != 0 || number.empty())
        return Problem{"--slurm", fmt::format("Slurm did not take the study: {}", first_line(sent->output))};
    if (auto problem = write_kept(file_of(job, ".job"), number + "\n")) return *problem;
    return number;
}

Result<SlurmState> slurm_state(const std::string& number, const std::stop_token& stop) {
    const auto told = run_program({"squeue", "-h", "-r", "-j", number, "-o", "%T"}, {}, {slurm_patience, stop});
    if (!told && told.problems().front().path.empty()) return told.problems();
    if (!told) return Problem{"--slurm", "Slurm's squeue cannot be asked. " + told.problems().front().sentence};
    SlurmState state;
    // A job that is long over is unknown to it.
    if (told->exit != 0) {
        if (told->output.find("Invalid job id") != std::string::npos) return state;
        return Problem{"--slurm", fmt::format("Slurm cannot be asked: {}", first_line(told->output))};
    }
    std::size_t from = 0;
    while (from < told->output.size()) {
        const std::size_t end = std::min(told->output.find('\n', from), told->output.size());
        const std::string word(trim(std::string_view(told->output).substr(from, end - from)));
        if (word == "PENDING" || word == "REQUEUED" || word == "SUSPENDED" || word == "CONFIGURING")
            ++state.waiting;
        else if (!word.empty())
            ++state.running;
        from = end + 1;
    }
    return state;
}

int count_kept(const Study& study, const AnswerShelf& shelf) {
    int kept = 0;
    for (std::size_t d = 0; d < study.settings.size(); ++d)
        for (std::size_t q = 0; q < study.questions.size(); ++q)
            if (const auto ask = study_ask(study, d, q))
                kept += shelf.find(study.questions[q].name, *ask).has_value();
    return kept;
}

Problems follow_array(const std::string& number, const Study& study, const AnswerShelf& shelf,
                      const std::stop_token& stop, const ClusterProgress& progress) {
    for (int quiet = 0; quiet < 2;) {
        const auto state = slurm_state(number, stop);
        if (!state) return state.problems();
        if (progress) progress(*state, count_kept(study, shelf));
        quiet = state->over() ? quiet + 1 : 0; // a job between two queues is in none for a moment
        for (int k = 0; k < 10; ++k) {
            if (stop.stop_requested()) return {stopped()};
            std::this_thread::sleep_for(std::chrono::milliseconds(100));
        }
    }
    return {};
}

} // namespace mavlo
