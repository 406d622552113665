#pragma once
// Outside surfaces of a machine and what a flow solver finds on them.

#include "quantity/problem.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// What takes the place of a surface's own film: a coefficient (W/(m2 K)) to a fluid at a temperature (K), or,
/// without one, the wall's own temperature.
struct GivenWall {
    std::optional<double> coefficient;
    double kelvin = 0;
    /// W/(m2 K) that holds a wall at its temperature.
    static constexpr double firm = 1e5;
    double film() const { return coefficient.value_or(firm); }
};
using GivenWalls = std::map<std::string, GivenWall>; ///< by the surface's name

/// "housing=45 W/(m2.K) at 38 degC, end_shields=at 62 degC"; empty or "auto": none.
Result<GivenWalls> read_walls(const std::string& text);
/// The same text from a table with columns named surface, coefficient, fluid_temperature and wall_temperature
/// (W/(m2 K), degC; others are passed over): a row without coefficient holds its wall.
Result<std::string> walls_of_table(const std::string& csv, const std::string& file);

/// An outside surface as it was found: its area (of a ribbed housing that of the smooth cylinder), its mean
/// temperature (K) and what leaves by it.
struct HeatSurface {
    std::string name;
    double area = 0, coefficient = 0, fluid = 0, wall = 0, watts = 0;
};
/// The table that walls_of_table() reads back.
std::string table_of_surfaces(const std::vector<HeatSurface>& surfaces);

} // namespace mavlo
