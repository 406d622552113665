#pragma once
// Contour lines of a map.

#include "question/answer.h"

#include <vector>

namespace mavlo::app {

struct MapPoint {
    double x, y;
};
using ContourLine = std::vector<MapPoint>;

/// Lines where the map's bilinear interpolation has this value; cells with a corner that is not a number are
/// passed over (marching squares; W.E. Lorensen, H.E. Cline, SIGGRAPH 1987, in the plane).
std::vector<ContourLine> contour_lines(const Map& map, double level);

/// Round levels between the map's extremes, about `count`; of an efficiency closer together towards 1.
std::vector<double> contour_levels(const Map& map, int count);

/// Bilinear value at a place; not a number outside the grid or beside a missing corner.
double value_at(const Map& map, double x, double y);

struct MapRange {
    double low, high;
};
MapRange range_of(const Map& map);
/// The part of it that colours show: what matters of an efficiency is its upper end.
MapRange coloured_range(const Map& map);

} // namespace mavlo::app
