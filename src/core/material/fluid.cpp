#include "material/fluid.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <span>

namespace mavlo {
namespace {

constexpr double celsius_zero = 273.15;

/// Dynamic viscosity in Pa s.
struct LiquidRow {
    double kelvin, density, specific_heat, conductivity, viscosity;
};

struct Liquid {
    const char* name;
    const char* freezes;
    const char* boils;
    std::span<const LiquidRow> rows;
};

constexpr LiquidRow water_rows[] = {{273.15, 1000, 4217, 0.569, 1750e-6}, {280, 1000, 4198, 0.582, 1422e-6},
                                    {290, 999, 4184, 0.598, 1080e-6},     {300, 997, 4179, 0.613, 855e-6},
                                    {310, 993, 4178, 0.628, 695e-6},      {320, 989, 4180, 0.640, 577e-6},
                                    {330, 984, 4184, 0.650, 489e-6},      {340, 979, 4188, 0.660, 420e-6},
                                    {350, 974, 4195, 0.668, 365e-6},      {360, 967, 4203, 0.674, 324e-6},
                                    {370, 961, 4214, 0.679, 289e-6},      {373.15, 958, 4217, 0.680, 279e-6}};
constexpr LiquidRow glycol_rows[] = {{243.15, 1094, 3080, 0.33, 40e-3},  {253.15, 1091, 3120, 0.335, 22e-3},
                                     {273.15, 1085, 3200, 0.35, 8.1e-3}, {293.15, 1077, 3280, 0.37, 3.9e-3},
                                     {313.15, 1067, 3360, 0.39, 2.3e-3}, {333.15, 1055, 3440, 0.40, 1.5e-3},
                                     {353.15, 1041, 3510, 0.41, 1.1e-3}, {373.15, 1026, 3590, 0.415, 0.85e-3}};
constexpr LiquidRow oil_rows[] = {
    {253.15, 896, 1700, 0.137, 0.16},   {273.15, 883, 1780, 0.134, 45e-3},  {293.15, 870, 1860, 0.132, 19e-3},
    {313.15, 857, 1940, 0.130, 8.6e-3}, {333.15, 844, 2020, 0.127, 4.6e-3}, {353.15, 831, 2100, 0.125, 2.8e-3},
    {373.15, 818, 2180, 0.122, 1.9e-3}, {393.15, 805, 2260, 0.120, 1.4e-3}, {413.15, 792, 2340, 0.118, 1.1e-3}};

const Liquid liquids[] = {{"water", "It would freeze.", "It would boil.", water_rows},
                          {"water-glycol", "It would freeze.", "It would boil.", glycol_rows},
                          {"oil", "It would hardly flow.", "It would age within days.", oil_rows}};

double between(double a, double b, double share) {
    return a + share * (b - a);
}

Fluid liquid_at(std::span<const LiquidRow> rows, double kelvin) {
    std::size_t k = 1;
    while (k + 1 < rows.size() && rows[k].kelvin < kelvin) ++k;
    const LiquidRow &a = rows[k - 1], &b = rows[k];
    const double share = (kelvin - a.kelvin) / (b.kelvin - a.kelvin);
    Fluid f;
    f.density = between(a.density, b.density, share);
    f.specific_heat = between(a.specific_heat, b.specific_heat, share);
    f.conductivity = between(a.conductivity, b.conductivity, share);
    f.viscosity = std::exp(between(std::log(a.viscosity), std::log(b.viscosity), share)) / f.density;
    f.expansion = std::max(0.0, (a.density - b.density) / (b.kelvin - a.kelvin) / f.density);
    return f;
}

} // namespace

double air_pressure(double altitude) {
    return 101325 * std::pow(1 - 0.0065 * altitude / 288.15, 5.25588);
}

Fluid dry_air(double kelvin, double pressure) {
    constexpr double gas_constant = 287.053, // J/(kg K)
        sutherland = 110.4, factor = 1.458e-6;
    Fluid f;
    f.density = pressure / (gas_constant * kelvin);
    f.viscosity = factor * std::pow(kelvin, 1.5) / (kelvin + sutherland) / f.density;
    f.conductivity = 2.64638e-3 * std::pow(kelvin, 1.5) / (kelvin + 245.4 * std::pow(10, -12 / kelvin));
    f.specific_heat =
        1002.5 + 275e-6 * std::pow(kelvin - 200, 2); // J. Zografos et al., 1987: within 0.1 % to 700 K
    f.expansion = 1 / kelvin;
    return f;
}

const std::vector<std::string>& coolant_names() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> all;
        for (const Liquid& liquid : liquids) all.emplace_back(liquid.name);
        return all;
    }();
    return names;
}

Result<Fluid> coolant(const std::string& name, double kelvin) {
    for (const Liquid& liquid : liquids) {
        if (name != liquid.name) continue;
        const double low = liquid.rows.front().kelvin, high = liquid.rows.back().kelvin;
        if (kelvin >= low && kelvin <= high) return liquid_at(liquid.rows, kelvin);
        return Problem{"cooling.coolant",
                       fmt::format("The coolant is at {:.0f} °C, and stays liquid from {:.0f} to {:.0f} °C. {}",
                                   kelvin - celsius_zero, low - celsius_zero, high - celsius_zero,
                                   kelvin < low ? liquid.freezes : liquid.boils)};
    }
    return Problem{"cooling.coolant", fmt::format("No coolant is called \"{}\".", name)};
}

} // namespace mavlo
