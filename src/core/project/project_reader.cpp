#include "project/design_lists.h"
#include "project/project.h"
#include "project/unknown_keys.h"
#include "quantity/quantity.h"
#include "storage/file.h"
#include "storage/json_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr int deepest = 16; ///< levels of objects that a design may have
constexpr std::size_t most_variants = 1000, most_coils = 20000, most_shapes = 5000; ///< more is no design
constexpr std::uintmax_t most_project_bytes = 32 << 20;

/// Reads the tree of a variant into texts by path.
class DesignReader {
  public:
    explicit DesignReader(Variant& variant)
        : m_variant(variant) {}

    void read(const json& tree, const std::string& path, const std::string& pointer, int depth) {
        for (const auto& [key, value] : tree.items()) {
            const std::string here = path.empty() ? key : path + "." + key;
            const std::string at = pointer_to(pointer, key);
            if (here == "coils" && value.is_array() && value.size() <= most_coils)
                m_coils = &value;
            else if (here == "circuits" && value.is_object())
                read_circuits(value);
            else if (here == "drawings" && value.is_object())
                read_drawings(value);
            else if (value.is_object() && !value.empty() && depth < deepest && !find_parameter(here))
                read(value, here, at, depth + 1);
            else
                leaf(here, at, value);
        }
    }

    /// After everything else: their phases have names that depend on how many there are.
    void read_coils() {
        if (!m_coils) return;
        const int phases = plain_phases(m_variant.design);
        for (const json& value : *m_coils)
            if (auto coil = coil_from(value, phases))
                m_variant.design.coils.push_back(*coil);
            else
                problems.push_back(
                    {fmt::format("coils[{}]", &value - &(*m_coils)[0]),
                     "A coil is { \"go\": [slot, layer], \"return\": [slot, layer], \"turns\": 20, "
                     "\"phase\": \"U\" }, a minus before the phase for the other sense."});
    }

    /// Keys inside drawings and coils that are not this program's.
    void read_unknown_in_lists(const json& tree) {
        if (!problems.empty()) return;
        const json written = lists_json(m_variant.design);
        for (const char* key : {"drawings", "coils"})
            if (tree.contains(key))
                add_unknown(tree[key], written.value(key, json::object()), pointer_to("", key),
                            m_variant.unknown);
    }

    Problems problems;

  private:
    const json* m_coils = nullptr;

    /// A list of lines each; what is wrong with a netlist is said where it is used, so that it can be mended.
    void read_circuits(const json& tree) {
        for (const auto& [name, lines] : tree.items()) {
            std::string text;
            bool plain = lines.is_array();
            for (const json& line : lines) {
                plain = plain && line.is_string();
                if (plain) text += line.get<std::string>() + "\n";
            }
            if (plain)
                m_variant.design.circuits[name] = text;
            else
                problems.push_back({"circuits." + name, "A circuit is a list of lines of a netlist."});
        }
    }

    static CoilSide side_from(const json& j, int first = 0) {
        return {whole_number(j.at(0), first, 100000), whole_number(j.at(1), 0, 1000)};
    }

    static std::optional<Coil> coil_from(const json& j, int phases) {
        try {
            Coil coil;
            coil.go = side_from(j.at("go"));
            coil.back = {outside_core, 0};
            if (j.contains("return")) coil.back = side_from(j["return"], outside_core);
            coil.turns = j.at("turns").get<double>();
            std::string name = j.at("phase").get<std::string>();
            if (name.starts_with('-')) {
                coil.sign = -1;
                name.erase(0, 1);
            }
            for (coil.phase = 0; coil.phase < phases; ++coil.phase)
                if (name == phase_name(coil.phase, phases)) break;
            const bool sound = coil.phase < phases && coil.turns > 0 && coil.turns <= 1e4 && coil.go.slot >= 0;
            if (sound) return coil;
        } catch (const std::exception&) {
        }
        return std::nullopt;
    }

    void read_drawings(const json& tree) {
        for (const auto& [side, value] : tree.items()) {
            if (side == "shapes" && value.is_array()) {
                read_shapes(value);
                continue;
            }
            if (side == "dimensions" && value.is_array()) {
                read_dimensions(value);
                continue;
            }
            if (side != "stator" && side != "rotor") continue; // unknown, and kept
            auto part = drawn_part_from(value);
            if (part)
                m_variant.design.drawings[side] = std::move(*part);
            else
                problems.push_back({"drawings." + side, part.problems().front().sentence});
        }
    }

    /// False for a list that is longer than any design's.
    bool is_bounded(const json& list, const std::string& path) {
        if (list.size() <= most_shapes) return true;
        problems.push_back({path, fmt::format("A design has at most {} of these.", most_shapes)});
        return false;
    }

    void read_shapes(const json& list) {
        if (!is_bounded(list, "drawings.shapes")) return;
        for (const json& value : list)
            if (auto shape = free_shape_from(value))
                m_variant.design.shapes.push_back(std::move(*shape));
            else
                problems.push_back(
                    {fmt::format("drawings.shapes[{}]", &value - &list[0]), shape.problems().front().sentence});
    }

