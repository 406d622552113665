#pragma once
// Where on its demagnetisation curve a magnet works on the whole.

#include "figure/machine_model.h"

namespace mavlo {

/// Means over all magnets of a field, along their remanence.
struct MagnetLoad {
    double flux_density = 0; ///< T
    double field = 0;        ///< A/m; negative where the field demagnetises
    /// B over mu0 |H|: the slope of the load line; the flux density falls to nothing without an external
    /// circuit, and grows beyond bound where the magnet is short-circuited by ideal iron.
    double permeance_coefficient() const;
};

/// H = (B - B_r) / (mu0 mu_rec). The machine must have magnets.
MagnetLoad magnet_load(const MachineModel& model, const FieldSolution& solution);

} // namespace mavlo
