// export: the section as a DXF drawing, its mesh and field as VTU.

#include "commands.h"
#include "drawing/section.h"
#include "figure/field_at.h"
#include "figure/vtu.h"
#include "shape/dxf/writer.h"
#include "storage/file.h"
#include "winding/coil_table.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <memory>
#include <numbers>

namespace mavlo::cli {
namespace {

struct ExportArguments {
    std::string project, out, variant, shown = "whole", quality = "normal";
    std::vector<std::string> settings;
    double angle = 0, id = 0, iq = 0;
};

/// The field at the angle and current asked for.
Result<std::string> field_text(const Machine& machine, const ExportArguments& a) {
    const Quality quality = a.quality == "draft"  ? Quality::Draft
                            : a.quality == "fine" ? Quality::Fine
                                                  : Quality::Normal;
    const auto field = field_at(machine, a.angle * std::numbers::pi / 180, Dq{a.id, a.iq}, {quality});
    if (!field) return field.problems();
    return vtu_text(*field->model, field->solution, a.shown != "computed");
}

std::string drawing_text(const Machine& machine, const std::string& shown) {
    const SectionPieces section = section_pieces(machine, shown == "pitch"      ? Shown::Pitch
                                                          : shown == "half"     ? Shown::Half
                                                          : shown == "computed" ? Shown::Computed
                                                                                : Shown::Whole);
    return dxf_text(section.pieces, section.layers);
}

int run(const ExportArguments& a) {
    const bool drawing = a.out.ends_with(".dxf"), field = a.out.ends_with(".vtu"),
               coils = a.out.ends_with(".csv");
    if (!drawing && !field && !coils) {
        complain({{a.out, "The section is exported as .dxf, its mesh and field as .vtu, the winding's coils as "
                          ".csv; answers are written with `ask "
                          "-o`, pictures with `show`."}});
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
    if (a.shown == "half" && !drawing) {
        complain({{"--shown", "Half a pitch is drawn, as .dxf, alone; a field is that of the whole sector."}});
        return wrong_usage;
    }
    if (coils && !machine->wound()) {
        complain({{"stator.slot.kind", "A smooth stator carries no winding."}});
        return wrong_input;
    }
    const auto text =
        drawing ? Result<std::string>(drawing_text(*machine, a.shown))
        : coils ? Result<std::string>(table_of_coils(machine->winding.layout.coils, machine->winding.phases))
                : field_text(*machine, a);
    if (!text) {
        complain(text.problems());
        return solver_failed;
    }
    if (const auto problem = write_file_atomically(a.out, *text)) {
        complain({*problem});
        return wrong_input;
    }
    return done;
}

} // namespace

void add_export(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand(
        "export", "Writes the section as a DXF drawing, one layer a role, its mesh and field as VTU, or the "
                  "winding's coils as a CSV table.");
    auto a = std::make_shared<ExportArguments>();
    command->add_option("PROJECT", a->project, "project file")->required();
    command->add_option("-o", a->out, "OUT.dxf, OUT.vtu or OUT.csv")->required();
    command->add_option("--variant", a->variant, "variant instead of the active one");
    command->add_option("--set", a->settings, "PATH=VALUE")->take_all();
    command->add_option("--shown", a->shown, "whole, pitch, half (of a mirrored pitch) or computed")
        ->check(CLI::IsMember({"whole", "pitch", "half", "computed"}));
    command->add_option("--angle", a->angle, "rotor angle of the field, mechanical degrees");
    command->add_option("--id", a->id, "current on the d axis, A peak");
    command->add_option("--iq", a->iq, "current on the q axis, A peak");
    command->add_option("--quality", a->quality, "of the field's mesh: draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->callback([a, &exit_code] { exit_code = run(*a); });
}

} // namespace mavlo::cli
