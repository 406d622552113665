// Current control in a band: each leg switches where its current leaves the band about its reference.

#include "circuit/gated_supply.h"
#include "circuit/supply_kind.h"

#include <cmath>

namespace mavlo::supply_hysteresis {
namespace {

/// ref_k = -I sin(theta + advance - phi_k). A leg does not switch again within the least interval.
class Hysteresis : public GatedSupply {
  public:
    explicit Hysteresis(const SupplySettings& s)
        : GatedSupply(s.bridge, s.clock)
        , m_settings(s) {
        for (int k = 0; k < 3; ++k) m_gates[std::size_t(k)] = reference(k, 0) >= 0 ? 1 : -1;
    }
    std::unique_ptr<Supply> copy() const override { return std::make_unique<Hysteresis>(*this); }
    bool is_scheduled() const override { return false; }

    int watches() const override { return 3; }
    double watch(int k, double t, const Currents& i) const override {
        const auto leg = std::size_t(k);
        if (t < m_last[leg] + m_settings.least_interval) return -1;
        const double over = (i[k] - reference(k, t)) * m_gates[leg];
        return over - m_settings.band / 2;
    }
    void on_watch(int k, double t, const Currents&) override {
        m_gates[std::size_t(k)] = -m_gates[std::size_t(k)];
        m_last[std::size_t(k)] = t;
    }

  protected:
    double next_scheduled(double) const override { return std::numeric_limits<double>::infinity(); }
    void at_scheduled(double, const Currents&) override {}

  private:
    double reference(int k, double t) const {
        return -m_settings.current * std::sin(m_settings.clock.angle(t) + m_settings.advance - phase_lag(k));
    }
    SupplySettings m_settings;
    std::array<double, 3> m_last{-1e9, -1e9, -1e9};
};

Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.bridge.dc <= 0) return Problem{"--with dc_voltage", "A voltage above 0 V is wanted."};
    if (s.band <= 0) return Problem{"--with band", "Current control in a band needs a band above 0 A."};
    return std::unique_ptr<Supply>(std::make_unique<Hysteresis>(s));
}

const Register<SupplyKind> registered{
    {"hysteresis", "Sinusoidal reference currents, kept within a band by switching.", make, 40}};

} // namespace
} // namespace mavlo::supply_hysteresis
