#pragma once
// The subcommands of mavlo-cli; each adds itself to the argument parser and sets the exit code.

#include "project/project.h"
#include "question/question.h"

#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace mavlo::cli {

enum ExitCode { done = 0, wrong_input = 1, wrong_usage = 2, solver_failed = 3, interrupted = 130 };

void add_new(CLI::App& app, int& exit_code);
void add_check(CLI::App& app, int& exit_code);
void add_ask(CLI::App& app, int& exit_code);
void add_study(CLI::App& app, int& exit_code);
void add_trade_off(CLI::App& app, int& exit_code);
void add_report(CLI::App& app, int& exit_code);
void add_show(CLI::App& app, int& exit_code);
void add_import(CLI::App& app, int& exit_code);
void add_export(CLI::App& app, int& exit_code);
void add_lists(CLI::App& app, int& exit_code);

/// --threads: how many cores all that the command does may use.
void add_threads(CLI::App& command, int& threads);

/// Prints each problem on standard error with a word before it.
void complain(const Problems& problems, const char* word = "error");

/// Complains, unless it was stopped, and says how the program ends.
int exit_code_of(const Problems& problems);
Quality quality_of(const std::string& name); ///< "draft", "normal" or "fine"

/// Splits "PATH=VALUE"; fails when there is no "=".
Result<std::pair<std::string, std::string>> split_assignment(const std::string& text);
/// Applies --set assignments together.
Result<Design> with_settings(Design design, const std::vector<std::string>& settings);

/// A project, the chosen variant's design with the settings, and the warnings on the way.
struct Chosen {
    Project project;
    std::string variant;
    Design design;
};
Result<Chosen> choose(const std::string& file, const std::string& variant,
                      const std::vector<std::string>& settings);

} // namespace mavlo::cli
