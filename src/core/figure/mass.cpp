#include "figure/mass.h"

namespace mavlo {

ActiveMass active_mass(const MachineModel& model) {
    const Machine& m = model.machine;
    ActiveMass mass;
    for (const auto& e : model.elements) {
        const Part& part = model.part(e);
        const Substance* substance = model.substance(part);
        if (!substance || part.use == Use::Conductor) continue;
        const double volume = model.area(e) * model.depth * model.sector.count,
                     kilograms =
                         volume * substance->stacking * substance->filling * substance->material.density;
        if (part.use == Use::Air) mass.fillings += kilograms;
        if (part.use == Use::Magnet) mass.magnets += kilograms;
        if (model.is_stator_iron(part)) mass.stator_steel += kilograms;
        if (model.is_rotor_iron(part)) mass.rotor_steel += kilograms;
    }
    if (m.wound()) mass.copper = machine_conductor(m).copper_volume * m.winding.conductor_material.density;
    return mass;
}

} // namespace mavlo
