#pragma once
// Solving the points of a flux map.

#include "map/position_map.h"
#include "question/question.h"

#include <optional>

namespace mavlo {

struct FluxGrid {
    std::vector<double> id, iq; ///< A; iq from 0 on, or from below it
    int points = 60;            ///< positions of a whole electrical period
};

/// How much of the plane of currents a machine needs.
struct CurrentPlane {
    bool positive_d = false; ///< to the side of +d, too
    bool mirrored = true;    ///< i_q < 0 is the mirror image of i_q > 0
};

/// Grid over currents up to `most` (A, peak), in so many steps from 0 to either side: i_d from -most, i_q to
/// most.
FluxGrid standard_grid(double most, int steps, CurrentPlane plane = {});

/// The means over the rotor's positions, and what the positions have each.
struct GridMaps {
    FluxMap mean;
    PositionMap position;
};

/// The points that are solved for a grid: of a skewed stack the slices see its currents turned against their
/// own axes, so that the plane of one slice is solved to all sides.
FluxGrid solved_grid(const Machine& machine, const FluxGrid& grid);
int grid_solves(const Machine& machine, const FluxGrid& grid); ///< fields

/// The maps when all their points are in the store.
std::optional<GridMaps> kept_grid_maps(const Machine& machine, const FluxGrid& grid, const PointStore& store);

/// The maps over the grid. Points are taken from the store or solved and put there one by one as they are
/// finished, so that nothing finished is lost when it is stopped or killed. Neighbouring currents start from
/// each other's fields.
Result<GridMaps> solve_grid_maps(const std::shared_ptr<const MachineModel>& model, const FluxGrid& grid,
                                 const PointStore& store, int threads, const Watch& watch, Effort& effort);
Result<FluxMap> solve_flux_map(const std::shared_ptr<const MachineModel>& model, const FluxGrid& grid,
                               const PointStore& store, int threads, const Watch& watch, Effort& effort);

/// One point of it from a solved period.
FluxPoint flux_point(const MachineModel& model, Dq current, const std::vector<PositionResult>& period,
                     const Loci& loci);

} // namespace mavlo
