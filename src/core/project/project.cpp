#include "project/project.h"

#include "machine/machine.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
namespace {

struct Shape {
    const char* name;
    std::map<std::string, std::string> texts;
};

const std::vector<Shape>& shapes() {
    static const std::vector<Shape> list{
        {"surface", {}},
        {"surface-fine-pitch",
         {{"machine.stack_length", "30 mm"},
          {"gap", "0.9 mm"},
          {"stator.outer_diameter", "160 mm"},
          {"stator.bore_diameter", "100 mm"},
          {"stator.slots", "24"},
          {"stator.slot.tooth_width", "6.4 mm"},
          {"stator.slot.depth", "20 mm"},
          {"rotor.poles", "22"},
          {"rotor.shaft_diameter", "40 mm"},
          {"rating.speed", "60 rpm"}}},
        {"surface-distributed",
         {{"stator.slots", "36"},
          {"rotor.poles", "4"},
          {"stator.slot.tooth_width", "2.6 mm"},
          {"stator.slot.opening", "1.6 mm"},
          {"stator.slot.corner_radius", "0.6 mm"},
          {"winding.turns", "6"},
          {"rotor.magnet.arc", "0.8"}}},
        {"vee",
         {{"machine.stack_length", "180 mm"},
          {"gap", "1.1 mm"},
          {"stator.outer_diameter", "300 mm"},
          {"stator.bore_diameter", "196 mm"},
          {"stator.slots", "48"},
          {"stator.slot.opening", "2.6 mm"},
          {"stator.slot.depth", "28 mm"},
          {"stator.slot.tooth_width", "6.8 mm"},
          {"stator.slot.corner_radius", "1.6 mm"},
          {"rotor.kind", "vee"},
          {"rotor.poles", "8"},
          {"rotor.shaft_diameter", "90 mm"},
          {"rotor.magnet.thickness", "6.5 mm"},
          {"rotor.magnet.width", "27 mm"},
          {"rotor.pocket.angle", "128 deg"},
          {"rotor.pocket.depth", "25 mm"},
          {"rotor.pocket.bridge", "1.6 mm"},
          {"rotor.pocket.post", "2.4 mm"},
          {"rotor.pocket.corner_radius", "2 mm"},
          {"winding.turns", "7"},
          {"winding.paths", "2"},
          {"rating.speed", "1200 rpm"},
          {"rating.current", "105 A"},
          {"rating.advance", "38 deg"},
          {"rating.dc_voltage", "540 V"},
          {"rating.max_current", "150 A"},
          {"rating.max_speed", "3000 rpm"}}},
        {"smooth", {{"stator.slot.kind", "none"}}},
    };
    return list;
}

} // namespace

const Variant* Project::find(const std::string& variant) const {
    const auto found =
        std::find_if(variants.begin(), variants.end(), [&](const Variant& v) { return v.name == variant; });
    return found == variants.end() ? nullptr : &*found;
}

Variant* Project::find(const std::string& variant) {
    return const_cast<Variant*>(std::as_const(*this).find(variant));
}

const Variant& Project::in_hand() const {
    const Variant* found = find(active);
    return found ? *found : variants.front();
}

Problems check_project(const Project& project) {
    Problems problems;
    for (const auto& [path, text] : project.unknown)
        problems.push_back({path, "This key is not known at this place; remove it or correct its name."});
    for (const Variant& variant : project.variants) {
        const std::string where = project.variants.size() > 1 ? fmt::format("variant {}: ", variant.name) : "";
        for (const auto& [path, text] : variant.unknown) {
            const auto near = similar_paths(path);
            problems.push_back(
                {where + path,
                 near.empty()
                     ? "There is no such parameter; the value is kept but not used."
                     : fmt::format(
                           "There is no such parameter; did you mean {}? The value is kept but not used.",
                           near.front())});
        }
        const auto machine = build_machine(variant.design, project.materials);
        if (machine) continue;
        for (const Problem& problem : machine.problems())
            problems.push_back({where + problem.path, problem.sentence});
    }
    return problems;
}

std::vector<std::string> starting_shapes() {
    std::vector<std::string> names;
    for (const Shape& shape : shapes()) names.emplace_back(shape.name);
    return names;
}

std::optional<Project> new_project(const std::string& shape) {
    const auto found =
        std::find_if(shapes().begin(), shapes().end(), [&](const Shape& s) { return s.name == shape; });
    if (found == shapes().end()) return std::nullopt;
    Project project;
    project.name = "New machine";
    Design& design = project.variants.front().design;
    for (const Parameter& parameter : parameters()) design.texts[parameter.path] = parameter.standard;
    for (const auto& [path, text] : found->texts) design.texts[path] = text;
    return project;
}

} // namespace mavlo
