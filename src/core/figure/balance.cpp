#include "figure/balance.h"

#include <cmath>
#include <numbers>

namespace mavlo {

std::optional<double> Balance::efficiency() const {
    if (shaft() > 0 && terminals() > 0) return shaft() / terminals();
    if (shaft() < 0 && terminals() < 0) return terminals() / shaft();
    return std::nullopt;
}

double copper_loss_dc(const Machine& machine, double peak_current, double resistance) {
    return machine.winding.phases / 2.0 * peak_current * peak_current * resistance;
}

Balance balance_of(const Machine& machine, const FieldLosses& losses, double peak_current, double speed,
                   double torque, double electrical) {
    const double f = machine.pole_pairs() * std::abs(speed) / (2 * std::numbers::pi);
    Balance b;
    b.copper_dc = copper_loss_dc(machine, peak_current, machine_conductor(machine).resistance);
    b.copper = b.copper_dc * ac_factor(machine, f);
    b.iron_stator = losses.stator.at(f);
    b.iron_rotor = losses.rotor.at(f);
    b.magnets = losses.magnet(f);
    b.shaft_eddy = losses.shaft_loss(f);
    b.mechanical = mechanical_loss(machine, speed);
    b.air_gap = torque * speed;
    b.electrical = electrical;
    return b;
}

} // namespace mavlo
