#pragma once
// What else could be wound for the same slots and poles, ranked.

#include "winding/layout.h"

#include <vector>

namespace mavlo {

struct WindingAlternative {
    WindingInput input;
    double winding_factor = 0;
    /// Leakage of the gap's MMF harmonics over its main wave, sum over orders n != p of (k_n p/(k_p n))^2: the
    /// differential leakage factor (R. Richter, Elektrische Maschinen I, 1951; J. Pyrhönen et al., sec. 4.3.2).
    double harmonic_leakage = 0;
    double end_length = 0; ///< mean span over the pole pitch: what end turns cost
    std::vector<int> paths;
    int empty_slots = 0;
    double merit = 0; ///< winding factor less what harmonics and end turns cost; the list falls by it
};

/// Every layer number, span and form that has a balanced layout, best first. `limit` of them.
std::vector<WindingAlternative> winding_alternatives(const WindingInput& asked, int limit = 12);

double harmonic_leakage(const WindingLayout& layout);

} // namespace mavlo
