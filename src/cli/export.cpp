// export: the section as a DXF drawing.

#include "commands.h"
#include "drawing/section.h"
#include "shape/dxf/writer.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <memory>

namespace mavlo::cli {
namespace {

struct ExportArguments {
    std::string project, out, variant, shown = "whole";
    std::vector<std::string> settings;
};

int run(const ExportArguments& a) {
    if (!a.out.ends_with(".dxf")) {
        complain(
            {{a.out,
              "The section is exported as .dxf; answers are written with `ask -o`, pictures with `show`."}});
        return wrong_usage;
    }
    const auto chosen = choose(a.project, a.variant, a.settings);
    if (!chosen) {
        complain(chosen.problems());
        return wrong_input;
    }
    const auto machine = build_machine(chosen->design, chosen->project.materials);
    if (!machine) {
        complain(machine.problems());
        return wrong_input;
    }
    const Shown shown = a.shown == "pitch"      ? Shown::Pitch
                        : a.shown == "computed" ? Shown::Computed
                                                : Shown::Whole;
    const SectionPieces section = section_pieces(*machine, shown);
    if (const auto problem = write_file_atomically(a.out, dxf_text(section.pieces, section.layers))) {
        complain({*problem});
        return wrong_input;
    }
    return done;
}

} // namespace

void add_export(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("export", "Writes the section as a DXF drawing, one layer a role.");
    auto a = std::make_shared<ExportArguments>();
    command->add_option("PROJECT", a->project, "project file")->required();
    command->add_option("-o", a->out, "OUT.dxf")->required();
    command->add_option("--variant", a->variant, "variant instead of the active one");
    command->add_option("--set", a->settings, "PATH=VALUE")->take_all();
    command->add_option("--shown", a->shown, "whole, pitch or computed")
        ->check(CLI::IsMember({"whole", "pitch", "computed"}));
    command->callback([a, &exit_code] { exit_code = run(*a); });
}

} // namespace mavlo::cli
