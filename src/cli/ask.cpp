// ask: one question of one design.

#include "commands.h"
#include "heat/walls.h"
#include "interrupt.h"
#include "map/flux_map_file.h"
#include "project/answers.h"
#include "quantity/quantity.h"
#include "question/heat_losses.h"
#include "question/map_answer.h"
#include "storage/file.h"

#include <CLI/CLI.hpp>
#include <cstdio>
#include <fmt/format.h>
#include <memory>
#include <sstream>
#include <unistd.h>

namespace mavlo::cli {
namespace {

struct AskOptions {
    std::string file, question, variant, output, quality = "normal", map_in, map_out, duty, losses, walls;
    std::vector<std::string> settings, with;
    int threads = 0;
    bool keep = false, error = false, library = false;
};

int write_answer(const Answer& answer, const std::string& output) {
    const bool csv = output.ends_with(".csv");
    const std::string text = csv ? answer_to_csv(answer) : answer_to_json(answer);
    if (output.empty()) {
        std::fwrite(text.data(), 1, text.size(), stdout);
        return done;
    }
    if (const auto problem = write_file_atomically(output, text)) {
        complain({*problem});
        return wrong_input;
    }
    return done;
}

/// A duty's points from three columns; lines that do not begin with a number are heads.
Result<std::vector<std::array<std::string, 3>>> read_duty(const std::string& file) {
    const auto table = read_file(file, 16 << 20);
    if (!table) return table.problems();
    std::istringstream in(*table);
    std::vector<std::array<std::string, 3>> points;
    int row = 0;
    for (std::string line; std::getline(in, line);) {
        ++row;
        std::string_view text = trim(line), rest;
        if (text.empty() || !read_number(text, rest)) continue;
        points.emplace_back();
        for (std::size_t k = 0; k < 3; ++k) {
            const auto number = read_number(trim(text), rest);
            rest = trim(rest);
            if (!number || (k < 2 && (rest.empty() || (rest.front() != ',' && rest.front() != ';'))))
                return Problem{file, fmt::format("Line {} does not hold speed, torque and time.", row)};
            points.back()[k] = number_text(*number, 12);
            if (k < 2) text = rest.substr(1);
        }
    }
    if (points.empty()) return Problem{file, "The duty holds no points."};
    return points;
}

/// As the question takes a duty: three lists, or of heat a table of stretches.
std::map<std::string, std::string> inputs_of_duty(const std::string& question,
                                                  const std::vector<std::array<std::string, 3>>& points) {
    std::array<std::string, 3> lists;
    std::string table;
    for (const auto& [speed, torque, time] : points) {
        const char* comma = table.empty() ? "" : ", ";
        table += comma + (speed == "0" && torque == "0" ? time + " s:rest"
                                                        : time + " s:" + torque + " N.m@" + speed + " rpm");
        const std::string* own[] = {&speed, &torque, &time};
        for (std::size_t k = 0; k < 3; ++k) lists[k] += comma + *own[k];
    }
    if (question == "heat-up") return {{"duty", table}};
    return {{"duty_speeds", lists[0] + " rpm"},
            {"duty_torques", lists[1] + " N.m"},
            {"duty_times", lists[2] + " s"}};
}

/// Losses of another answer, and films outside from a flow solver's table.
Problems read_for_heat(const AskOptions& o, std::map<std::string, std::string>& with) {
    if (!o.losses.empty()) {
        const auto text = read_file(o.losses, 256 << 20);
        if (!text) return text.problems();
        const auto answer = answer_from_json(*text);
        if (!answer)
            return {
                {o.losses, "This is no answer as `ask -o` writes it: " + answer.problems().front().sentence}};
        with["losses"] = losses_in_words(*answer);
        if (with["losses"].empty())
            return {{o.losses, "This answer tells no losses; take one of load, in-time or rating-plate."}};
    }
    if (!o.walls.empty()) {
        const auto table = read_file(o.walls, 16 << 20);
        if (!table) return table.problems();
        const auto walls = walls_of_table(*table, o.walls);
        if (!walls) return walls.problems();
        with["walls"] = *walls;
    }
    return {};
}

/// The answer, and its flux map as a file of its own where that is wanted.
int write_both(const Answer& answer, const AskOptions& o) {
    if (!o.map_out.empty()) {
        const auto map = flux_map_of(answer);
        const std::optional<Problem> problem =
            map ? write_flux_map(*map, o.map_out) : std::optional(map.problems().front());
        if (problem) {
            complain({*problem});
            return wrong_input;
        }
    }
    return write_answer(answer, o.output);
}

int run_ask(const AskOptions& o) {
    if (!o.output.empty() && !o.output.ends_with(".json") && !o.output.ends_with(".csv")) {
        complain({{"-o", "The answer is written as .json or .csv."}});
        return wrong_usage;
    }
    if (!find_question(o.question)) {
        complain({{o.question, "There is no such question; `mavlo-cli questions` lists them."}});
        return wrong_usage;
    }
    auto chosen = choose(o.file, o.variant, o.settings);
    if (!chosen) return exit_code_of(chosen.problems());
    Ask ask;
    ask.design = chosen->design;
    ask.materials = chosen->project.materials;
    ask.variant = chosen->variant;
    ask.quality = quality_of(o.quality);
    Run run;
    run.threads = o.threads;
    for (const std::string& text : o.with) {
        const auto parts = split_assignment(text);
        if (!parts) return exit_code_of(parts.problems());
        ask.with[parts->first] = parts->second;
    }
    if (!o.duty.empty()) {
        const auto points = read_duty(o.duty);
        if (!points) return exit_code_of(points.problems());
        for (const auto& [key, text] : inputs_of_duty(o.question, *points)) ask.with[key] = text;
    }
    if (auto problems = read_for_heat(o, ask.with); !problems.empty()) return exit_code_of(problems);
    if (!o.map_in.empty()) {
        auto map = read_flux_map(o.map_in);
        if (!map) return exit_code_of(map.problems());
        run.map = std::make_shared<const FluxMap>(std::move(*map));
    }
    // A check of the factorisation, or a map from elsewhere, neither takes nor leaves a kept answer.
    const AnswerStore store = o.keep && !o.library && !run.map ? AnswerStore(o.file) : AnswerStore();
    ask.with_error = o.error;
    run.points = PointStore(store.folder());
    ask.library_solver = o.library;
    if (const auto kept = store.find(o.question, ask); kept && (!o.error || kept->has_errors()))
        return write_both(*kept, o);
    const InterruptWatch interrupt;
    run.watch.stop = interrupt.token();
    const bool terminal = isatty(STDERR_FILENO);
    if (terminal)
        run.watch.progress = [](int ready, int total) {
            fmt::print(stderr, "\r{} of {} fields", ready, total);
        };
    const auto answer = ask_question(o.question, ask, run);
    if (terminal) fmt::print(stderr, "\r\033[K");
    if (!answer) return exit_code_of(answer.problems());
    if (const auto problem = store.keep(*answer, ask)) complain({*problem}, "warning");
    return write_both(*answer, o);
}

} // namespace

void add_ask(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("ask", "Ask a question of a design.");
    auto o = std::make_shared<AskOptions>();
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("QUESTION", o->question, "Name of the question")->required();
    command->add_option("--variant", o->variant, "Variant to ask; the one in hand otherwise");
    command->add_option("--set", o->settings, "PATH=VALUE: change the design for this call")
        ->take_all()
        ->expected(1);
    command->add_option("--with", o->with, "KEY=VALUE: an input of the question")->take_all()->expected(1);
    command->add_option("-o,--output", o->output, "Answer file, .json or .csv; standard output otherwise");
    add_threads(*command, o->threads);
    command->add_option("--quality", o->quality, "draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->add_flag("--library-solver", o->library,
                      "Factorise with CHOLMOD instead of Mavlo's own code, as a check");
    command->add_option("--duty", o->duty, "Duty as CSV: speed in rpm, torque in N.m, time in s");
    command->add_option("--losses", o->losses, "Of questions about heat: the losses of another answer (.json)");
    command->add_option("--walls", o->walls,
                        "Of questions about heat: films outside as CSV, as `export --heat` writes them");
    command->add_option("--map", o->map_in, "Flux map (.h5 or .csv) to use instead of solving one");
    command->add_option("--save-map", o->map_out, "Save the answer's flux map as .h5 or .csv");
    command->add_flag("--error", o->error,
                      "Solve on a coarser mesh too and state each figure's discretisation error");
    command->add_flag("--keep", o->keep,
                      "Keep the answer beside the project, and take it from there when it is kept already");
    command->callback([o, &exit_code] { exit_code = run_ask(*o); });
}

} // namespace mavlo::cli
