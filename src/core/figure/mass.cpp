#include "figure/mass.h"

namespace mavlo {

ActiveMass active_mass(const FieldModel& model) {
    const Machine& m = model.machine;
    ActiveMass mass;
    for (std::size_t index = 0; index < model.elements.size(); ++index) {
        const auto& e = model.elements[index];
        double volume = 0;
        for (int q = e.first; q < e.first + e.count; ++q) volume += model.points[std::size_t(q)].weight;
        volume *= m.stack_length * m.sector.count;
        switch (model.part(e, index).role) {
        case Role::StatorIron:
            mass.stator_steel += volume * m.stator_stacking * m.stator_steel.density;
            break;
        case Role::RotorIron:
            mass.rotor_steel += volume * m.rotor_stacking * m.rotor_steel.density;
            break;
        case Role::Magnet:
            mass.magnets += volume * m.magnet.density;
            break;
        default:
            break;
        }
    }
    if (m.wound) mass.copper = machine_conductor(m).copper_volume * m.copper.density;
    return mass;
}

} // namespace mavlo
