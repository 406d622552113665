#pragma once
// How far the field pushes the magnets down their demagnetisation curve.

#include "figure/loci.h"
#include "figure/magnet_line.h"

#include <vector>

namespace mavlo {

struct MagnetElement {
    std::size_t element = 0; ///< in the model
    double area = 0;         ///< m2
    double lowest = 0;       ///< least flux density along the remanence over the loci, T
    std::size_t substance = 0;
    Point middle{}; ///< in the rotor's frame, m; of flat sections as the one at the middle radius is drawn,
                    ///< rolled up
};

/// Every element of the magnets.
std::vector<MagnetElement> magnet_elements(const MachineModel& model, const SideLoci& rotor);

/// The flux density that only this share of the magnets' area falls below.
double exceeded_by_all_but(std::vector<MagnetElement> elements, double share);
/// What of it above each one's own knee, T; negative: below the knee.
double margin_of_all_but(std::vector<MagnetElement> elements, const std::vector<MagnetLine>& lines,
                         double share);
/// Share of the area whose lowest flux density is below its own grade's knee. Lines are those of the model's
/// substances.
double share_below_knee(const std::vector<MagnetElement>& elements, const std::vector<MagnetLine>& lines);

} // namespace mavlo
