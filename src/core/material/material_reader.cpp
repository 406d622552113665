#include "material/demagnetisation.h"
#include "material/material.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <nlohmann/json.hpp>
#include <optional>
#include <spdlog/spdlog.h>

namespace mavlo {
namespace {

constexpr Dimension resistivity_dimension{{3, 1, -3, -2, 0, 0}};
constexpr Dimension specific_heat_dimension{{2, 0, -2, 0, -1, 0}}, conductivity_dimension{{1, 1, -3, 0, -1, 0}},
    pressure_dimension{{-1, 1, -2, 0, 0, 0}};

/// Collects what is wrong while the keys of one material are read.
struct Reader {
    const nlohmann::json& source;
    Problems problems{};
    std::vector<std::string> known{"kind", "note"};

    double quantity(const char* key, const Dimension& wanted, double standard, bool required = false) {
        known.emplace_back(key);
        if (!source.contains(key)) {
            if (required) problems.push_back({key, "This value is missing."});
            return standard;
        }
        const nlohmann::json& value = source[key];
        if (value.is_number() && wanted.plain()) return value.get<double>();
        if (!value.is_string()) {
            problems.push_back(
                {key, fmt::format("{} as text with its unit is wanted here.", describe(wanted))});
            return standard;
        }
        const auto read = parse_quantity(value.get<std::string>());
        if (!read) {
            problems.push_back({key, read.problems().front().sentence});
            return standard;
        }
        if (read->dimension != wanted) {
            problems.push_back(
                {key, fmt::format("{} is wanted here, not {}.", describe(wanted), describe(read->dimension))});
            return standard;
        }
        return read->si;
    }

    /// A constant permeability, where there is one.
    bool permeability(Material& material) {
        known.emplace_back("mu_r");
        if (!source.contains("mu_r")) return false;
        const nlohmann::json& mu_r = source["mu_r"];
        const bool ideal = mu_r.is_string() && mu_r.get<std::string>() == "inf";
        if (ideal || (mu_r.is_number() && mu_r.get<double>() >= 1))
            material.curve = BhCurve::linear(ideal ? ideal_mu_r : mu_r.get<double>());
        else
            problems.push_back({"mu_r", "A relative permeability of 1 or more, or \"inf\", is wanted here."});
        return true;
    }

    void curve(Material& material) {
        known.emplace_back("bh");
        if (permeability(material)) return;
        if (!source.contains("bh") || !source["bh"].is_array()) {
            problems.push_back({"bh", "A steel needs \"mu_r\" or \"bh\", a list of [H in A/m, B in T]."});
            return;
        }
        if (auto read = curve_from("bh", source["bh"])) material.curve = *read;
        warm_curves(material);
    }

    /// Pairs of numbers; empty where a row is none, which is said.
    std::optional<std::vector<BhPoint>> pairs(const std::string& key, const nlohmann::json& list,
                                              const char* wanted) {
        std::vector<BhPoint> points;
        for (const nlohmann::json& row : list) {
            if (!row.is_array() || row.size() != 2 || !row[0].is_number() || !row[1].is_number()) {
                problems.push_back({key, fmt::format("Row {} is not a pair {}.", points.size() + 1, wanted)});
                return std::nullopt;
            }
            points.push_back({row[0].get<double>(), row[1].get<double>()});
        }
        return points;
    }

    std::optional<BhCurve> curve_from(const std::string& key, const nlohmann::json& list) {
        auto points = pairs(key, list, "[H in A/m, B in T]");
        if (!points) return std::nullopt;
        auto curve = BhCurve::through(std::move(*points));
        if (curve) return *curve;
        for (const Problem& p : curve.problems()) problems.push_back({key, p.sentence});
        return std::nullopt;
    }

