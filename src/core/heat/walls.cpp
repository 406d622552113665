#include "heat/walls.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <sstream>

namespace mavlo {
namespace {

constexpr const char* names[] = {"housing", "end_shields", "stack", "rotor", "carrier"};
constexpr const char* example = "housing=45 W/(m2.K) at 38 degC, end_shields=at 62 degC";

Problem unread(const std::string& item) {
    return {"--with walls", fmt::format("\"{}\" is no surface with its film; write {}.", item, example)};
}

std::optional<double> read_as(const std::string& text, const std::string& unit) {
    const auto value = parse_quantity(text), wanted = parse_quantity("1 " + unit);
    if (!value || !wanted || value->dimension != wanted->dimension || !std::isfinite(value->si))
        return std::nullopt;
    return value->si;
}

std::vector<std::string> cells_of(const std::string& line, char separator) {
    std::vector<std::string> cells;
    std::stringstream in(line);
    for (std::string cell; std::getline(in, cell, separator);) cells.emplace_back(trim(cell));
    return cells;
}

/// Where the columns stand; -1: not there.
struct Columns {
    int surface = -1, coefficient = -1, fluid = -1, wall = -1;
    explicit Columns(const std::vector<std::string>& heads) {
        const std::pair<const char*, int*> wanted[] = {{"surface", &surface},
                                                       {"coefficient", &coefficient},
                                                       {"fluid_temperature", &fluid},
                                                       {"wall_temperature", &wall}};
        for (std::size_t k = 0; k < heads.size(); ++k)
            for (const auto& [name, place] : wanted)
                if (*place < 0 && lower_case(heads[k]).starts_with(name)) *place = int(k);
    }
};

/// A plain number; empty where the cell is.
Result<std::optional<double>> number_in(const std::vector<std::string>& cells, int column,
                                        const Problem& wrong) {
    if (column < 0 || column >= int(cells.size()) || cells[std::size_t(column)].empty())
        return std::optional<double>();
    std::string_view rest;
    const auto value = read_number(cells[std::size_t(column)], rest);
    if (!value || !trim(rest).empty()) return wrong;
    return value;
}

} // namespace

Result<GivenWalls> read_walls(const std::string& text) {
    GivenWalls out;
    if (trim(text).empty() || trim(text) == "auto") return out;
    for (const std::string& item : cells_of(text, ',')) {
        const std::size_t equals = item.find('='),
                          at = item.find("at ", equals == std::string::npos ? 0 : equals);
        if (equals == std::string::npos || at == std::string::npos) return unread(item);
        std::string name(trim(item.substr(0, equals)));
        std::replace(name.begin(), name.end(), ' ', '_');
        if (std::none_of(std::begin(names), std::end(names), [&](const char* n) { return name == n; }))
            return Problem{"--with walls",
                           fmt::format("\"{}\" is no outside surface; they are housing, end_shields, stack "
                                       "(without housing), and of an outer rotor rotor and carrier.",
                                       name)};
        const std::string film(trim(item.substr(equals + 1, at - equals - 1)));
        GivenWall wall;
        const auto kelvin = read_as(item.substr(at + 3), "degC");
        if (!kelvin || !(*kelvin > 0)) return unread(item);
        wall.kelvin = *kelvin;
        if (!film.empty()) {
            wall.coefficient = read_as(film, "W/(m2.K)");
            if (!wall.coefficient) return unread(item);
            if (!(*wall.coefficient > 0))
                return Problem{
                    "--with walls",
                    fmt::format("{}: a coefficient of zero lets no heat out; give one above it.", name)};
        }
        out[name] = wall;
    }
    return out;
}

Result<std::string> walls_of_table(const std::string& csv, const std::string& file) {
    std::istringstream in(csv);
    std::optional<Columns> columns;
    std::string out;
    char separator = ',';
    int row = 0;
    for (std::string line; std::getline(in, line);) {
        ++row;
        if (trim(line).empty() && columns) break; // what follows is another table
        if (trim(line).empty() || trim(line).front() == '#') continue;
        if (!columns) {
            separator = line.find(';') != std::string::npos ? ';' : ',';
            columns = Columns(cells_of(line, separator));
            if (columns->surface < 0 || (columns->fluid < 0 && columns->wall < 0))
                return Problem{file, "The first line names the columns: surface, coefficient, "
                                     "fluid_temperature, wall_temperature."};
            continue;
        }
        const auto cells = cells_of(line, separator);
        const Problem wrong{file, fmt::format("Line {} does not hold numbers under its heads.", row)};
        std::array<std::optional<double>, 3> values;
        for (std::size_t k = 0; k < 3; ++k) {
            const int column[] = {columns->coefficient, columns->fluid, columns->wall};
            const auto value = number_in(cells, column[k], wrong);
            if (!value) return value.problems();
            values[k] = *value;
        }
        const auto& [coefficient, fluid, wall] = values;
        const bool filmed = coefficient && fluid;
        if (columns->surface >= int(cells.size()) || (!filmed && !wall))
            return Problem{file, fmt::format("Line {} has neither a coefficient with its fluid's temperature "
                                             "nor a wall's temperature.",
                                             row)};
        out += (out.empty() ? "" : ", ") + cells[std::size_t(columns->surface)] + "=" +
               (filmed ? fmt::format("{:.9g} W/(m2.K) at {:.9g} degC", *coefficient, *fluid)
                       : fmt::format("at {:.9g} degC", *wall));
    }
    if (out.empty()) return Problem{file, "The table holds no surfaces."};
    return out;
}

std::string table_of_surfaces(const std::vector<HeatSurface>& surfaces) {
    std::string out = "surface,area_m2,coefficient_W_m2K,fluid_temperature_degC,wall_temperature_degC,heat_W\n";
    for (const HeatSurface& s : surfaces)
        out += fmt::format("{},{:.9g},{:.9g},{:.9g},{:.9g},{:.9g}\n", s.name, s.area, s.coefficient,
                           s.fluid - zero_celsius, s.wall - zero_celsius, s.watts);
    return out;
}

} // namespace mavlo
