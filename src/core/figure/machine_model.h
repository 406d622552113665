#pragma once
// The field of a machine: the model together with the machine it was made of, whose phases are its ports.

#include "field/solver.h"
#include "machine/machine.h"

#include <memory>

namespace mavlo {

struct MachineModel : FieldModel {
    Machine machine;
    /// Height of the mechanical gap's middle in a section.
    double middle_of_gap(std::size_t section = 0) const {
        return sections[section].chart.is_flat() ? sections[section].chart.flat : machine.middle_of_gap();
    }
    bool is_stator_iron(const Part& part) const { return part.use == Use::Iron && !is_rotor(part.body); }
    bool is_rotor_iron(const Part& part) const { return part.use == Use::Iron && is_rotor(part.body); }
};

/// Meshes and prepares. Fails only when the section cannot be meshed.
Result<std::shared_ptr<const MachineModel>> prepare_field(const Machine& machine,
                                                          const ModelOptions& options = {});

} // namespace mavlo
