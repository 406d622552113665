#pragma once
// A machine by its map, as a supply sees it.

#include "circuit/phase_machine.h"
#include "map/position_map.h"

namespace mavlo {

/// Linkages and torque over the rotor's position are those of the map, turned with it; currents are taken as
/// a vector along d and q, their mean links nothing.
class MapMachine : public PhaseMachine {
  public:
    explicit MapMachine(PositionMap map)
        : m_map(std::move(map)) {}
    /// psi_k = psi_d cos(theta - lag_k) - psi_q sin(theta - lag_k) + psi_0, and the same for the currents.
    PhaseState at(double angle, const Currents& currents) const override;

  private:
    PositionMap m_map;
};

} // namespace mavlo
