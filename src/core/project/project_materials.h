#pragma once
// The materials of a project: which it uses, where, and its own ones.

#include "project/project.h"

namespace mavlo {

/// The project's own record of this name, else the shelf's; null where there is neither.
const Material* material_named(const Project& project, const std::string& name);

/// A parameter of a variant that names a material.
struct MaterialUse {
    std::string variant, path;
    bool operator==(const MaterialUse&) const = default;
};

std::vector<MaterialUse> uses_of(const Project& project, const std::string& material);

/// Of the shipped materials those that a variant names and the project has no own record of. They are written
/// into its file, so that it opens with the same values where the shelf is another.
MaterialLibrary shelf_materials_in_use(const Project& project);

/// Adds or replaces an own material; what the file said of it is replaced.
void put_material(Project& project, const Material& material);
void remove_material(Project& project, const std::string& name);

/// Renames an own material and every use of it. Fails when the name is empty, written like an inline material,
/// or taken by another own material or the shelf.
std::optional<Problem> rename_material(Project& project, const std::string& from, const std::string& to);

/// A name that is not taken yet: "M330-35A, own", "M330-35A, own 2", …
std::string free_material_name(const Project& project, const std::string& like);

} // namespace mavlo
