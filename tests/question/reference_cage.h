#pragma once
// The machines of tests/data/cages.json.

#include "support.h"

#include <string>

namespace mavlo {

inline std::string text(double number, const char* unit) {
    return std::to_string(number) + unit;
}

/// The machine of a reference case, one metre long.
inline Design reference_cage(const nlohmann::json& c) {
    const auto &stator = c["stator"], &rotor = c["rotor"], &slot = stator["segments"][0],
               &bar = rotor["segments"][0];
    const auto of = [](const nlohmann::json& j, const char* name) { return j[name].get<double>(); };
    const std::string mouth = text(of(slot, "width_deg"), " deg"), body = text(of(bar, "width_deg"), " deg");
    return design_of({{"machine.stack_length", "1000 mm"},
                      {"gap", text(1e3 * (of(stator, "r_gap") - of(rotor, "r_gap")), " mm")},
                      {"stator.outer_diameter", text(2e3 * of(stator, "r_back"), " mm")},
                      {"stator.bore_diameter", text(2e3 * of(stator, "r_gap"), " mm")},
                      {"stator.outer_boundary", "closed"},
                      {"stator.slots", std::to_string(stator["slots"].get<int>())},
                      {"stator.steel", "linear(1000)"},
                      {"stator.stacking_factor", "1"},
                      {"stator.slot.kind", "radial"},
                      {"stator.slot.opening_angle", mouth},
                      {"stator.slot.body_angle", mouth},
                      {"stator.slot.depth", text(1e3 * (of(slot, "r_to") - of(stator, "r_gap")), " mm")},
                      {"stator.slot.tip_depth", "0 mm"},
                      {"rotor.kind", "cage"},
                      {"rotor.poles", "2"},
                      {"rotor.bars", std::to_string(rotor["slots"].get<int>())},
                      {"rotor.shaft_diameter", text(2e3 * of(rotor, "r_back"), " mm")},
                      {"rotor.steel", "linear(1000)"},
                      {"rotor.stacking_factor", "1"},
                      {"rotor.bar.kind", "radial"},
                      {"rotor.bar.opening_angle", body},
                      {"rotor.bar.body_angle", body},
                      {"rotor.bar.depth", text(1e3 * (of(rotor, "r_gap") - of(bar, "r_to")), " mm")},
                      {"rotor.bar.tip_depth", "0 mm"},
                      {"rotor.bar.material", "conductor(" + text(1e9 / of(bar, "sigma"), "e-9 Ohm.m)")},
                      {"rotor.bar.temperature", "20 degC"},
                      {"rotor.ring.resistance", "0 Ohm"},
                      {"rotor.ring.inductance", "0 uH"},
                      {"winding.layers", "1"},
                      {"winding.turns", std::to_string(c["turns"].get<int>())},
                      {"rating.current", text(c["value"].get<double>(), " A")}});
}

} // namespace mavlo
