#include "figure/strand_weights.h"

namespace mavlo {
namespace {

/// Of a slot as it is meshed, m2.
double conductor_area(const MachineModel& model) {
    double sum = 0;
    for (std::size_t i = 0; i < model.elements.size(); ++i)
        if (model.part(model.elements[i]).use == Use::Conductor) sum += model.area(model.elements[i]);
    return sum * model.sector.count / model.machine.slots;
}

} // namespace

std::optional<StrandWeights> strand_weights(const MachineModel& model) {
    const Machine& m = model.machine;
    if (!m.wound()) return std::nullopt;
    const ConductorSize size = size_conductor(m.winding.conductor);
    if (size.area <= 0) return std::nullopt;
    const double copper =
        size.area * m.winding.most_turns_in_slot() / conductor_area(model) / m.winding.resistivity();
    const double round = copper * size.diameter * size.diameter / 16;
    if (size.is_round()) return StrandWeights{round, round};
    return StrandWeights{copper * size.width * size.width / 12, copper * size.height * size.height / 12};
}

} // namespace mavlo
