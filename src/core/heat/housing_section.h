#pragma once
// The housing across the axis, round the stack: what the magnetic section does not show.

#include "heat/cooling.h"
#include "machine/tile.h"
#include "shape/faces.h"

#include <vector>

namespace mavlo {

struct HousingSection {
    double inner = 0, outer = 0; ///< radii of the wall, m
    double reach = 0;            ///< of all that is drawn
    std::vector<Polygon> ribs, channels;
    /// The spiral's turns follow each other along the axis: between these radii; both 0 without one.
    double spiral_from = 0, spiral_to = 0;
    double pitch = 0; ///< rad, of ribs or channels; marks stand on the first
    std::vector<DimensionMark> marks;
};

/// Empty where there is no housing round the stack.
std::optional<HousingSection> housing_section(const Machine& machine, const CoolingData& cooling);

} // namespace mavlo
