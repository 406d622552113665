#pragma once
// What of a supply's settings is left open ("auto"): found so that the machine gives its rated torque.

#include "map/flux_map.h"
#include "question/supply_inputs.h"

namespace mavlo {

/// Whether the supply named in the inputs takes something that is left open there, so that a flux map is
/// needed.
bool leaves_open(const Inputs& inputs);

/// rad ahead of +q: where the currents of a machine without an EMF make the most torque; 0 where there is one.
double lead_of_blocks(const QuestionContext& context, const FluxMap& map);

/// Peak of the phases' fundamental, V; NaN where it is left open.
double fundamental_voltage(const SupplyKind& kind, const SupplySettings& settings, const Machine& machine);

struct FoundSupply {
    SupplySettings settings;
    std::string words; ///< what was found, a sentence; empty where nothing was left open
};

/// Fills in what is open, by the mean flux map, for the rated torque (where the rating leaves that open too,
/// what the rated current gives) at this speed: of sinusoidal and modulated voltages amplitude and angle with
/// the least current, of a given amplitude the angle; where the torque cannot be had, what gives the most.
/// Blocks lead the EMF by as little as the torque needs, or by what gives the most; where there is no EMF to
/// lead they lie so that current is on the axis of most torque. `settings` are those of the phases.
FoundSupply found_supply(const QuestionContext& context, const FluxMap& map, const SupplySettings& settings);

} // namespace mavlo
