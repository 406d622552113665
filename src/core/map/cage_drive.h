#pragma once
// An induction machine on an inverter: which voltage and slip give a torque at a speed, and at what loss.

#include "circuit/slip_machine.h"

#include <optional>

namespace mavlo {

/// A point with the voltage (of a phase in star, rms) and frequency that make it.
struct CageOperation {
    SlipPoint point;
    double voltage = 0, frequency = 0;
    double loss() const { return point.copper_stator + point.copper_rotor + point.iron + point.friction; }
};

/// Sinusoidal voltages of any size and frequency within the limits. At a rotor's frequency torque and current
/// rise with the voltage; over it a torque's loss, and the most torque, have one best place each (P. Famouri,
/// J.J. Cathey, IEEE Trans. Ind. Appl. 27(1), 1991: loss minimisation of an induction motor drive), found by
/// golden section over its logarithm.
class CageDrive {
  public:
    enum class Aim { LeastLoss, LeastCurrent };
    /// Of star: V and A rms. `base`: Hz, about which rotor frequencies are looked for.
    CageDrive(SlipMachine& machine, double voltage, double current, double base)
        : m_machine(machine)
        , m_voltage(voltage)
        , m_current(current)
        , m_base(base) {}

    /// With this torque of the gap (N.m, as a generator below zero) at a speed (rad/s, not below zero); empty
    /// where the limits forbid it.
    Result<std::optional<CageOperation>> best(double torque, double speed, Aim aim) const;
    /// The most torque within the limits, as motor or generator.
    Result<std::optional<CageOperation>> strongest(double speed, int sign = 1) const;

  private:
    Result<CageOperation> at(double voltage, double rotor_frequency, double speed) const;
    Result<CageOperation> at_limit(double rotor_frequency, double speed) const;
    Result<std::optional<CageOperation>> with_torque(double torque, double rotor_frequency, double speed) const;

    SlipMachine& m_machine;
    double m_voltage, m_current, m_base;
};

} // namespace mavlo
