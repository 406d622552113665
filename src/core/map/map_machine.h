#pragma once
// A machine by its flux map, as a supply sees it: sinusoidally distributed, so that linkages over the rotor's
// position are those of the map turned with it.

#include "circuit/phase_machine.h"
#include "map/flux_map.h"

namespace mavlo {

class MapMachine : public PhaseMachine {
  public:
    explicit MapMachine(const FluxMap& map);
    /// psi_k = psi_d cos(theta - lag_k) - psi_q sin(theta - lag_k), and the same for the currents; the map's
    /// slopes are taken by central differences of a hundredth of its step.
    PhaseState at(double angle, const Currents& currents) const override;

  private:
    const FluxMap& m_map;
    double m_step; ///< A
};

} // namespace mavlo
