#include "figure/balance.h"

#include "figure/spectrum.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace mavlo {

std::optional<double> Balance::efficiency() const {
    if (shaft() > 0 && terminals() > 0) return shaft() / terminals();
    if (shaft() < 0 && terminals() < 0) return terminals() / shaft();
    return std::nullopt;
}

double direct_copper_loss(const Machine& machine, double peak_current) {
    return machine.winding.phases / 2.0 * peak_current * peak_current * machine_conductor(machine).resistance;
}

CopperLoss copper_loss(const Machine& machine, double peak_current, double frequency) {
    const double direct = direct_copper_loss(machine, peak_current);
    return {direct, direct * AcResistance(machine).factor(frequency)};
}

CopperLoss copper_loss(const Machine& machine, const std::vector<std::vector<double>>& currents,
                       double frequency, const FieldLosses& losses) {
    const Conductor conductor = machine_conductor(machine);
    const AcResistance alternating(machine);
    const auto factor_of = [&](double f) {
        return losses.strands ? alternating.without_neighbours(f) : alternating.factor(f);
    };
    CopperLoss loss;
    std::vector<double> factors; // by order, found as far as currents ask
    for (std::size_t k = 0; k < currents.size(); ++k) {
        const double resistance = conductor.phase_resistance[k],
                     direct = resistance * std::pow(rms(currents[k]), 2);
        loss.direct += direct;
        loss.alternating += direct;
        const auto waves = harmonics(currents[k]);
        double largest = 0;
        for (const auto& wave : waves) largest = std::max(largest, std::abs(wave));
        for (std::size_t n = 1; n < waves.size(); ++n) {
            if (std::abs(waves[n]) < 1e-9 * largest) continue;
            while (factors.size() <= n) factors.push_back(factor_of(double(factors.size()) * frequency));
            loss.alternating += resistance * std::norm(waves[n]) / 2 * (factors[n] - 1);
        }
    }
    if (losses.strands)
        loss.alternating += *losses.strands * frequency * frequency * alternating.proximity_share(frequency);
    return loss;
}

Balance balance_of(const Machine& machine, const FieldLosses& losses, const CopperLoss& copper, double speed,
                   double torque, double electrical) {
    const double f = electrical_frequency(machine, speed);
    Balance b;
    b.copper_dc = copper.direct;
    b.copper = copper.alternating;
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
