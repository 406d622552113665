#pragma once
// Gates that follow the angle: each leg has windows of the electrical angle in which a switch is on.

#include "circuit/gated_supply.h"

namespace mavlo {

/// A window [from, to) of theta + lead of phase U, rad in [0, 2 pi); the other phases follow 120 and 240
/// degrees later.
struct GateWindow {
    double from, to;
    int gate;
};

class AngleSchedule : public GatedSupply {
  public:
    /// Its gates at once stand as the windows at time 0 have them.
    AngleSchedule(const Bridge& bridge, const Clock& clock, double lead, std::vector<GateWindow> windows,
                  double dead_time = 0);
    std::unique_ptr<Supply> copy() const override { return std::make_unique<AngleSchedule>(*this); }
    bool repeats_in_sixths() const override { return is_scheduled(); }

  protected:
    /// Of the windows alone at this instant.
    int window_gate(int leg, double t) const;
    double next_scheduled(double t) const override;
    void at_scheduled(double t, const Currents& currents) override;

  private:
    double m_lead;
    std::vector<GateWindow> m_windows;
};

} // namespace mavlo