    void read_dimensions(const json& list) {
        if (!is_bounded(list, "drawings.dimensions")) return;
        for (const json& value : list)
            if (auto dimension = drawn_dimension_from(value))
                m_variant.design.dimensions.push_back(std::move(*dimension));
            else
                problems.push_back({fmt::format("drawings.dimensions[{}]", &value - &list[0]),
                                    dimension.problems().front().sentence});
    }

    void leaf(const std::string& path, const std::string& pointer, const json& value) {
        if (path == "coils" && value.is_array()) {
            problems.push_back({path, fmt::format("A winding has at most {} coils.", most_coils)});
            return;
        }
        if (!find_parameter(path)) {
            m_variant.unknown[pointer] = compact_text(value);
            return;
        }
        if (value.is_string())
            m_variant.design.texts[path] = value.get<std::string>();
        else if (value.is_number())
            m_variant.design.texts[path] = number_text(value.get<double>(), 15);
        else
            problems.push_back({path, "A number, or a text such as \"50 mm\", is wanted here."});
    }

    Variant& m_variant;
};

Problems read_variants(const json& root, Project& project) {
    Problems problems;
    if (!root.contains("variants") || !root["variants"].is_object() || root["variants"].empty())
        return {{"variants", "A project needs \"variants\": an object with at least one design by its name."}};
    if (root["variants"].size() > most_variants)
        return {{"variants", fmt::format("A project has at most {} variants.", most_variants)}};
    project.variants.clear();
    for (const auto& [name, tree] : root["variants"].items()) {
        Variant variant{name, {}, {}};
        if (!tree.is_object()) {
            problems.push_back({"variants." + name, "A variant is an object of parameters."});
            continue;
        }
        DesignReader reader(variant);
        reader.read(tree, "", "", 0);
        reader.read_coils();
        reader.read_unknown_in_lists(tree);
        problems.insert(problems.end(), reader.problems.begin(), reader.problems.end());
        project.variants.push_back(std::move(variant));
    }
    return problems;
}

Problems read_materials(const json& root, Project& project) {
    Problems problems;
    if (!root.contains("materials")) return problems;
    if (!root["materials"].is_object())
        return {{"materials", "\"materials\" is an object of materials by their name."}};
    for (const auto& [name, source] : root["materials"].items()) {
        const auto text = source.dump(2, ' ', false, json::error_handler_t::replace);
        const auto material = read_material(name, nlohmann::json::parse(text));
        const auto shipped = shipped_materials().find(name);
        if (material && shipped != shipped_materials().end() && *material == shipped->second)
            continue; // carried along by the file; it is the shelf's
        project.material_texts[name] = text;
        if (material)
            project.materials[name] = *material;
        else
            for (const Problem& p : material.problems())
                problems.push_back({fmt::format("materials.{}.{}", name, p.path), p.sentence});
    }
    return problems;
}

Problems read_names(const json& root, Project& project) {
    Problems problems;
    auto word = [&](const char* key, std::string& target) {
        if (!root.contains(key)) return;
        if (root[key].is_string())
            target = root[key].get<std::string>();
        else
            problems.push_back({key, "A text is wanted here."});
    };
    project.active = project.reference = project.variants.empty() ? "" : project.variants.front().name;
    word("name", project.name);
    word("active", project.active);
    word("reference", project.reference);
    for (auto [key, name] : {std::pair{"active", &project.active}, {"reference", &project.reference}})
        if (problems.empty() && !project.find(*name))
            problems.push_back({key, fmt::format("There is no variant \"{}\".", *name)});
    return problems;
}

Result<Project> project_from(const json& root) {
    if (!root.is_object() || !root.contains("format") || root["format"] != "mavlo")
        return Problem{"format", "This is no Mavlo project: it lacks \"format\": \"mavlo\"."};
    if (!root.contains("version") || !root["version"].is_number_integer())
        return Problem{"version", "The project does not say its version; write \"version\": 1."};
    const auto version = root["version"].get<std::int64_t>();
    if (version > newest_project_version)
        return Problem{
            "version",
            fmt::format("The project is of version {}, written by a newer Mavlo; this one reads up to {}.",
                        version, newest_project_version)};
    if (version < 1)
        return Problem{"version", fmt::format("There is no version {} of project files.", version)};
    Project project;
    Problems problems = read_variants(root, project);
    for (auto read : {read_names, read_materials}) {
        const Problems more = read(root, project);
        problems.insert(problems.end(), more.begin(), more.end());
    }
    for (const auto& [key, value] : root.items())
        if (const auto known = {"format", "version", "name", "active", "reference", "variants", "materials"};
            std::find_if(known.begin(), known.end(), [&](const char* k) { return key == k; }) == known.end())
            project.unknown[pointer_to("", key)] = compact_text(value);
    if (!problems.empty()) return problems;
    return project;
}

} // namespace

Result<Project> parse_project(const std::string& text) {
    const auto root = parse_json(text);
    if (!root) return root.problems();
    try {
        return project_from(*root);
    } catch (const nlohmann::json::exception& error) {
        return Problem{"", fmt::format("The file is not a readable project: {}.", error.what())};
    }
}

Result<Project> read_project(const std::filesystem::path& file) {
    const auto text = read_file(file, most_project_bytes);
    if (!text) return text.problems();
    return parse_project(*text);
}

} // namespace mavlo
