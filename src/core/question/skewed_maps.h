#pragma once
// The maps of a skewed stack from those of one slice.

#include "question/flux_grid.h"

namespace mavlo {

/// A slice that is turned ahead by an electrical angle a sees the stack's currents turned back by a against its
/// own axes; what it links, turned ahead again, its torque and its losses are averaged over the stack. Slices
/// share their currents and nothing else, so that each saturates by itself; flux from one to the next is left
/// out.
GridMaps skewed_maps(const GridMaps& slice, const std::vector<double>& id, const std::vector<double>& iq,
                     int points, const SkewedStack& skew, int pole_pairs);

} // namespace mavlo
