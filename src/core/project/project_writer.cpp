#include "project/answers.h"
#include "project/compact_json.h"
#include "project/design_lists.h"
#include "project/project.h"
#include "project/project_materials.h"
#include "project/unknown_keys.h"
#include "quantity/formula.h"
#include "quantity/quantity.h"
#include "storage/file.h"

#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sstream>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;

void put(json& tree, const std::string& path, json value) {
    json* at = &tree;
    std::size_t begin = 0;
    for (std::size_t dot = path.find('.'); dot != std::string::npos; dot = path.find('.', begin)) {
        at = &(*at)[path.substr(begin, dot - begin)];
        if (!at->is_null() && !at->is_object()) return; // a leaf stands in the way; cannot come from a file
        begin = dot + 1;
    }
    (*at)[path.substr(begin)] = std::move(value);
}

json leaf_json(const Parameter& parameter, const std::string& text) {
    std::string_view rest;
    const bool plain = parameter.unit.empty() &&
                       (parameter.kind == ParameterKind::Number || parameter.kind == ParameterKind::Whole);
    if (plain && !is_formula(text)) {
        const auto number = read_number(text, rest);
        if (number && rest.empty()) {
            if (*number == double(std::int64_t(*number)) && std::abs(*number) < 1e9)
                return std::int64_t(*number);
            return *number;
        }
    }
    return text;
}

json variant_json(const Variant& variant) {
    json tree = json::object();
    for (const Parameter& parameter : parameters())
        if (const auto text = variant.design.texts.find(parameter.path); text != variant.design.texts.end())
            put(tree, parameter.path, leaf_json(parameter, text->second));
    tree.update(lists_json(variant.design));
    for (const auto& [name, netlist] : variant.design.circuits) {
        json& lines = tree["circuits"][name] = json::array();
        std::istringstream in(netlist);
        for (std::string line; std::getline(in, line);) lines.push_back(line);
    }
    put_back(tree, variant.unknown);
    return tree;
}

} // namespace

std::string project_text(const Project& project) {
    json root{{"format", "mavlo"},
              {"version", newest_project_version},
              {"name", project.name},
              {"active", project.active},
              {"reference", project.reference}};
    for (const Variant& variant : project.variants) root["variants"][variant.name] = variant_json(variant);
    for (const auto& [name, text] : project.material_texts)
        root["materials"][name] = json::parse(text, nullptr, false);
    for (const auto& [name, material] : shelf_materials_in_use(project))
        root["materials"][name] = json::parse(to_json(material).dump());
    put_back(root, project.unknown);
    return with_rows_on_lines(root.dump(2, ' ', false, json::error_handler_t::replace)) + "\n";
}

std::optional<Problem> write_project(const Project& project, const std::filesystem::path& file) {
    return write_file_atomically(file, project_text(project));
}

namespace {

constexpr int most_backups = 3;

std::filesystem::path backup_of(const std::filesystem::path& file, int number) {
    return answers_folder(file) / fmt::format("saved-{}.mavlo", number);
}

/// What stands in the file now; a failure costs the backup, not the save.
void back_up(const std::filesystem::path& file) {
    const auto before = read_file(file);
    if (!before || before->empty()) return;
    if (read_kept(backup_of(file, 1)) == *before) return;
    std::error_code error;
    std::filesystem::create_directories(answers_folder(file), error);
    for (int number = most_backups; number > 1; --number)
        std::filesystem::rename(backup_of(file, number - 1), backup_of(file, number), error);
    write_kept(backup_of(file, 1), *before);
}

} // namespace

std::optional<Problem> save_project(const Project& project, const std::filesystem::path& file) {
    back_up(file);
    return write_project(project, file);
}

} // namespace mavlo
