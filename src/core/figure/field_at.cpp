#include "figure/field_at.h"

namespace mavlo {

Result<FieldAt> field_at(const Machine& machine, double angle, const CurrentWave& current,
                         const ModelOptions& options) {
    const auto model = prepare_field(of_section(machine), options);
    if (!model) return model.problems();
    const PhaseValues phases = machine.wound()
                                   ? current.at(electrical_angle(machine, angle), machine.winding.layout.lags)
                                   : PhaseValues{};
    auto solution = FieldSolver(*model).solve(angle, phases);
    if (!solution) return solution.problems();
    return FieldAt{*model, std::move(*solution)};
}

} // namespace mavlo
