#pragma once
// What bridges have in common: gates with dead time, and edges of a schedule.

#include "circuit/supply.h"

namespace mavlo {

class GatedSupply : public Supply {
  public:
    GatedSupply(const Bridge& bridge, const Clock& clock, double dead_time = 0)
        : m_bridge(bridge)
        , m_clock(clock)
        , m_dead_time(dead_time) {}

    std::array<LegLaw, 3> legs(double t) const override;
    const Gates* gates() const override { return &m_gates; }
    const Bridge* bridge() const override { return &m_bridge; }
    double next_edge(double t) const override;
    void at_edge(double t, const Currents& currents) override;

  protected:
    /// The gate that a leg shall have from t on; a change from one switch to the other waits out the dead time.
    void want(int leg, int gate, double t);
    /// The next instant of the schedule after t, and what shall be done there; dead times are seen to.
    virtual double next_scheduled(double t) const = 0;
    virtual void at_scheduled(double t, const Currents& currents) = 0;

    Bridge m_bridge;
    Clock m_clock;
    Gates m_gates{0, 0, 0};

  private:
    struct Waiting {
        int gate = 0;
        double until = std::numeric_limits<double>::infinity();
    };
    double m_dead_time;
    std::array<Waiting, 3> m_waiting{};
};

} // namespace mavlo
