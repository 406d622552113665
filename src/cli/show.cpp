// show: the cross-section as SVG, PDF or PNG, with an overlay of the field.

#include "commands.h"
#include "figure/field_at.h"
#include "quantity/constants.h"
#include "report/section_picture.h"
#include "storage/file.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <memory>
#include <optional>

namespace mavlo::cli {
namespace {

struct ShowOptions {
    std::string file, output, variant, overlay = "materials";
    std::vector<std::string> settings;
    double angle = 0, id = 0, iq = 0;
};

Overlay overlay_of(const std::string& name) {
    return name == "flux"    ? Overlay::Flux
           : name == "lines" ? Overlay::Lines
           : name == "mesh"  ? Overlay::Mesh
                             : Overlay::Materials;
}

Canvas::Form form_of(const std::string& file) {
    return file.ends_with(".png")   ? Canvas::Form::Png
           : file.ends_with(".pdf") ? Canvas::Form::Pdf
                                    : Canvas::Form::Svg;
}

Result<FieldPicture> solve_picture(const Machine& machine, const ShowOptions& o) {
    const auto field = field_at(machine, o.angle * pi / 180, Dq{o.id, o.iq});
    if (!field) return field.problems();
    return rolled(make_picture(*field->model, field->solution), *field->model, field->solution.angle);
}

int run_show(const ShowOptions& o) {
    if (!o.output.ends_with(".svg") && !o.output.ends_with(".png") && !o.output.ends_with(".pdf")) {
        complain({{"-o", "The picture is written as .svg, .pdf or .png."}});
        return wrong_usage;
    }
    const auto chosen = choose(o.file, o.variant, o.settings);
    if (!chosen) return complain(chosen.problems()), wrong_input;
    const auto machine = build_machine(chosen->design, chosen->project.materials);
    if (!machine) return complain(machine.problems()), wrong_input;
    const Overlay overlay = overlay_of(o.overlay);
    std::optional<FieldPicture> field;
    if (overlay != Overlay::Materials) {
        auto picture = solve_picture(*machine, o);
        if (!picture) return complain(picture.problems()), solver_failed;
        field = std::move(*picture);
    }
    if (overlay == Overlay::Flux)
        fmt::print("flux density from 0 (palest) to {:.3f} T (deepest)\n", field->highest_flux_density);
    const std::string bytes =
        section_picture(*machine, o.angle * pi / 180, overlay, field ? &*field : nullptr, form_of(o.output));
    if (bytes.empty())
        return complain({{o.output, "The picture cannot be made; it may be too large."}}), wrong_input;
    if (const auto problem = write_file_atomically(o.output, bytes)) return exit_code_of({*problem});
    return done;
}

} // namespace

void add_show(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("show", "Draw the cross-section.");
    auto o = std::make_shared<ShowOptions>();
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("-o,--output", o->output, "Picture, .svg, .pdf or .png")->required();
    command->add_option("--variant", o->variant, "Variant to draw; the one in hand otherwise");
    command->add_option("--set", o->settings, "PATH=VALUE: change the design for this call")
        ->take_all()
        ->expected(1);
    command->add_option("--overlay", o->overlay, "materials, flux, lines or mesh")
        ->check(CLI::IsMember({"materials", "flux", "lines", "mesh"}));
    command->add_option("--angle", o->angle, "Rotor angle, mechanical degrees");
    command->add_option("--id", o->id, "Current on the d axis, A peak");
    command->add_option("--iq", o->iq, "Current on the q axis, A peak");
    command->callback([o, &exit_code] { exit_code = run_show(*o); });
}

} // namespace mavlo::cli
