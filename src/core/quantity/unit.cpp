#include "quantity/unit.h"

#include "quantity/constants.h"
#include "quantity/text.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

using namespace dimension;
constexpr Dimension resistivity{{3, 1, -3, -2, 0, 0}};
constexpr Dimension inductance{{2, 1, -2, -2, 0, 0}};
constexpr Dimension area{{2, 0, 0, 0, 0, 0}};
constexpr Dimension current_density{{-2, 0, 0, 1, 0, 0}};
constexpr Dimension pressure{{-1, 1, -2, 0, 0, 0}}; // and energy a volume
constexpr Dimension specific_heat{{2, 0, -2, 0, -1, 0}};
constexpr Dimension heat_conductivity{{1, 1, -3, 0, -1, 0}};
constexpr Dimension heat_transfer{{0, 1, -3, 0, -1, 0}};
constexpr Dimension heat_resistance{{-2, -1, 3, 0, 1, 0}};
constexpr Dimension velocity{{1, 0, -1, 0, 0, 0}};
constexpr Dimension flow{{3, 0, -1, 0, 0, 0}};

constexpr Unit table[] = {
    {"m", 1, 0, length},
    {"mm", 1e-3, 0, length},
    {"cm", 1e-2, 0, length},
    {"um", 1e-6, 0, length},
    {"µm", 1e-6, 0, length},
    {"in", 0.0254, 0, length},
    {"mil", 2.54e-5, 0, length},
    {"mm2", 1e-6, 0, area},
    {"rad", 1, 0, angle},
    {"deg", pi / 180, 0, angle},
    {"°", pi / 180, 0, angle},
    {"s", 1, 0, dimension::time},
    {"ms", 1e-3, 0, dimension::time},
    {"us", 1e-6, 0, dimension::time},
    {"min", 60, 0, dimension::time},
    {"h", 3600, 0, dimension::time},
    {"Hz", 1, 0, frequency},
    {"kHz", 1e3, 0, frequency},
    {"rad/s", 1, 0, speed},
    {"rpm", 2 * pi / 60, 0, speed},
    {"1/min", 2 * pi / 60, 0, speed},
    {"deg/s", pi / 180, 0, speed},
    {"A", 1, 0, current},
    {"mA", 1e-3, 0, current},
    {"kA", 1e3, 0, current},
    {"V", 1, 0, voltage},
    {"mV", 1e-3, 0, voltage},
    {"kV", 1e3, 0, voltage},
    {"Ohm", 1, 0, resistance},
    {"ohm", 1, 0, resistance},
    {"Ω", 1, 0, resistance},
    {"mOhm", 1e-3, 0, resistance},
    {"Ohm.m", 1, 0, resistivity},
    {"H", 1, 0, inductance},
    {"mH", 1e-3, 0, inductance},
    {"uH", 1e-6, 0, inductance},
    {"µH", 1e-6, 0, inductance},
    {"W", 1, 0, power},
    {"kW", 1e3, 0, power},
    {"mW", 1e-3, 0, power},
    {"hp", 745.69987158227022, 0, power},
    {"N.m", 1, 0, torque},
    {"Nm", 1, 0, torque},
    {"mN.m", 1e-3, 0, torque},
    {"N", 1, 0, force},
    {"mN", 1e-3, 0, force},
    {"kN", 1e3, 0, force},
    {"T", 1, 0, flux_density},
    {"mT", 1e-3, 0, flux_density},
    {"G", 1e-4, 0, flux_density},
    {"kG", 0.1, 0, flux_density},
    {"A/m", 1, 0, field_strength},
    {"kA/m", 1e3, 0, field_strength},
    {"Oe", 250 / pi, 0, field_strength},
    {"kOe", 250e3 / pi, 0, field_strength},
    {"kJ/m3", 1e3, 0, pressure},
    {"Wb", 1, 0, flux},
    {"mWb", 1e-3, 0, flux},
    {"A/mm2", 1e6, 0, current_density},
    {"kg", 1, 0, mass},
    {"kg.m2", 1, 0, Dimension{{2, 1, 0, 0, 0, 0}}},
    {"g", 1e-3, 0, mass},
    {"kg/m3", 1, 0, density},
    {"g/cm3", 1e3, 0, density},
    {"K", 1, 0, temperature},
    {"degC", 1, 273.15, temperature},
    {"°C", 1, 273.15, temperature},
    {"degF", 5.0 / 9, 459.67 * 5.0 / 9, temperature},
    {"J/(kg.K)", 1, 0, specific_heat},
    {"W/(m.K)", 1, 0, heat_conductivity},
    {"W/(m2.K)", 1, 0, heat_transfer},
    {"K/W", 1, 0, heat_resistance},
    {"m/s", 1, 0, velocity},
    {"L/min", 1e-3 / 60, 0, flow},
    {"m3/s", 1, 0, flow},
    {"Pa", 1, 0, pressure},
    {"MPa", 1e6, 0, pressure},
    {"GPa", 1e9, 0, pressure},
    {"N/mm2", 1e6, 0, pressure},
    {"%", 0.01, 0, none},
};

struct Named {
    Dimension dimension;
    std::string_view word;
};

constexpr Named words[] = {
    {none, "a plain number"},
    {length, "a length"},
    {angle, "an angle"},
    {dimension::time, "a time"},
    {speed, "a rotational speed"},
    {current, "a current"},
    {voltage, "a voltage"},
    {resistance, "a resistance"},
    {power, "a power"},
    {torque, "a torque"},
    {force, "a force"},
    {flux_density, "a flux density"},
    {field_strength, "a field strength"},
    {flux, "a magnetic flux"},
    {density, "a density"},
    {mass, "a mass"},
    {temperature, "a temperature"},
    {frequency, "a frequency"},
    {area, "an area"},
    {resistivity, "a resistivity"},
    {current_density, "a current density"},
    {pressure, "a pressure or an energy a volume"},
    {specific_heat, "a specific heat"},
    {heat_conductivity, "a thermal conductivity"},
    {heat_transfer, "a heat transfer coefficient"},
    {heat_resistance, "a thermal resistance"},
    {velocity, "a speed along a line"},
    {flow, "a flow by volume"},
};

} // namespace

std::span<const Unit> units() {
    return table;
}

namespace {

const Unit* known_unit(std::string_view name) {
    for (const Unit& unit : table)
        if (unit.name == name) return &unit;
    return nullptr;
}

/// As screens write units ("°C", "N·m", "W/(m²·K)"), in the letters of files.
std::string plain_spelling(std::string_view name) {
    static constexpr std::pair<std::string_view, std::string_view> letters[] = {
        {"°", "deg"},    {"\u03a9", "Ohm"}, {"\u2126", "Ohm"}, {"\u00b5", "u"},
        {"\u03bc", "u"}, {"·", "."},        {"²", "2"},        {"³", "3"}};
    std::string text(name);
    for (const auto& [shown, plain] : letters) replace_all(text, shown, plain);
    return text;
}

} // namespace

const Unit* find_unit(std::string_view name) {
    const Unit* unit = known_unit(name);
    return unit ? unit : known_unit(plain_spelling(name));
}

std::string describe(const Dimension& wanted) {
    for (const Named& named : words)
        if (named.dimension == wanted) return std::string(named.word);
    static constexpr std::string_view bases[] = {"m", "kg", "s", "A", "K", "rad"};
    std::string text = "a quantity in";
    for (std::size_t i = 0; i < 6; ++i)
        if (wanted.exponent[i] != 0) text += fmt::format(" {}^{}", bases[i], int(wanted.exponent[i]));
    return text;
}

} // namespace mavlo
