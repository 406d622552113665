#pragma once
// An induction machine as its circuit of one phase: currents and powers over slip, in closed form.

#include "circuit/slip_machine.h"

#include <complex>

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

/// Voltages are of a phase in star, rms.
class InductionCircuit {
  public:
    /// `friction`: W of bearings and air, at every speed.
    InductionCircuit(const InductionElements& elements, int pole_pairs, double friction = 0);

    double synchronous_speed(double frequency) const; ///< rad/s
    SlipPoint at(double voltage, double frequency, double slip) const;

    /// Where the torque is largest: R2/s equals what the rotor branch sees besides (R. Thevenin's source).
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

/// The same behind the interface of all of them.
class GivenCircuit final : public SlipMachine {
  public:
    GivenCircuit(const InductionElements& elements, int pole_pairs, double friction)
        : SlipMachine(pole_pairs)
        , m_circuit(elements, pole_pairs, friction) {}
    Result<SlipPoint> at(double voltage, double frequency, double slip) override {
        return m_circuit.at(voltage, frequency, slip);
    }
    Result<PullOut> pull_out(double voltage, double frequency, bool as_motor) override {
        return m_circuit.pull_out(voltage, frequency, as_motor);
    }
    Result<std::optional<double>> slip_for(double output, double voltage, double frequency) override {
        return m_circuit.slip_for(output, voltage, frequency);
    }

  private:
    InductionCircuit m_circuit;
};

} // namespace mavlo
