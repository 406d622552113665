// new, check, questions and materials.

#include "commands.h"
#include "machine/tile_kind.h"
#include "quantity/text.h"

#include <CLI/CLI.hpp>
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <memory>

namespace mavlo::cli {
namespace {

struct NewOptions {
    std::string shape, file;
    std::vector<std::string> settings;
    bool list = false;
};

int run_new(const NewOptions& o) {
    if (o.list) {
        for (const StartingShape& shape : starting_shapes()) fmt::print("{:<22} {}\n", shape.name, shape.tells);
        return done;
    }
    if (o.shape.empty() || o.file.empty()) {
        complain({{"new", "Say which shape (new --list names them) and where to write it (-o FILE)."}});
        return wrong_usage;
    }
    auto project = new_project(o.shape);
    if (!project) {
        complain({{o.shape, "There is no such starting shape; `mavlo-cli new --list` names them."}});
        return wrong_usage;
    }
    auto design = with_settings(project->variants.front().design, o.settings);
    if (!design) {
        complain(design.problems());
        return wrong_input;
    }
    project->variants.front().design = *design;
    project->name = std::filesystem::path(o.file).stem().string();
    complain(check_project(*project), "warning");
    if (const auto problem = write_project(*project, o.file)) {
        complain({*problem});
        return wrong_input;
    }
    return done;
}

int run_check(const std::string& file) {
    const auto project = read_project(file);
    const Problems problems = project ? check_project(*project) : project.problems();
    for (const Problem& problem : problems) fmt::print("{}\n", for_terminal(to_string(problem)));
    return problems.empty() ? done : wrong_input;
}

void list_questions() {
    for (const QuestionKind& kind : question_kinds()) {
        fmt::print("{:<18} {}: {}\n", kind.name, kind.group, kind.tells);
        for (const QuestionInput& input : kind.inputs)
            fmt::print("           --with {}={}{}  {}\n", input.key, input.standard,
                       input.unit.empty() || input.standard.starts_with("=") || input.kind != InputKind::Number
                           ? ""
                           : " " + input.unit,
                       input.help);
    }
}

std::string limits_of(const Parameter& p) {
    std::string limits;
    if (p.low <= p.high)
        limits = fmt::format("{:g} to {:g}{}{}", p.low, p.high, p.unit.empty() ? "" : " ", p.unit);
    else if (p.kind == ParameterKind::Choice)
        limits = fmt::format("{}", fmt::join(p.choices(), ", "));
    else
        limits = p.material == MaterialKind::Air ? "air, an insulator, conductor or steel"
                                                 : fmt::format("a {}", to_string(p.material));
    return p.auto_allowed ? limits + ", or auto" : limits;
}

/// Kinds that own the parameter; empty for one that every design has.
std::vector<std::string> owners_of(const Parameter& p) {
    std::vector<std::string> names;
    for (const TileKind& kind : registry<TileKind>().all())
        for (const Parameter& own : kind.parameters)
            if (own.path == p.path) names.push_back(kind.name);
    return names;
}

/// The tables of docs/file-format.md: one for each group of the sheet.
void list_parameters() {
    std::string group;
    for (const Parameter& p : parameters()) {
        if (p.page + ": " + p.group != group) {
            group = p.page + ": " + p.group;
            fmt::print("\n### {}\n\n| path | standard | limits | of | meaning |\n|---|---|---|---|---|\n",
                       group);
        }
        fmt::print("| `{}` | {} | {} | {} | {} |\n", p.path, p.standard, limits_of(p),
                   fmt::join(owners_of(p), ", "), p.help);
    }
    fmt::print("\n### Quantities that formulas may name besides\n\n| path | unit | meaning |\n|---|---|---|\n");
    for (const DerivedQuantity& q : derived_quantities())
        fmt::print("| `{}` | {} | {} |\n", q.path, q.unit, q.help);
    fmt::print("\n### Kinds\n\n| kind | of | looks |\n|---|---|---|\n");
    for (const TileKind& kind : registry<TileKind>().all())
        fmt::print("| `{}` | {} | {} |\n", kind.name, kind_path(kind.side), kind.tells);
}

void list_materials() {
    for (const auto& [name, m] : shipped_materials())
        fmt::print("{:<20} {:<10} {}\n", name, to_string(m.kind), m.note);
    fmt::print("{:<20} {:<10} {}\n", "linear(MU_R)", "steel",
               "Inline: constant relative permeability, or linear(inf) for ideal iron.");
    fmt::print(
        "{:<20} {:<10} {}\n", "magnet(BR, MU)", "magnet",
        "Inline: remanence at the working temperature and recoil permeability, e.g. magnet(1.2 T, 1.05).");
}

} // namespace

void add_new(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("new", "Write a project from a starting shape.");
    auto o = std::make_shared<NewOptions>();
    command->add_option("KIND", o->shape, "Starting shape");
    command->add_option("-o,--output", o->file, "Project file to write");
    command->add_option("--set", o->settings, "PATH=VALUE")->take_all()->expected(1);
    command->add_flag("--list", o->list, "Name the starting shapes");
    command->callback([o, &exit_code] { exit_code = run_new(*o); });
}

void add_check(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("check", "Say what is wrong with a project.");
    auto file = std::make_shared<std::string>();
    command->add_option("FILE", *file, "Project file")->required();
    command->callback([file, &exit_code] { exit_code = run_check(*file); });
}

void add_lists(CLI::App& app, int& exit_code) {
    (void)exit_code;
    app.add_subcommand("questions", "List the questions and their inputs.")->callback(list_questions);
    app.add_subcommand("parameters", "List the parameters of a design, as a table.")->callback(list_parameters);
    app.add_subcommand("materials", "List the shipped materials.")->callback(list_materials);
}

} // namespace mavlo::cli
