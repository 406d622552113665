#include "material/material.h"

#include "material/demagnetisation.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

std::string with_article(MaterialKind kind) {
    return (kind == MaterialKind::Insulator || kind == MaterialKind::Air ? "an " : "a ") + to_string(kind);
}
} // namespace

std::string to_string(MaterialKind kind) {
    switch (kind) {
    case MaterialKind::Steel:
        return "steel";
    case MaterialKind::Magnet:
        return "magnet";
    case MaterialKind::Conductor:
        return "conductor";
    case MaterialKind::Insulator:
        return "insulator";
    case MaterialKind::Air:
        return "air";
    }
    return {};
}

double MagnetData::remanence_at(double kelvin) const {
    assert(kelvin > 0);
    return remanence * (1 + remanence_per_kelvin * (kelvin - reference_temperature));
}

double MagnetData::coercivity_at(double kelvin) const {
    return coercivity * (1 + coercivity_per_kelvin * (kelvin - reference_temperature));
}

double MagnetData::knee_field_at(double kelvin) const {
    constexpr double share = 0.92;
    if (!curves.empty()) return measured_knee_field(*this, kelvin);
    return coercivity > 0 ? share * std::max(0.0, coercivity_at(kelvin)) : 0;
}

double MagnetData::knee_at(double kelvin) const {
    if (coercivity <= 0 && curves.empty()) return -1e3;
    return remanence_at(kelvin) - mu0 * recoil_mu_r * knee_field_at(kelvin);
}

BhCurve Material::curve_at(double kelvin) const {
    if (warm_curves.empty() || curve.is_linear()) return curve;
    double cold_at = reference_temperature, warm_at = 0;
    const BhCurve *cold = &curve, *warm = nullptr;
    for (const auto& [temperature, warm_curve] : warm_curves) {
        if (temperature <= reference_temperature) continue;
        warm = &warm_curve, warm_at = temperature;
        if (kelvin <= temperature) break;
        cold = warm, cold_at = warm_at;
    }
    if (!warm || kelvin <= cold_at || warm == cold) return *cold;
    const double share = (kelvin - cold_at) / (warm_at - cold_at);
    std::vector<BhPoint> points;
    for (const BhPoint& p : cold->points())
        if (p.h > 0) points.push_back({p.h, (1 - share) * p.b + share * warm->flux_density(p.h)});
    return BhCurve::through(std::move(points)).value(); // both rise, so their mean does
}

double Material::resistivity_at(double kelvin) const {
    assert(kelvin > 0);
    constexpr double of_iron = 6.3e-10; // Ohm.m/K
    const double slope = kind == MaterialKind::Steel && resistivity > 0 && resistivity_per_kelvin == 0
                             ? of_iron
                             : resistivity * resistivity_per_kelvin;
    return resistivity + slope * (kelvin - reference_temperature);
}

double Material::stack_conductivity(double stacking) const {
    constexpr double varnish = 0.1; // W/(m K)
    if (thermal_conductivity_across > 0) return thermal_conductivity_across;
    if (thermal_conductivity <= 0 || thickness <= 0 || solid) return thermal_conductivity;
    return 1 / (stacking / thermal_conductivity + (1 - stacking) / varnish);
}

IronLossLaw Material::loss_at(double kelvin) const {
    IronLossLaw law = loss;
    const double warm = resistivity_at(kelvin);
    if (law.law == LossLaw::Power || warm <= 0) return law;
    const double ratio = resistivity / warm;
    law.classical *= ratio;
    law.excess *= std::sqrt(ratio);
    for (double& corner : law.corners) corner /= ratio;
    return law;
}

bool is_air(std::string_view filling) {
    return trim(filling) == "air";
}

namespace {

constexpr const char* inline_kinds[] = {"linear(", "magnet(", "conductor("};

Result<Material> inline_steel(Material material, std::string_view inside) {
    material.kind = MaterialKind::Steel;
    std::string_view rest;
    const double mu_r = inside == "inf" ? ideal_mu_r : read_number(inside, rest).value_or(0);
    if (!rest.empty() || mu_r < 1)
        return Problem{
            {},
            fmt::format("\"{}\" needs a relative permeability of 1 or more, e.g. linear(5000) or linear(inf).",
                        material.name)};
    material.curve = BhCurve::linear(mu_r);
    return material;
}

Result<Material> inline_magnet(Material material, std::string_view inside) {
    material.kind = MaterialKind::Magnet;
    std::string_view rest;
    const auto comma = inside.find(',');
    const auto remanence = parse_quantity(inside.substr(0, comma));
    const double mu_r =
        comma == std::string_view::npos ? 0 : read_number(inside.substr(comma + 1), rest).value_or(0);
    if (!remanence || remanence->dimension != dimension::flux_density || remanence->si <= 0 || !rest.empty() ||
        mu_r < 1)
        return Problem{
            {},
            fmt::format(
                "\"{}\" needs a remanence and a recoil permeability of 1 or more, e.g. magnet(1.2 T, 1.05).",
                material.name)};
    material.magnet.remanence = remanence->si;
    material.magnet.recoil_mu_r = mu_r;
    material.curve = BhCurve::linear(mu_r);
    return material;
}

/// At its working temperature: no coefficient.
Result<Material> inline_conductor(Material material, std::string_view inside) {
    material.kind = MaterialKind::Conductor;
    const auto resistivity = parse_quantity(inside);
    if (!resistivity || resistivity->dimension != find_unit("Ohm.m")->dimension || !(resistivity->si > 0))
        return Problem{
            {},
            fmt::format("\"{}\" needs a resistivity above zero, e.g. conductor(2.7e-8 Ohm.m).", material.name)};
    material.resistivity = resistivity->si;
    return material;
}

} // namespace

bool is_inline_material(std::string_view text) {
    text = trim(text);
    return text.ends_with(')') && std::any_of(std::begin(inline_kinds), std::end(inline_kinds),
                                              [&](const char* kind) { return text.starts_with(kind); });
}

Result<Material> parse_inline_material(std::string_view text) {
    text = trim(text);
    const auto open = text.find('(');
    const std::string_view inside = trim(text.substr(open + 1, text.size() - open - 2));
    Material material;
    material.name = std::string(text);
    if (text.starts_with("linear(")) return inline_steel(std::move(material), inside);
    if (text.starts_with("conductor(")) return inline_conductor(std::move(material), inside);
    return inline_magnet(std::move(material), inside);
}

Result<Material> find_material(const std::string& text, const std::vector<MaterialKind>& wanted,
                               const MaterialLibrary& own) {
    std::vector<std::string> names;
    for (MaterialKind kind : wanted) names.push_back(with_article(kind));
    auto checked = [&](Material material) -> Result<Material> {
        if (std::find(wanted.begin(), wanted.end(), material.kind) != wanted.end()) return material;
        return Problem{{},
                       fmt::format("\"{}\" is {}, and {} is wanted here.", text, with_article(material.kind),
                                   fmt::join(names, " or "))};
    };
    if (is_inline_material(text)) {
        auto material = parse_inline_material(text);
        return material ? checked(std::move(*material)) : material;
    }
    if (const auto found = own.find(text); found != own.end()) return checked(found->second);
    if (const auto found = shipped_materials().find(text); found != shipped_materials().end())
        return checked(found->second);
    return Problem{
        {},
        fmt::format(
            "There is no material \"{}\" in the project or the library; `mavlo-cli materials` lists them.",
            text)};
}

} // namespace mavlo
