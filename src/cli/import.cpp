// import: a part of a machine from a DXF drawing.

#include "commands.h"
#include "drawing/pitch.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "quantity/text.h"
#include "storage/file.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <memory>
#include <nlohmann/json.hpp>

namespace mavlo::cli {
namespace {

using json = nlohmann::ordered_json;

struct ImportArguments {
    std::string project, drawing, out, report, part = "rotor", unit = "auto", tolerance = "0.01 mm";
    std::vector<std::string> regions, settings;
    int pitches = 0; ///< 0: as it repeats
};

/// "7=magnet", or "7=magnet:GRADE".
std::optional<Problem> take_region(const std::string& text, ImportOptions& options, Design& design,
                                   const std::string& part) {
    const auto equals = text.find('=');
    int number = 0;
    try {
        number = std::stoi(text.substr(0, equals));
    } catch (const std::exception&) {
        number = 0;
    }
    if (equals == std::string::npos || number < 1)
        return Problem{"--region", fmt::format("\"{}\" is no NUMBER=ROLE, such as 7=magnet.", text)};
    std::string role = text.substr(equals + 1), grade;
    if (const auto colon = role.find(':'); colon != std::string::npos) {
        grade = role.substr(colon + 1);
        role.resize(colon);
    }
    const auto known = role_of(role);
    if (!known)
        return Problem{"--region",
                       fmt::format("\"{}\" is no role; there are {}.", role, fmt::join(role_words(), ", "))};
    options.roles[number] = *known;
    if (!grade.empty())
        design.texts[*known == Role::Magnet  ? "rotor.magnet.grade"
                     : *known == Role::Solid ? "rotor.shell.material"
                     : part == "stator"      ? "stator.steel"
                                             : "rotor.steel"] = grade;
    return std::nullopt;
}

json part_json(const ImportedDrawing& d, const ImportedPart& part) {
    return {{"part", to_string(part.side)},
            {"pitches", part.portion.pitches},
            {"covers", part.portion.covers},
            {"mirrored", part.portion.mirrored},
            {"axis", part.portion.axis / degree},
            {"regions", std::count_if(d.regions.begin(), d.regions.end(),
                                      [&](const ImportedRegion& r) { return r.side == part.side; })}};
}

json report_json(const ImportedDrawing& d, const std::string& part, const Problems& problems) {
    json report{{"unit", d.unit}, {"centre", {d.centre.x, d.centre.y}}, {"part", part}};
    const Portion portion = d.parts.empty() ? Portion{} : d.parts.front().portion;
    report["pitches"] = portion.pitches;
    report["covers"] = portion.covers;
    report["mirrored"] = portion.mirrored;
    report["parts"] = json::array();
    for (const ImportedPart& p : d.parts) report["parts"].push_back(part_json(d, p));
    report["healed"] = d.healed;
    report["left_out"] = d.left_out.sentences;
    report["notes"] = d.notes;
    report["regions"] = json::array();
    for (const ImportedRegion& r : d.regions)
        report["regions"].push_back({{"number", r.number},
                                     {"part", to_string(r.side)},
                                     {"role", to_string(r.role)},
                                     {"area", r.area},
                                     {"centroid", {r.centroid.x, r.centroid.y}},
                                     {"direction", r.direction ? json(*r.direction / degree) : json()}});
    report["whole"] = json::object();
    for (const auto& [role, whole] : d.whole)
        report["whole"][to_string(role)] = {{"count", whole.count}, {"area", whole.area}};
    report["problems"] = json::array();
    for (const Problem& p : problems) report["problems"].push_back(p.sentence);
    return report;
}

/// Says it on standard error and in the report.
int refuse(const ImportArguments& a, const Problems& problems) {
    complain(problems);
    if (!a.report.empty())
        if (const auto problem = write_file_atomically(
                a.report,
                report_json({}, a.part, problems).dump(2, ' ', false, json::error_handler_t::replace) + "\n"))
            complain({*problem});
    return wrong_input;
}

int run(const ImportArguments& a) {
    ImportOptions options;
    options.rotor = a.part != "stator";
    options.stator = a.part != "rotor";
    options.unit = a.unit;
    if (a.pitches > 0) {
        if (a.part == "both")
            return refuse(a, {{"--pitches", "Of one part: say --part rotor or --part stator."}});
        options.pitches = a.pitches;
    }
    const auto tolerance = parse_quantity(a.tolerance);
    if (!tolerance || tolerance->dimension != dimension::length || !(tolerance->si > 0) || tolerance->si > 1e-3)
        return refuse(a, {{"--tolerance", "A length of up to 1 mm is wanted, such as \"0.01 mm\"."}});
    options.tolerance = tolerance->si;
    auto chosen = choose(a.project, "", a.settings);
    if (!chosen) return refuse(a, chosen.problems());
    options.outer_rotor = chosen->design.text("machine.topology") == "outer-rotor";
    options.poles = poles_of(chosen->design);
    for (const std::string& text : a.regions)
        if (auto problem = take_region(text, options, chosen->design, a.part)) return refuse(a, {*problem});
    const auto drawing = import_drawing(a.drawing, options);
    if (!drawing) return refuse(a, drawing.problems());
    for (const ImportedPart& part : drawing->parts) {
        auto design = with_part(chosen->design, *drawing, part.side);
        if (!design) return refuse(a, design.problems());
        chosen->design = std::move(*design);
    }
    Project& project = chosen->project;
    for (Variant& variant : project.variants)
        if (variant.name == chosen->variant) variant.design = chosen->design;
    if (const auto problem = write_project(project, a.out)) return refuse(a, {*problem});
    for (const auto* list : {&drawing->healed, &drawing->left_out.sentences, &drawing->notes})
        for (const std::string& sentence : *list) fmt::print("{}\n", for_terminal(sentence));
    for (const ImportedPart& p : drawing->parts)
        fmt::print("{}: {} {}, {:.4g} of a turn drawn{}\n", to_string(p.side), p.portion.pitches,
                   p.side == DrawnSide::Rotor ? "poles" : "slots", p.portion.covers,
                   p.portion.mirrored ? ", each its own mirror image" : "");
    // What the drawing leaves to the other part is for `check`, and for the designer, to see.
    Problems open;
    if (const auto built = build_machine(chosen->design, project.materials); !built) open = built.problems();
    complain(open, "still open");
    if (!a.report.empty())
        if (const auto problem = write_file_atomically(
                a.report,
                report_json(*drawing, a.part, {}).dump(2, ' ', false, json::error_handler_t::replace) + "\n"))
            return refuse(a, {*problem});
    return done;
}

} // namespace

void add_import(CLI::App& app, int& exit_code) {
    auto* command = app.add_subcommand("import", "Takes a part of the machine from a DXF drawing.");
    auto a = std::make_shared<ImportArguments>();
    command->add_option("PROJECT", a->project, "project whose machine gets the part")->required();
    command->add_option("DRAWING", a->drawing, "DXF file")->required();
    command->add_option("--part", a->part, "rotor, stator or both")
        ->check(CLI::IsMember({"rotor", "stator", "both"}));
    command->add_option("--unit", a->unit, "mm, in, m … or auto: as the drawing says, or judged from its size");
    command->add_option("--tolerance", a->tolerance, "gaps up to this are closed, e.g. \"0.01 mm\"");
    command->add_option("--region", a->regions, "NUMBER=ROLE[:GRADE]: what a region of the report is")
        ->take_all();
    command->add_option("--pitches", a->pitches,
                        "poles (of a rotor) or slots in a turn, where pieces or halves mislead");
    command->add_option("--set", a->settings, "PATH=VALUE")->take_all();
    command->add_option("-o", a->out, "project to write")->required();
    command->add_option("--report", a->report, "JSON file that says what was read");
    command->callback([a, &exit_code] { exit_code = run(*a); });
}

} // namespace mavlo::cli
