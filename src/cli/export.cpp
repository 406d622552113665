// export: the section as a DXF drawing, its mesh and field as VTU.

#include "commands.h"
#include "drawing/section.h"
#include "figure/field_at.h"
#include "figure/vtu.h"
#include "quantity/constants.h"
#include "question/heat_of_current.h"
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
    double angle = 0, id = 0, iq = 0, speed = -1;
    bool heat = false, elements = false;
};

/// Where these currents' losses arise at the speed, and how warm they make the machine.
struct ExportedHeat {
    HeatOfCurrent model;
    HeatOfCurrent::Found found;
    std::vector<double> densities, celsius; ///< of the elements: W/m3, degC
};

Result<ExportedHeat> heat_of(const std::shared_ptr<const MachineModel>& model, const ExportArguments& a,
                             const MaterialLibrary& own) {
    const double speed = a.speed < 0 ? model->machine.rating.speed : a.speed * rpm;
    auto heat = HeatOfCurrent::of(model, own, speed);
    if (!heat) return heat.problems();
    auto found = heat->at(Dq{a.id, a.iq}, 0, {});
    if (!found) return found.problems();
    if (found->coupled.runs_away_from > 0)
        return Problem{"--id", "With these currents the winding's temperature runs away; ask heat for more."};
    ExportedHeat out{std::move(*heat), std::move(*found), {}, {}};
    out.densities = out.model.densities(out.found);
    const auto nodes = out.model.model().at_nodes(out.found.coupled.heat.all);
    for (std::size_t e = 0; e < nodes.size() / 6; ++e) // of a parabola its edges' middles have the mean
        out.celsius.push_back((nodes[6 * e + 3] + nodes[6 * e + 4] + nodes[6 * e + 5]) / 3);
    return out;
}

std::string table_of_elements(const MachineModel& model, const ExportedHeat& heat) {
    std::string out = "x_m,y_m,area_m2,loss_density_W_m3,temperature_degC\n";
    for (std::size_t e = 0; e < model.elements.size(); ++e) {
        const auto& element = model.elements[e];
        const Point at = model.points[std::size_t(element.first)].at;
        out += fmt::format("{:.9g},{:.9g},{:.9g},{:.9g},{:.9g}\n", at.x, at.y, model.area(element),
                           heat.densities[e], heat.celsius[e]);
    }
    return out;
}

/// Outside surfaces, as `ask --walls` reads them back; behind them losses and temperatures.
std::string table_of_parts(ExportedHeat& heat) {
    const CoupledHeat& found = heat.found.coupled;
    std::string out = table_of_surfaces(heat.model.model().surfaces(found.heat)) + "\nloss,W\n";
    out += fmt::format("copper in the slots,{:.9g}\ncopper in the ends,{:.9g}\n",
                       found.losses.slots + found.losses.added, found.losses.ends);
    for (const auto& [part, watts] : found.losses.watts)
        if (watts > 0) out += fmt::format("{},{:.9g}\n", loss_name(part), watts);
    out += "\npart,temperature_degC\n";
    for (const auto& [part, kelvin] : found.heat.mean)
        out += fmt::format("{},{:.9g}\n", to_string(part), kelvin - zero_celsius);
    return out;
}

/// The field at the angle and current asked for.
Result<std::string> field_text(const Machine& machine, const ExportArguments& a, const MaterialLibrary& own) {
    const Quality quality = quality_of(a.quality);
    const auto field = field_at(machine, a.angle * std::numbers::pi / 180, Dq{a.id, a.iq}, {quality});
    if (!field) return field.problems();
    if (!a.heat) return vtu_text(*field->model, field->solution, a.shown != "computed");
    auto heat = heat_of(field->model, a, own);
    if (!heat) return heat.problems();
    return vtu_text(*field->model, field->solution, a.shown != "computed",
                    {{"loss_density", heat->densities}, {"temperature", heat->celsius}});
}

/// Losses, temperatures and films as tables.
Result<std::string> heat_text(const Machine& machine, const ExportArguments& a, const MaterialLibrary& own) {
    const auto model = prepare_field(machine, {quality_of(a.quality)});
    if (!model) return model.problems();
    auto heat = heat_of(*model, a, own);
    if (!heat) return heat.problems();
    return a.elements ? table_of_elements(**model, *heat) : table_of_parts(*heat);
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
               coils = a.out.ends_with(".csv") && !a.heat;
    if (!drawing && !field && !coils && !(a.heat && a.out.ends_with(".csv"))) {
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
    if (drawing && (machine->facts().axial || machine->facts().linear)) {
        complain({{"machine.topology",
                   "The section of an axial or linear machine is not written as a drawing yet; `show` makes "
                   "pictures of it."}});
        return wrong_input;
    }
    if (coils && !machine->wound()) {
        complain({{"stator.slot.kind", "A smooth stator carries no winding."}});
        return wrong_input;
    }
    const auto text =
        drawing ? Result<std::string>(drawing_text(*machine, a.shown))
        : coils ? Result<std::string>(table_of_coils(machine->winding.layout.coils, machine->winding.phases))
        : field ? field_text(of_section(*machine), a, chosen->project.materials)
                : heat_text(*machine, a, chosen->project.materials);
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
    command->add_flag("--heat", a->heat,
                      "with losses and temperatures of these currents: in a .vtu element by element, in a .csv "
                      "the surfaces outside with their films, losses and temperatures by part");
    command->add_flag("--elements", a->elements, "with --heat in a .csv: element by element instead");
    command->add_option("--speed", a->speed, "of the shaft for --heat, rpm; else the rated one");
    command->add_option("--quality", a->quality, "of the field's mesh: draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->callback([a, &exit_code] { exit_code = run(*a); });
}

} // namespace mavlo::cli
