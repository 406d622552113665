#pragma once
// The project: named variants of a design, the project's own materials, and its file.

#include "machine/design.h"
#include "material/material.h"

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct Variant {
    std::string name;
    Design design;
    /// Keys of the file that are no parameters, by their JSON pointer, with their JSON text: kept and reported,
    /// never used.
    std::map<std::string, std::string> unknown;
    bool operator==(const Variant&) const = default;
};

struct Project {
    std::string name;
    std::vector<Variant> variants{{"base", {}, {}}};
    std::string active = "base";    ///< the variant in hand
    std::string reference = "base"; ///< the one the tell-tales compare with
    MaterialLibrary materials;
    std::map<std::string, std::string> material_texts; ///< JSON of each own material, as it was read
    std::map<std::string, std::string> unknown;        ///< likewise, at the top

    const Variant* find(const std::string& variant) const;
    Variant* find(const std::string& variant);
    const Variant& in_hand() const;
    bool operator==(const Project&) const = default;
};

/// Reads the text of a project file. Fails with line and reason when it is no JSON, or with the path and a
/// sentence when its contents are not a project. Unknown keys do not fail: they come back in `unknown`.
Result<Project> parse_project(const std::string& text);
Result<Project> read_project(const std::filesystem::path& file);

/// The file's text: UTF-8 JSON, stable order, one quantity a line.
std::string project_text(const Project& project);
/// Writes the file whole or not at all (storage/file.h).
std::optional<Problem> write_project(const Project& project, const std::filesystem::path& file);

/// The same, with the three versions that it replaced last kept in the folder of its answers
/// ("saved-1.mavlo" is the newest).
std::optional<Problem> save_project(const Project& project, const std::filesystem::path& file);

/// Everything that is wrong with the project: unknown keys, and each variant's design ("variant base: …").
Problems check_project(const Project& project);

/// A machine to begin with: what it sets beside the standards of its kinds. Lengths are formulas of the
/// diameters, slots and poles, so that each can be drawn in a wide range of them.
struct StartingShape {
    std::string name;
    std::string title; ///< in the trade's words
    std::string tells; ///< one sentence
    std::map<std::string, std::string> texts;
};
const std::vector<StartingShape>& starting_shapes();
std::optional<Project> new_project(const std::string& shape);

} // namespace mavlo
