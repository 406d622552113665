#pragma once
// How far the field pushes the magnets down their demagnetisation curve.

#include "figure/loci.h"

#include <vector>

namespace mavlo {

struct MagnetElement {
    std::size_t element = 0; ///< in the model
    double area = 0;         ///< m2
    double lowest = 0;       ///< least flux density along the remanence over the loci, T
};

/// Every element of the magnets.
std::vector<MagnetElement> magnet_elements(const MachineModel& model, const SideLoci& rotor);

/// The flux density that only this share of the magnets' area falls below.
double exceeded_by_all_but(std::vector<MagnetElement> elements, double share);
/// Share of the area whose lowest flux density is below the knee.
double share_below(const std::vector<MagnetElement>& elements, double knee);

} // namespace mavlo
