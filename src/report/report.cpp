#include "report/report.h"

#include "figure/field_at.h"
#include "machine/axial.h"
#include "machine/choice_words.h"
#include "quantity/quantity.h"
#include "question/figure_names.h"
#include "question/key_figure_choice.h"
#include "report/answer_sheet.h"
#include "report/plot_svg.h"
#include "report/section_picture.h"
#include "storage/file.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <openssl/evp.h>

namespace mavlo {
namespace {

constexpr const char* style = R"(
@page { size: A4; margin: 18mm 16mm 20mm; @bottom-right { content: counter(page) " / " counter(pages); font: 8pt Inter, sans-serif; color: #66727c; } }
body { font: 10pt/1.45 Inter, "DejaVu Sans", sans-serif; color: #1f2a33; max-width: 210mm; margin: 0 auto; padding: 12mm; }
@media print { body { padding: 0; max-width: none; } }
h1 { font-size: 22pt; font-weight: 600; margin: 0 0 1mm; } h2 { font-size: 15pt; font-weight: 600; margin: 9mm 0 2mm; border-bottom: 0.4mm solid #3e7c86; padding-bottom: 1mm; break-after: avoid; }
h3 { font-size: 11.5pt; font-weight: 600; margin: 6mm 0 1.5mm; break-after: avoid; } h4 { font-size: 9pt; font-weight: 600; margin: 3mm 0 0; color: #66727c; break-after: avoid; }
header { display: flex; justify-content: space-between; align-items: flex-start; } header img { max-height: 20mm; max-width: 55mm; }
.soft { color: #66727c; } .sentence { font-size: 11pt; margin: 1mm 0 2mm; } .notes { white-space: pre-line; margin: 4mm 0; }
table { border-collapse: collapse; width: 100%; font-size: 8.8pt; } td, th { text-align: left; padding: 0.7mm 3mm 0.7mm 0; border-bottom: 0.2mm solid #dfe3e6; vertical-align: top; }
td.n, th.n { text-align: right; white-space: nowrap; } tr { break-inside: avoid; } th { font-weight: 600; }
.pair { display: flex; gap: 6mm; align-items: flex-start; } .pair > * { flex: 1; min-width: 0; } figure { margin: 0; } figcaption { font-size: 8.5pt; }
.figures { display: flex; flex-wrap: wrap; gap: 1.5mm 6mm; margin: 1mm 0 2mm; } .figures div { min-width: 37mm; } .figures b { display: block; font-size: 16pt; font-weight: 600; }
.figures span { color: #66727c; font-size: 8pt; } img.section { width: 100%; } .part { break-inside: avoid; } .answer { break-before: page; }
.rest { columns: 3; column-gap: 6mm; margin: 1mm 0; } .rest table { font-size: 7.6pt; } .rest td { padding: 0.3mm 1mm 0.3mm 0; } .rest h4 { margin: 1.5mm 0 0; } .rest .group { break-inside: avoid; }
.parameters { columns: 2; column-gap: 8mm; } .parameters table { font-size: 8pt; } .parameters td { padding: 0.3mm 1.5mm 0.3mm 0; }
section.variant { break-before: page; } section.variant:first-of-type { break-before: auto; }
svg.plot { width: 100%; display: block; } .plots .part { display: inline-block; width: 49%; vertical-align: top; margin: 0 0 2mm; } .plots .part.wide { width: 100%; }
)";

std::string base64(const std::string& bytes) {
    std::string out(4 * ((bytes.size() + 2) / 3), '\0');
    EVP_EncodeBlock(reinterpret_cast<unsigned char*>(out.data()),
                    reinterpret_cast<const unsigned char*>(bytes.data()), int(bytes.size()));
    return out;
}

std::string image(const std::string& bytes, const char* type, const std::string& tells) {
    return fmt::format("<img class=\"section\" alt=\"{}\" src=\"data:{};base64,{}\">", escaped(tells), type,
                       base64(bytes));
}

std::string row(const std::string& a, const std::string& b, const std::string& c = {}) {
    return fmt::format("<tr><td>{}</td><td class=\"n\">{}</td>{}</tr>", escaped(a), escaped(b),
                       c.empty() ? "" : "<td class=\"soft\">" + escaped(c) + "</td>");
}

/// What the design uses, but for what Mavlo chooses by itself.
std::string parameters_of(const Design& design, const Machine& machine) {
    std::string out, group;
    int chosen = 0;
    for (const Parameter* p : used_parameters(design)) {
        const std::string text = design.text(p->path);
        if (trim(text) == "auto") {
            ++chosen;
            continue;
        }
        const std::string heading = p->page + (p->group.empty() || p->group == p->page ? "" : ", " + p->group);
        if (heading != group) {
            out += (group.empty() ? "" : "</table>") +
                   fmt::format("<h4>{}</h4><table>", escaped(heading.empty() ? "Machine" : heading));
            group = heading;
        }
        std::string value = p->kind == ParameterKind::Choice ? choice_words(text) : text;
        if (!p->is_word() && machine.values.has(p->path) && !machine.values.is_auto(p->path))
            value = text_for(*p, machine.values.number(p->path), 6);
        out += row(p->label, value, p->symbol);
    }
    return "<div class=\"parameters\">" + out + (group.empty() ? "" : "</table>") +
           fmt::format("</div><p class=\"soft\">{} others follow by themselves.</p>", chosen);
}

std::string plot_part(const std::string& title, const std::string& svg, bool wide) {
    return fmt::format("<div class=\"part{}\"><h4>{}</h4>{}</div>", wide ? " wide" : "", escaped(title), svg);
}

std::string steel_curve(const Material& steel) {
    PlotLine line{"", {}, {}};
    for (int k = 0; k <= 80; ++k) {
        const double b = 0.05 + 2.15 * k / 80, h = steel.curve.at(b).h;
        if (h <= 0) continue;
        line.x.push_back(h / 1e3);
        line.y.push_back(b);
    }
    return lines_svg({line}, "field strength, kA/m", "flux density, T", true);
}

std::string magnet_line(const Substance& magnet) {
    const double mu0 = 4e-7 * std::numbers::pi, mu = magnet.material.magnet.recoil_mu_r,
                 b = magnet.own_remanence();
    const double end = std::min(b / (mu0 * mu), 1.5e6);
    return lines_svg({{"", {-end / 1e3, 0}, {b - mu0 * mu * end, b}}}, "field strength, kA/m",
                     fmt::format("flux density, T (recoil line at {:.0f} °C)", magnet.temperature - 273.15));
}

std::string materials_of(const Machine& machine) {
    std::string out = "<h3>Materials</h3><table><tr><th>Where</th><th>Material</th><th>Data used</th></tr>";
    std::string plots;
    std::vector<std::string> drawn;
    for (const Substance& s : machine.substances) {
        std::string data;
        if (s.material.kind == MaterialKind::Magnet)
            data = fmt::format("remanence {:.4g} T at {:.0f} °C, recoil permeability {:.4g}", s.own_remanence(),
                               s.temperature - 273.15, s.material.magnet.recoil_mu_r);
        else if (s.material.kind == MaterialKind::Steel)
            data = fmt::format(
                "{:.4g} T at 5 kA/m{}, stacking {:.3g}{}",
                [&] {
                    double low = 0, high = 4;
                    for (int k = 0; k < 50; ++k) {
                        const double b = (low + high) / 2;
                        (s.material.curve.at(b).h < 5000 ? low : high) = b;
                    }
                    return low;
                }(),
                s.material.thickness > 0 ? fmt::format(", sheets of {:.3g} mm", 1e3 * s.material.thickness)
                                         : "",
                s.stacking, s.material.loss.known() ? ", losses measured" : ", no losses known");
        else if (s.resistivity > 0)
            data = fmt::format("{:.4g} Ω·m at {:.0f} °C", s.resistivity, s.temperature - 273.15);
        const Parameter* where = find_parameter(s.path);
        out += fmt::format("<tr><td>{}</td><td>{}</td><td>{}</td></tr>", escaped(where ? where->label : s.path),
                           escaped(s.material.name), data);
        if (std::find(drawn.begin(), drawn.end(), s.material.name) != drawn.end()) continue;
        drawn.push_back(s.material.name);
        const bool curved = s.material.kind == MaterialKind::Steel && !s.material.curve.is_linear();
        if (curved || s.material.kind == MaterialKind::Magnet)
            plots += plot_part(s.material.name, curved ? steel_curve(s.material) : magnet_line(s), false);
    }
    return out + "</table><div class=\"plots\">" + plots + "</div>";
}

std::string winding_of(const Machine& machine) {
    if (!machine.wound()) return {};
    const MachineWinding& w = machine.winding;
    const Conductor conductor = machine_conductor(machine);
    std::string out = "<h3>Winding</h3><div class=\"part\"><table>";
    out += row("Slots and poles", fmt::format("{} / {}", machine.slots, machine.poles));
    out += row("Phases", fmt::format("{}", w.phases));
    out += row("Coils", fmt::format("{}", w.layout.coils.size()));
    out += row("Parallel paths", fmt::format("{}", w.paths));
    out += row("Phase resistance", fmt::format("{:.4g} Ω at {:.0f} °C", conductor.resistance,
                                               machine.values.number("winding.temperature") - 273.15));
    out += row("Slot fill (copper over slot)", fmt::format("{:.1f} %", 100 * conductor.size.fill));
    return out + "</table></div>";
}

std::string field_of(const Machine& machine) {
    const Facts facts = machine.facts();
    CurrentWave current;
    if (facts.wound && !facts.induced) current = rated_wave(machine);
    const auto field = field_at(machine, 0, current);
    if (!field) return {};
    const FieldPicture picture =
        rolled(make_picture(*field->model, field->solution), *field->model, field->solution.angle);
    const std::string flux = section_picture(machine, 0, Overlay::Flux, &picture, Canvas::Form::Png),
                      lines = section_picture(machine, 0, Overlay::Lines, &picture, Canvas::Form::Png);
    return fmt::format(
        "<h3>Field at the rating</h3><div class=\"pair part\"><figure>{}<figcaption class=\"soft\">"
        "Flux density from 0 (palest) to {:.2f} T (deepest)</figcaption></figure><figure>{}"
        "<figcaption class=\"soft\">Flux lines, the same flux between two neighbours</figcaption>"
        "</figure></div>",
        image(flux, "image/png", "flux density"), picture.highest_flux_density,
        image(lines, "image/png", "flux lines"));
}

std::string figures_of(const AnswerSheet& sheet) {
    std::string out = "<div class=\"figures\">";
    for (const Figure& f : sheet.large)
        out += fmt::format("<div><span>{}</span><b>{}</b></div>", escaped(figure_name(f.name).label),
                           escaped(shown_figure(f)));
    return out + "</div>";
}

/// Groups in columns, none torn.
std::string rest_of(const AnswerSheet& sheet) {
    std::string out = "<div class=\"rest\">";
    for (const FigureGroup& group : sheet.rest) {
        out += fmt::format("<div class=\"group\"><h4>{}</h4><table>", escaped(group.title));
        for (const Figure& f : group.figures) out += row(figure_name(f.name).label, shown_figure(f));
        out += "</table></div>";
    }
    return out + "</div>";
}

/// A page of its own.
std::string answer_html(const Answer& answer) {
    const AnswerSheet sheet = answer_sheet(answer);
    std::string out = fmt::format("<div class=\"answer\"><h3>{}</h3><p class=\"sentence\">{}</p>",
                                  escaped(sheet.title), escaped(sheet.sentence));
    out += figures_of(sheet);
    if (!sheet.picture.empty()) out += plot_part(sheet.caption, sheet.picture, true);
    out += rest_of(sheet);
    out += "<div class=\"plots\">";
    for (const auto& [title, svg] : sheet.more) out += plot_part(title, svg, false);
    return out + fmt::format("</div><p class=\"soft\">{}</p></div>", escaped(sheet.note));
}

constexpr const char* left_out = R"(<h2>How to read this</h2>
<p>All fields are two-dimensional and magnetostatic, solved by second-order finite elements on the smallest sector that symmetry allows, with the air gap between rotor and stator solved exactly; lengths along the shaft enter by the stack. Unless an answer says otherwise these are left out:</p>
<ul><li>leakage at the stack's ends beyond the end-winding's inductance, and axial flux;</li><li>changes of the steel by punching, stress and temperature;</li><li>scatter of dimensions and materials (ask for tolerances);</li><li>heating: temperatures are those given, unless an answer says that they are those of the losses.</li></ul>
<p>Torque is on the rotor, counter-clockwise positive seen from the drive end; currents and voltages are peak values of a phase unless marked rms or line; angles say mechanical or electrical; d lies on the magnet's axis, the advance angle runs from +q towards -d. "±" is the estimate of what the mesh leaves.</p>)";

/// The machine in a few lines, beside its picture.
std::string summary_of(const Machine& m) {
    const auto mm = [](double metres) { return fmt::format("{:.4g} mm", 1e3 * metres); };
    const double per_minute = 30 / std::numbers::pi;
    std::string out = "<table>";
    out += row("Rotor", m.facts().axial    ? "disc"
                        : m.facts().linear ? "straight"
                        : m.outer_rotor()  ? "outside"
                                           : "inside");
    out += row("Slots and poles", fmt::format("{} / {}", m.slots, m.poles));
    if (m.facts().linear)
        out += row("Pole pitch", mm(2 * std::numbers::pi * m.section.chart().flat / m.poles));
    else
        out += row("Outer diameter",
                   mm(2 * (m.facts().axial ? axial_form(m.values).outer : m.section.outer_radius())));
    out += row("Air gap", mm(m.gap));
    out += row("Stack length", mm(m.stack_length));
    out +=
        row("Rated speed", m.facts().linear ? fmt::format("{:.5g} m/s", m.rating.speed * m.section.chart().flat)
                                            : fmt::format("{:.5g} rpm", m.rating.speed * per_minute));
    if (m.wound()) out += row("Rated current, phase peak", fmt::format("{:.4g} A", m.rating.current));
    if (m.wound() && m.facts().dq_frame)
        out += row("Advance, electrical", fmt::format("{:.4g}°", m.rating.advance * 180 / std::numbers::pi));
    if (m.rating.dc_voltage > 0) out += row("DC voltage", fmt::format("{:.4g} V", m.rating.dc_voltage));
    return out + "</table>";
}

Result<std::string> variant_html(const ReportPart& part, const Project& project) {
    const Variant* variant = project.find(part.variant);
    if (!variant) return Problem{"--variant", fmt::format("The project has no variant \"{}\".", part.variant)};
    const auto machine = build_machine(variant->design, project.materials);
    if (!machine) return machine.problems();
    std::string out = fmt::format("<section class=\"variant\"><h2>Variant {}</h2>", escaped(part.variant));
    out += fmt::format("<div class=\"pair part\"><figure>{}</figure><div>{}</div></div>",
                       image(section_picture(*machine, 0, Overlay::Materials, nullptr, Canvas::Form::Svg),
                             "image/svg+xml", "cross-section"),
                       summary_of(*machine));
    for (const Answer& answer : part.answers) out += answer_html(answer);
    out += field_of(*machine) + winding_of(*machine) + materials_of(*machine);
    out +=
        fmt::format("<h3>Dimensions</h3><div class=\"pair part\"><figure>{}</figure><figure>{}</figure></div>",
                    image(dimensioned_picture(*machine, machine->section.stator()), "image/svg+xml",
                          "a slot pitch with its dimensions"),
                    image(dimensioned_picture(*machine, machine->section.rotor()), "image/svg+xml",
                          "a pole pitch with its dimensions"));
    out += "<h3>Parameters</h3>" + parameters_of(variant->design, *machine);
    return out + "</section>";
}

/// Figures that several variants answered, side by side.
std::string comparison(const Report& report) {
    if (report.parts.size() < 2) return {};
    std::string rows;
    for (const Answer& first : report.parts.front().answers)
        for (const Figure& figure : first.figures) {
            std::string cells;
            for (const ReportPart& part : report.parts) {
                const auto same = std::find_if(part.answers.begin(), part.answers.end(),
                                               [&](const Answer& a) { return a.question == first.question; });
                const auto value = same == part.answers.end() ? std::nullopt : same->figure(figure.name);
                Figure shown{figure.name, value, figure.unit};
                if (value) shown = without_noise(shown, *same);
                cells += fmt::format("<td class=\"n\">{}</td>", escaped(shown_figure(shown)));
            }
            const QuestionKind* kind = find_question(first.question);
            rows += fmt::format("<tr><td>{}</td><td class=\"soft\">{}</td>{}</tr>",
                                escaped(figure_name(figure.name).label),
                                escaped(kind ? kind->title : first.question), cells);
        }
    std::string heads;
    for (const ReportPart& part : report.parts)
        heads += fmt::format("<th class=\"n\">{}</th>", escaped(part.variant));
    return rows.empty()
               ? std::string()
               : fmt::format(
                     "<h2>Side by side</h2><table><tr><th>Figure</th><th>Question</th>{}</tr>{}</table>", heads,
                     rows);
}

} // namespace

Result<std::string> report_html(const Report& report, const Project& project) {
    std::string body;
    for (const ReportPart& part : report.parts) {
        const auto html = variant_html(part, project);
        if (!html) return html.problems();
        body += *html;
    }
    const std::string logo = report.logo.empty() ? std::string()
                                                 : fmt::format("<img alt=\"logo\" src=\"data:{};base64,{}\">",
                                                               report.logo_type, base64(report.logo));
    return fmt::format(
        "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{0}</title>"
        "<style>{1}</style></head><body><header><div><h1>{0}</h1><p class=\"soft\">{2}</p></div>{3}"
        "</header><p class=\"notes\">{4}</p>{5}{6}{7}<p class=\"soft\">Made by Mavlo {8}, engine "
        "{9}.</p></body></html>\n",
        escaped(report.title), style, escaped(report.date), logo, escaped(report.notes), comparison(report),
        body, left_out, MAVLO_VERSION, engine_id().substr(0, 12));
}

std::optional<Problem> take_logo(Report& report, const std::string& file) {
    report.logo_type = file.ends_with(".png")                              ? "image/png"
                       : file.ends_with(".svg")                            ? "image/svg+xml"
                       : file.ends_with(".jpg") || file.ends_with(".jpeg") ? "image/jpeg"
                                                                           : "";
    if (report.logo_type.empty()) return Problem{"--logo", "A logo is a .png, .svg or .jpg."};
    auto logo = read_file(file, 16 << 20);
    if (!logo) return Problem{"--logo", to_string(logo.problems().front())};
    report.logo = std::move(*logo);
    return std::nullopt;
}

} // namespace mavlo