    /// Calls `take` with each temperature and list of {"100 degC": [...], ...}.
    void by_temperature(const char* key, const auto& take) {
        known.emplace_back(key);
        if (!source.contains(key)) return;
        if (!source[key].is_object()) {
            problems.push_back({key, "An object of curves by their temperature is wanted here."});
            return;
        }
        for (const auto& [name, list] : source[key].items()) {
            const auto temperature = parse_quantity(name);
            if (!temperature || temperature->dimension != dimension::temperature || temperature->si <= 0 ||
                !list.is_array())
                problems.push_back(
                    {fmt::format("{}.{}", key, name),
                     "A list of pairs under a temperature such as \"100 degC\" is wanted here."});
            else
                take(temperature->si, list, fmt::format("{}.{}", key, name));
        }
    }

    /// "bh_at": {"100 degC": [[H, B], …], …}, beside "bh" at 20 degC.
    void warm_curves(Material& material) {
        by_temperature("bh_at", [&](double kelvin, const nlohmann::json& list, const std::string& path) {
            if (auto curve = curve_from(path, list))
                material.warm_curves.emplace_back(kelvin, std::move(*curve));
        });
        std::sort(material.warm_curves.begin(), material.warm_curves.end(),
                  [](const auto& a, const auto& b) { return a.first < b.first; });
    }

    /// "demagnetisation": {"20 degC": [[H, J], …], …}.
    void demagnetisation(MagnetData& data) {
        by_temperature("demagnetisation",
                       [&](double kelvin, const nlohmann::json& list, const std::string& path) {
                           auto points = pairs(path, list, "[H in A/m, J in T]");
                           if (!points) return;
                           auto curve = demagnetisation_curve(kelvin, std::move(*points));
                           if (curve)
                               data.curves.push_back(std::move(*curve));
                           else
                               problems.push_back({path, curve.problems().front().sentence});
                       });
        std::sort(data.curves.begin(), data.curves.end(),
                  [](const auto& a, const auto& b) { return a.temperature < b.temperature; });
    }

    /// "loss": [[f in Hz, B in T, W/kg], …].
    void loss(Material& material) {
        known.insert(known.end(), {"loss", "loss_law"});
        if (!source.contains("loss")) return;
        std::vector<LossPoint> points;
        for (const nlohmann::json& row : source["loss"]) {
            const bool numbers = row.is_array() && row.size() == 3 && row[0].is_number() &&
                                 row[1].is_number() && row[2].is_number();
            if (!numbers) {
                problems.push_back({"loss", fmt::format("Row {} is not a triple [f in Hz, B in T, W/kg].",
                                                        points.size() + 1)});
                return;
            }
            points.push_back({row[0].get<double>(), row[1].get<double>(), row[2].get<double>()});
        }
        auto law = fit_iron_loss(
            std::move(points),
            Sheet(material.thickness, material.resistivity, material.density, material.curve), loss_law());
        if (law)
            material.loss = *law;
        else
            problems.insert(problems.end(), law.problems().begin(), law.problems().end());
    }

    void solid(Material& material) {
        known.emplace_back("solid");
        if (!source.contains("solid")) return;
        if (source["solid"].is_boolean())
            material.solid = source["solid"].get<bool>();
        else
            problems.push_back({"solid", "true or false is wanted here: whether the steel is massive."});
    }

    LossLaw loss_law() {
        if (!source.contains("loss_law")) return LossLaw::Separated;
        for (LossLaw law : {LossLaw::Separated, LossLaw::Power})
            if (source["loss_law"] == to_string(law)) return law;
        problems.push_back({"loss_law", "\"separated\" or \"power\" is wanted here."});
        return LossLaw::Separated;
    }

    void magnet(Material& material) {
        MagnetData& data = material.magnet;
        data.remanence = quantity("remanence", dimension::flux_density, 0, true);
        data.recoil_mu_r = quantity("recoil_mu_r", dimension::none, 1, true);
        data.remanence_per_kelvin = quantity("remanence_per_kelvin", dimension::none, 0);
        data.coercivity = quantity("coercivity", dimension::field_strength, 0);
        data.coercivity_per_kelvin = quantity("coercivity_per_kelvin", dimension::none, 0);
        demagnetisation(data);
        if (data.recoil_mu_r < 1)
            problems.push_back({"recoil_mu_r", "The recoil permeability must be 1 or more."});
        else
            material.curve = BhCurve::linear(data.recoil_mu_r);
        if (data.remanence < 0) problems.push_back({"remanence", "The remanence must not be negative."});
    }

