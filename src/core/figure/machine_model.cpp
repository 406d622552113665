#include "figure/machine_model.h"

namespace mavlo {
namespace {

/// Every coil side in the first sector; the paths share a phase's current.
std::vector<PortTurns> coil_sides(const Machine& machine) {
    std::vector<PortTurns> sides;
    const MachineWinding& w = machine.winding;
    for (const Coil& coil : w.layout.coils) {
        const double turns = w.in_section * coil.sign * coil.turns / w.paths;
        sides.push_back({coil.phase, coil.go.slot, coil.go.layer, turns});
        if (coil.back.slot != outside_core)
            sides.push_back({coil.phase, coil.back.slot, coil.back.layer, -turns});
    }
    return sides;
}

} // namespace

Result<std::shared_ptr<const MachineModel>> prepare_field(const Machine& machine, const ModelOptions& options) {
    auto model = std::make_shared<MachineModel>();
    model->machine = machine;
    const FieldInput input{machine.solved(),    machine.substances,
                           machine.sector(),    machine.winding.phases,
                           coil_sides(machine), machine.winding.layout.sharing == SlotSharing::SideBySide};
    if (auto problems = prepare(*model, input, options); !problems.empty()) return problems;
    return std::shared_ptr<const MachineModel>(std::move(model));
}

} // namespace mavlo
