#include "commands.h"
#include "project/unknown_keys.h"
#include "quantity/text.h"
#include "storage/file.h"

#include <CLI/CLI.hpp>
#include <cstdio>
#include <fmt/format.h>
#include <tbb/global_control.h>

namespace mavlo::cli {
namespace {
constexpr std::uintmax_t most_table_bytes = 16 << 20;
}

void add_threads(CLI::App& command, int& threads) {
    command
        .add_option_function<int>(
            "--threads",
            [&threads](int count) {
                threads = count;
                static const tbb::global_control within_a_field(tbb::global_control::max_allowed_parallelism,
                                                                std::size_t(count));
            },
            "Threads; all cores otherwise")
        ->check(CLI::Range(1, 1024));
}

void complain(const Problems& problems, const char* word) {
    for (const Problem& problem : problems)
        fmt::print(stderr, "{}: {}\n", word, for_terminal(to_string(problem)));
}

Result<std::pair<std::string, std::string>> split_assignment(const std::string& text) {
    const auto equals = text.find('=');
    if (equals == std::string::npos || equals == 0)
        return Problem{text, "PATH=VALUE is wanted here, e.g. gap=\"0.9 mm\"."};
    return std::pair{text.substr(0, equals), text.substr(equals + 1)};
}

Result<Design> with_settings(Design design, const std::vector<std::string>& settings) {
    Problems problems;
    for (const std::string& setting : settings) {
        const auto parts = split_assignment(setting);
        if (!parts) {
            problems.push_back(parts.problems().front());
            continue;
        }
        std::string text = parts->second;
        if (parts->first == "coils" && text.starts_with('@')) {
            auto table = read_file(text.substr(1), most_table_bytes);
            if (!table) {
                problems.push_back(table.problems().front());
                continue;
            }
            text = std::move(*table);
        }
        auto changed = with_text(design, parts->first, text);
        if (changed)
            design = *changed;
        else
            problems.push_back(changed.problems().front());
    }
    if (!problems.empty()) return problems;
    return design;
}

Result<Chosen> choose(const std::string& file, const std::string& variant,
                      const std::vector<std::string>& settings) {
    auto project = read_project(file);
    if (!project) {
        Problems problems = project.problems();
        for (Problem& p : problems)
            if (p.path != file) p.path = p.path.empty() ? file : file + ": " + p.path;
        return problems;
    }
    const std::string name = variant.empty() ? project->active : variant;
    const Variant* found = project->find(name);
    if (!found) return Problem{"--variant", fmt::format("The project has no variant \"{}\".", name)};
    for (const auto& [pointer, text] : found->unknown)
        complain({{shown_path(pointer), "This key is not known and is not used."}}, "warning");
    auto design = with_settings(found->design, settings);
    if (!design) return design.problems();
    return Chosen{std::move(*project), name, std::move(*design)};
}

int exit_code_of(const Problems& problems) {
    if (is_stopped(problems)) return interrupted;
    complain(problems);
    if (!problems.empty() && problems.front().path == "field") return solver_failed;
    return wrong_input;
}

Quality quality_of(const std::string& name) {
    return name == "draft" ? Quality::Draft : name == "fine" ? Quality::Fine : Quality::Normal;
}

} // namespace mavlo::cli
