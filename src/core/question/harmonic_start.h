#pragma once
// Where a run in time of a rotor with currents of its own begins: at the field of phasors of its fundamental.

#include "field/conductance.h"
#include "question/supply_inputs.h"
#include "transient/field_transient.h"

namespace mavlo {

/// On what the supply makes on average. None where it has no fundamental, where the stack is skewed, or where
/// anything but a rotor without magnets conducts: such a run begins at rest.
std::optional<FieldStart> harmonic_start(const QuestionContext& context,
                                         const std::shared_ptr<const MachineModel>& model,
                                         const std::shared_ptr<const Conductance>& conductance,
                                         const SupplySettings& settings);
/// With sinusoidal currents given: the phasor of phase U, A peak, at this angular frequency, rad/s.
std::optional<FieldStart> harmonic_start(const QuestionContext& context,
                                         const std::shared_ptr<const MachineModel>& model,
                                         const std::shared_ptr<const Conductance>& conductance,
                                         std::complex<double> current, double omega);

} // namespace mavlo
