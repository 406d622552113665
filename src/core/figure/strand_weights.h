#pragma once
// How much loss a field makes that crosses the winding's strands.

#include "figure/machine_model.h"

#include <optional>

namespace mavlo {

/// What a square metre of coil side loses by 1 T/s across its strands, (W/m)/(T/s)^2, by the flux density along
/// the radius and along the circumference: round strands of radius a lose pi a^4/(4 rho) <|dB/dt|^2> a length,
/// bars of width w and height h as thin sheets each way, w^3 h/(12 rho) and w h^3/(12 rho) (J. Lammeraner, M.
/// Štafl, Eddy Currents, 1966), evenly over the coil side.
struct StrandWeights {
    double radial = 0, tangential = 0;
};
/// Empty where no winding has conductors of a known size.
std::optional<StrandWeights> strand_weights(const MachineModel& model);

/// The direction across the gap where an element lies.
inline Point outwards(const FieldModel& model, const FieldModel::ElementData& element) {
    const Chart& chart = model.chart(model.part(element));
    return chart.turned_direction({1, 0}, chart.angle(model.points[std::size_t(element.first)].at));
}

} // namespace mavlo
