#pragma once
// What operating points of a range tell, one column each.

#include "map/drive.h"

#include <array>
#include <limits>

namespace mavlo {

/// Where a point has no such value.
inline constexpr double nothing = std::numeric_limits<double>::quiet_NaN();

/// `Point` is an OperatingPoint, or more than that.
template <typename Point>
struct RangeColumn {
    const char *name, *unit;
    double (*value)(const Point&);
};

/// Those that magnet machines and switched ones have alike.
template <typename Point>
inline constexpr std::array<RangeColumn<Point>, 6> loss_columns{
    {{"efficiency", "1", [](const Point& p) { return p.power.efficiency().value_or(nothing); }},
     {"loss_total", "W", [](const Point& p) { return p.power.total().value_or(nothing); }},
     {"loss_copper", "W", [](const Point& p) { return p.power.known(LossPart::Copper); }},
     {"loss_winding_stray", "W", [](const Point& p) { return p.power.known(LossPart::WindingStray); }},
     {"loss_iron_stator", "W",
      [](const Point& p) { return p.power.of(LossPart::IronStator).value_or(nothing); }},
     {"loss_iron_rotor", "W",
      [](const Point& p) { return p.power.of(LossPart::IronRotor).value_or(nothing); }}}};

} // namespace mavlo
