// The six-step inverter: every leg is joined to one rail for 180 degrees, then to the other.

#include "circuit/supplies/scheduled.h"
#include "circuit/supply_kind.h"
#include "quantity/constants.h"

namespace mavlo::supply_six_step {
namespace {

/// The fundamental is -(2/pi) U_dc sin(theta + delta): the upper switch is on while theta + delta lies between
/// 180 and 360 degrees.
Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.bridge.dc <= 0) return Problem{"--with dc_voltage", "A voltage above 0 V is wanted."};
    return std::unique_ptr<Supply>(
        std::make_unique<AngleSchedule>(s.bridge, s.clock, s.voltage_angle,
                                        std::vector<GateWindow>{{pi, 2 * pi, 1}, {0, pi, -1}}, s.dead_time));
}

const Register<SupplyKind> registered{{"six-step", "An inverter whose legs change rails every 180 degrees.",
                                       make, 20, Fundamental::SixStep, VoltageRule::SixStep}};

} // namespace
} // namespace mavlo::supply_six_step
