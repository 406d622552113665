#include "project/compact_json.h"
#include "project/project.h"
#include "project/project_materials.h"
#include "quantity/formula.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cerrno>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>
#include <unistd.h>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr int newest_version = 1;
constexpr int deepest = 16; ///< levels of objects that a design may have

Problem syntax_problem(const std::string& text, const nlohmann::json::parse_error& error) {
    const std::size_t at = std::min(error.byte ? error.byte - 1 : 0, text.size());
    const auto line = 1 + std::count(text.begin(), text.begin() + std::ptrdiff_t(at), '\n');
    std::string reason = error.what();
    if (const auto colon = reason.find("syntax error"); colon != std::string::npos)
        reason = reason.substr(colon);
    return {
        fmt::format("line {}", line),
        fmt::format("The file is not readable as JSON: {}. Correct that line or go back to a copy.", reason)};
}

/// As far as the file says it plainly.
int phases_of(const Design& design) {
    return std::max(1, std::atoi(design.text("winding.phases").c_str()));
}

/// Reads the tree of a variant into texts by path.
class DesignReader {
  public:
    explicit DesignReader(Variant& variant)
        : m_variant(variant) {}

    void read(const json& tree, const std::string& path, int depth) {
        for (const auto& [key, value] : tree.items()) {
            const std::string here = path.empty() ? key : path + "." + key;
            if (here == "coils" && value.is_array())
                m_coils = &value;
            else if (here == "circuits" && value.is_object())
                read_circuits(value);
            else if (here == "drawings" && value.is_object())
                read_drawings(value);
            else if (value.is_object() && depth < deepest && !find_parameter(here))
                read(value, here, depth + 1);
            else
                leaf(here, value);
        }
    }