    void unknown_keys() {
        for (const auto& [key, value] : source.items())
            if (std::find(known.begin(), known.end(), key) == known.end())
                problems.push_back(
                    {key, "This key is not known for such a material; remove it or correct its name."});
    }
};

MaterialLibrary read_folder(const std::filesystem::path& folder) {
    MaterialLibrary library;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error)) {
        if (entry.path().extension() != ".json") continue;
        std::ifstream file(entry.path());
        const nlohmann::json content = nlohmann::json::parse(file, nullptr, false);
        if (!content.is_object() || !content.contains("name") || !content["name"].is_string()) {
            spdlog::error("{}: not a material with a name", entry.path().string());
            continue;
        }
        nlohmann::json rest = content;
        rest.erase("name");
        const std::string name = content["name"];
        const auto material = read_material(name, rest);
        if (material)
            library[name] = *material;
        else
            for (const Problem& problem : material.problems())
                spdlog::error("{}: {}", entry.path().string(), to_string(problem));
    }
    if (error) spdlog::error("{}: {}", folder.string(), error.message());
    return library;
}

} // namespace

Result<Material> read_material(const std::string& name, const nlohmann::json& source) {
    if (!source.is_object()) return Problem{{}, "A material is an object with a \"kind\"."};
    Material material;
    material.name = name;
    const std::string kind =
        source.contains("kind") && source["kind"].is_string() ? source["kind"].get<std::string>() : "";
    const auto kinds = {MaterialKind::Steel, MaterialKind::Magnet, MaterialKind::Conductor,
                        MaterialKind::Insulator};
    const auto found =
        std::find_if(kinds.begin(), kinds.end(), [&](MaterialKind k) { return to_string(k) == kind; });
    if (found == kinds.end())
        return Problem{"kind", "A material is a \"steel\", a \"magnet\", a \"conductor\" or an \"insulator\"."};
    material.kind = *found;
    if (source.contains("note") && source["note"].is_string()) material.note = source["note"];
    Reader reader{source};
    material.density = reader.quantity("density", dimension::density, 0);
    material.resistivity =
        reader.quantity("resistivity", resistivity_dimension, 0, material.kind == MaterialKind::Conductor);
    material.resistivity_per_kelvin = reader.quantity("resistivity_per_kelvin", dimension::none, 0);
    material.specific_heat = reader.quantity("specific_heat", specific_heat_dimension, 0);
    material.thermal_conductivity = reader.quantity("thermal_conductivity", conductivity_dimension, 0);
    material.youngs_modulus = reader.quantity("youngs_modulus", pressure_dimension, 0);
    material.yield_strength = reader.quantity("yield_strength", pressure_dimension, 0);
    material.highest_temperature = reader.quantity("highest_temperature", dimension::temperature, 0);
    if (material.kind == MaterialKind::Steel) {
        material.thickness = reader.quantity("thickness", dimension::length, 0);
        material.thermal_conductivity_across =
            reader.quantity("thermal_conductivity_across", conductivity_dimension, 0);
        reader.curve(material);
        reader.loss(material);
        reader.solid(material);
    }
    if (material.kind == MaterialKind::Insulator) reader.permeability(material); // of a magnetic wedge
    if (material.kind == MaterialKind::Magnet) reader.magnet(material);
    reader.unknown_keys();
    if (!reader.problems.empty()) return reader.problems;
    return material;
}

std::string data_folder() {
    if (const char* own = std::getenv("MAVLO_DATA")) return own;
    if (std::filesystem::exists(MAVLO_INSTALL_DATA)) return MAVLO_INSTALL_DATA;
    return MAVLO_BUILD_DATA;
}

const MaterialLibrary& shipped_materials() {
    static const MaterialLibrary library = read_folder(std::filesystem::path(data_folder()) / "materials");
    return library;
}

} // namespace mavlo
