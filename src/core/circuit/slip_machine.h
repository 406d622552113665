#pragma once
// Machines that run with a slip on balanced mains, whatever tells their currents: a circuit or the field.

#include "quantity/problem.h"

#include <optional>
#include <vector>

namespace mavlo {

/// Steady operation; currents and voltages rms, powers of all three phases.
struct SlipPoint {
    double slip = 0, speed = 0; ///< shaft, rad/s
    double torque = 0;          ///< of the gap, N.m
    double current = 0, rotor_current = 0;
    double power_factor = 0;
    double input = 0; ///< W, at the terminals
    double copper_stator = 0, copper_rotor = 0, iron = 0, friction = 0;
    /// What the shaft gives: nothing is rubbed at rest.
    double output() const { return torque * speed - friction; }
    double shaft_torque() const { return speed != 0 ? output() / speed : torque; }
    /// Of motor or generator; empty where neither gives anything out.
    std::optional<double> efficiency() const;
};

struct PullOut {
    double slip = 0, torque = 0;
};

/// Voltages are of a phase in star, rms; frequencies Hz.
class SlipMachine {
  public:
    explicit SlipMachine(int pole_pairs)
        : m_pairs(pole_pairs) {}
    virtual ~SlipMachine() = default;

    double synchronous_speed(double frequency) const; ///< rad/s
    virtual Result<SlipPoint> at(double voltage, double frequency, double slip) = 0;
    /// Many slips, which may be found side by side.
    virtual Result<std::vector<SlipPoint>> over(double voltage, double frequency,
                                                const std::vector<double>& slips);
    /// The largest torque of all slips from 0 to 1, or of generating ones.
    virtual Result<PullOut> pull_out(double voltage, double frequency, bool as_motor = true);
    /// The slip, from none to the pull-out's, at which the shaft gives this power (W); empty: it gives less.
    virtual Result<std::optional<double>> slip_for(double output, double voltage, double frequency);

  protected:
    /// Slips whose points cost nothing.
    virtual std::vector<double> known_slips(double, double) const { return {}; }

  private:
    int m_pairs;
};

} // namespace mavlo