    /// After everything else: their phases have names that depend on how many there are.
    void read_coils() {
        if (!m_coils) return;
        const int phases = phases_of(m_variant.design);
        for (const json& value : *m_coils)
            if (auto coil = coil_from(value, phases))
                m_variant.design.coils.push_back(*coil);
            else
                problems.push_back(
                    {fmt::format("coils[{}]", &value - &(*m_coils)[0]),
                     "A coil is { \"go\": [slot, layer], \"return\": [slot, layer], \"turns\": 20, "
                     "\"phase\": \"U\" }, a minus before the phase for the other sense."});
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

    static std::optional<Coil> coil_from(const json& j, int phases) {
        try {
            Coil coil;
            coil.go = {j.at("go").at(0).get<int>(), j.at("go").at(1).get<int>()};
            coil.back = {outside_core, 0};
            if (j.contains("return")) coil.back = {j["return"].at(0).get<int>(), j["return"].at(1).get<int>()};
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
            auto part = drawn_part_from(value);
            if (part)
                m_variant.design.drawings[side] = std::move(*part);
            else
                problems.push_back({"drawings." + side, part.problems().front().sentence});
        }
    }

    void read_shapes(const json& list) {
        for (const json& value : list)
            if (auto shape = free_shape_from(value))
                m_variant.design.shapes.push_back(std::move(*shape));
            else
                problems.push_back(
                    {fmt::format("drawings.shapes[{}]", &value - &list[0]), shape.problems().front().sentence});
    }

    void read_dimensions(const json& list) {
        for (const json& value : list)
            if (auto dimension = drawn_dimension_from(value))
                m_variant.design.dimensions.push_back(std::move(*dimension));
            else
                problems.push_back({fmt::format("drawings.dimensions[{}]", &value - &list[0]),
                                    dimension.problems().front().sentence});
    }

    void leaf(const std::string& path, const json& value) {
        if (!find_parameter(path)) {
            m_variant.unknown[path] = value.dump(-1, ' ', false, json::error_handler_t::replace);
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
    project.variants.clear();
    for (const auto& [name, tree] : root["variants"].items()) {
        Variant variant{name, {}, {}};
        if (!tree.is_object()) {
            problems.push_back({"variants." + name, "A variant is an object of parameters."});
            continue;
        }
        DesignReader reader(variant);
        reader.read(tree, "", 0);
        reader.read_coils();
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
    if (version > newest_version)
        return Problem{
            "version",
            fmt::format("The project is of version {}, written by a newer Mavlo; this one reads up to {}.",
                        version, newest_version)};
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
            project.unknown[key] = value.dump(-1, ' ', false, json::error_handler_t::replace);
    if (!problems.empty()) return problems;
    return project;
}

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
    for (const auto& [side, part] : variant.design.drawings) tree["drawings"][side] = to_json(part);
    for (const FreeShape& shape : variant.design.shapes) tree["drawings"]["shapes"].push_back(to_json(shape));
    for (const DrawnDimension& d : variant.design.dimensions)
        tree["drawings"]["dimensions"].push_back(to_json(d));
    const int phases = phases_of(variant.design);
    for (const Coil& coil : variant.design.coils) {
        json row{{"go", {coil.go.slot, coil.go.layer}}};
        if (coil.back.slot != outside_core) row["return"] = {coil.back.slot, coil.back.layer};
        row["turns"] = coil.turns == std::rint(coil.turns) ? json(std::int64_t(coil.turns)) : json(coil.turns);
        row["phase"] = (coil.sign < 0 ? "-" : "") + phase_name(coil.phase, phases);
        tree["coils"].push_back(row);
    }
    for (const auto& [name, netlist] : variant.design.circuits) {
        json& lines = tree["circuits"][name] = json::array();
        std::istringstream in(netlist);
        for (std::string line; std::getline(in, line);) lines.push_back(line);
    }
    for (const auto& [path, text] : variant.unknown) put(tree, path, json::parse(text, nullptr, false));
    return tree;
}

Problem system_problem(const std::filesystem::path& file, const char* what) {
    return {file.string(),
            fmt::format(
                "{} failed: {}. The file on the disk is as it was; free some space or choose another folder.",
                what, std::strerror(errno))};
}

} // namespace

Result<Project> parse_project(const std::string& text) {
    try {
        return project_from(json::parse(text));
    } catch (const nlohmann::json::parse_error& error) {
        return syntax_problem(text, error);
    } catch (const nlohmann::json::exception& error) {
        return Problem{"", fmt::format("The file is not a readable project: {}.", error.what())};
    }
}

Result<Project> read_project(const std::filesystem::path& file) {
    std::error_code error;
    if (std::filesystem::is_directory(file, error))
        return Problem{file.string(), "This is a folder, not a project file."};
    std::ifstream in(file, std::ios::binary);
    if (!in) return Problem{file.string(), fmt::format("The file cannot be opened: {}.", std::strerror(errno))};
    std::ostringstream text;
    text << in.rdbuf();
    return parse_project(text.str());
}

std::string project_text(const Project& project) {
    json root{{"format", "mavlo"},
              {"version", newest_version},
              {"name", project.name},
              {"active", project.active},
              {"reference", project.reference}};
    for (const Variant& variant : project.variants) root["variants"][variant.name] = variant_json(variant);
    for (const auto& [name, text] : project.material_texts)
        root["materials"][name] = json::parse(text, nullptr, false);
    for (const auto& [name, material] : shelf_materials_in_use(project))
        root["materials"][name] = json::parse(to_json(material).dump());
    for (const auto& [key, text] : project.unknown) root[key] = json::parse(text, nullptr, false);
    return with_rows_on_lines(root.dump(2, ' ', false, json::error_handler_t::replace)) + "\n";
}

std::optional<Problem> write_file_atomically(const std::filesystem::path& file, const std::string& text) {
    // Nodes of a cluster may write into one folder.
    char host[64] = "";
    ::gethostname(host, sizeof host - 1);
    const std::filesystem::path aside = file.string() + fmt::format(".{}.{}.part", host, ::getpid());
    const int fd = ::open(aside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (fd < 0) return system_problem(file, "Opening it for writing");
    auto give_up = [&](const char* what) {
        const Problem problem = system_problem(file, what);
        ::close(fd);
        ::unlink(aside.c_str());
        return problem;
    };
    for (std::size_t done = 0; done < text.size();) {
        const auto written = ::write(fd, text.data() + done, text.size() - done);
        if (written < 0 && errno == EINTR) continue;
        if (written < 0) return give_up("Writing it");
        done += std::size_t(written);
    }
    if (::fsync(fd) != 0) return give_up("Writing it to the disk");
    ::close(fd);
    if (::rename(aside.c_str(), file.c_str()) != 0) {
        const Problem problem = system_problem(file, "Putting it in its place");
        ::unlink(aside.c_str());
        return problem;
    }
    const auto folder = file.has_parent_path() ? file.parent_path() : std::filesystem::path(".");
    if (const int dir = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); dir >= 0) {
        ::fsync(dir); // so that the new name survives a power cut
        ::close(dir);
    }
    return std::nullopt;
}

std::optional<Problem> write_project(const Project& project, const std::filesystem::path& file) {
    return write_file_atomically(file, project_text(project));
}

} // namespace mavlo
