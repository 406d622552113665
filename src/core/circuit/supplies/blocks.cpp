// Commutation by position: two phases carry current at a time, each for 120 degrees; the current may be
// limited.

#include "circuit/supplies/scheduled.h"
#include "circuit/supply_kind.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo::supply_blocks {
namespace {

class Blocks : public AngleSchedule {
  public:
    explicit Blocks(const SupplySettings& s)
        : AngleSchedule(s.bridge, s.clock, s.lead,
                        {{210 * degree, 330 * degree, 1}, {30 * degree, 150 * degree, -1}}, s.dead_time)
        , m_limit(s.chop_current)
        , m_band(s.band)
        , m_hard(s.hard_chop) {}
    std::unique_ptr<Supply> copy() const override { return std::make_unique<Blocks>(*this); }
    bool is_scheduled() const override { return m_limit <= 0; }

    /// Past the limit upwards, and below its band downwards again.
    int watches() const override { return m_limit > 0 ? 1 : 0; }
    double watch(int, double, const Currents& i) const override {
        const double largest = i.cwiseAbs().maxCoeff();
        return m_tripped ? m_limit - m_band - largest : largest - m_limit;
    }
    void on_watch(int, double t, const Currents& i) override {
        m_tripped = !m_tripped;
        AngleSchedule::at_scheduled(t, i);
        apply();
    }

  protected:
    void at_scheduled(double t, const Currents& i) override {
        AngleSchedule::at_scheduled(t, i);
        apply();
    }

  private:
    void apply() {
        if (!m_tripped) return;
        for (int& gate : m_gates)
            if (gate > 0 || m_hard) gate = 0;
    }
    double m_limit, m_band;
    bool m_hard, m_tripped = false;
};

Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.bridge.dc <= 0) return Problem{"--with dc_voltage", "A voltage above 0 V is wanted."};
    if (s.chop_current > 0 && !(s.band > 0 && s.band < s.chop_current))
        return Problem{"--with band", "A current limit needs a band between 0 A and the limit."};
    return std::unique_ptr<Supply>(std::make_unique<Blocks>(s));
}

const Register<SupplyKind> registered{
    {"blocks",
     "Blocks of 120 degrees commutated by position, with free-wheeling diodes, lead and a current limit.", make,
     30, Fundamental::Blocks}};

} // namespace
} // namespace mavlo::supply_blocks
