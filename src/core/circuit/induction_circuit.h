#pragma once
// An induction machine as its circuit of one phase: currents and powers over slip, in closed form.

#include <complex>
#include <optional>

namespace mavlo {

/// Star, all referred to the stator: R1 + jX1, then R_fe beside jX_m, then R2/s + jX2 (C.P. Steinmetz, AIEE
/// Trans. 14, 1897; IEEE Std 112; P.L. Alger, Induction Machines, 1970). Ohm; reactances at `frequency` (Hz),
/// with which they grow; R_fe stays.
struct InductionElements {
    double r1 = 0, x1 = 0;
    double rfe = 0; ///< 0: the iron loses nothing
    double xm = 0, r2 = 0, x2 = 0;
    double frequency = 50;
};

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

/// Voltages are of a phase in star, rms.
class InductionCircuit {
  public:
    /// `friction`: W of bearings and air, at every speed.
    InductionCircuit(const InductionElements& elements, int pole_pairs, double friction = 0);

    double synchronous_speed(double frequency) const; ///< rad/s
    SlipPoint at(double voltage, double frequency, double slip) const;

    /// Where the torque is largest: R2/s equals what the rotor branch sees besides (R. Thevenin's source).
    struct PullOut {
        double slip = 0, torque = 0;
    };
    PullOut pull_out(double voltage, double frequency, bool as_motor = true) const;
    /// The slip, from none to the pull-out's, at which the shaft gives this power (W); empty: it gives less.
    std::optional<double> slip_for(double output, double voltage, double frequency) const;

  private:
    using Complex = std::complex<double>;
    Complex stator(double frequency) const;
    Complex magnetising(double frequency) const;
    Complex rotor(double frequency, double slip) const;

    InductionElements m_elements;
    int m_pairs;
    double m_friction;
};

} // namespace mavlo
