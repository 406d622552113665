// Three sinusoidal voltages between phases and a neutral that is not joined to the star point.

#include "circuit/supply_kind.h"

#include <cmath>

namespace mavlo::supply_sine_voltage {
namespace {

/// v_k = -V sin(theta + delta - phi_k): in phase with the no-load EMF where delta is 0.
class SineVoltage : public Supply {
  public:
    explicit SineVoltage(const SupplySettings& s)
        : m_settings(s) {}
    std::unique_ptr<Supply> copy() const override { return std::make_unique<SineVoltage>(*this); }
    bool repeats_in_sixths() const override { return true; }
    std::array<LegLaw, 3> legs(double t) const override {
        std::array<LegLaw, 3> laws;
        for (int k = 0; k < 3; ++k) {
            const double v = -m_settings.voltage *
                             std::sin(m_settings.clock.angle(t) + m_settings.voltage_angle - phase_lag(k));
            laws[std::size_t(k)] = {v, 0, v, 0};
        }
        return laws;
    }

  private:
    SupplySettings m_settings;
};

Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.voltage <= 0) return Problem{"--with voltage", "A voltage above 0 V is wanted."};
    return std::unique_ptr<Supply>(std::make_unique<SineVoltage>(s));
}

const Register<SupplyKind> registered{{"sine-voltage",
                                       "Sinusoidal phase voltages of given amplitude and angle.", make, 10,
                                       Fundamental::Voltage}};

} // namespace
} // namespace mavlo::supply_sine_voltage
