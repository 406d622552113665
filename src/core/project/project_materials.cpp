#include "project/project_materials.h"

#include "quantity/quantity.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {

const Material* material_named(const Project& project, const std::string& name) {
    for (const MaterialLibrary* library : {&project.materials, &shipped_materials()})
        if (const auto found = library->find(name); found != library->end()) return &found->second;
    return nullptr;
}

std::vector<MaterialUse> uses_of(const Project& project, const std::string& material) {
    std::vector<MaterialUse> uses;
    for (const Variant& variant : project.variants)
        for (const MaterialPlace& place : materials_named(variant.design))
            if (place.name == material) uses.push_back({variant.name, place.path});
    return uses;
}

MaterialLibrary shelf_materials_in_use(const Project& project) {
    MaterialLibrary used;
    for (const Variant& variant : project.variants)
        for (const MaterialPlace& place : materials_named(variant.design)) {
            if (project.materials.contains(place.name) || project.material_texts.contains(place.name)) continue;
            if (const auto found = shipped_materials().find(place.name); found != shipped_materials().end())
                used.insert(*found);
        }
    return used;
}

void put_material(Project& project, const Material& material) {
    project.materials[material.name] = material;
    project.material_texts[material.name] =
        to_json(material).dump(2, ' ', false, nlohmann::json::error_handler_t::replace);
}

void remove_material(Project& project, const std::string& name) {
    project.materials.erase(name);
    project.material_texts.erase(name);
}

std::optional<Problem> rename_material(Project& project, const std::string& from, const std::string& to) {
    const std::string name(trim(to));
    if (name == from) return std::nullopt;
    if (name.empty()) return Problem{"materials", "A material needs a name."};
    if (is_inline_material(name) || name.starts_with('='))
        return Problem{"materials",
                       fmt::format("\"{}\" reads as a material written out, not as a name.", name)};
    if (project.materials.contains(name) || shipped_materials().contains(name))
        return Problem{"materials", fmt::format("There is a material \"{}\" already.", name)};
    const auto found = project.materials.find(from);
    if (found == project.materials.end())
        return Problem{"materials", fmt::format("\"{}\" is none of the project's own materials.", from)};
    Material material = found->second;
    remove_material(project, from);
    material.name = name;
    put_material(project, material);
    for (Variant& variant : project.variants) rename_material(variant.design, from, name);
    return std::nullopt;
}

std::string free_material_name(const Project& project, const std::string& like) {
    const auto taken = [&](const std::string& name) {
        return project.materials.contains(name) || shipped_materials().contains(name);
    };
    std::string name = like + ", own";
    for (int i = 2; taken(name); ++i) name = fmt::format("{}, own {}", like, i);
    return name;
}

} // namespace mavlo
