#pragma once
// The circuit of an induction machine whose elements change with the slip's frequency and with saturation.

#include "circuit/slip_machine.h"

#include <complex>

namespace mavlo {

/// Star, referred to the stator; Ohm, reactances at `frequency`.
struct CircuitTable {
    double frequency = 50, r1 = 0;
    /// Over the rotor's frequency (Hz, rising, above zero): skin effect in the bars, and the leakage's
    /// saturation by the currents that flow at that slip on the voltage the table was made for.
    std::vector<double> rotor_frequency, x1, r2, x2;
    /// Over the same: what loads leave of the main path's reactance at one EMF.
    std::vector<double> main_share;
    /// Over the working wave's EMF a hertz (V/Hz, rms of a phase, rising): the main path's saturation.
    std::vector<double> emf_per_hertz, xm;
    /// W of the stator's iron, all phases, at `iron_emf` V/Hz over the frequencies `iron_frequency` (rising);
    /// grows with the square of the EMF. Empty: none.
    double iron_emf = 0;
    std::vector<double> iron_frequency, iron_loss;

    double iron(double emf, double frequency) const;
};

/// Elements straight between the table's rows (rotor elements over the logarithm of the frequency), those at
/// its ends beyond it.
class SaturatedCircuit final : public SlipMachine {
  public:
    /// `friction`: W of bearings and air, at every speed.
    SaturatedCircuit(CircuitTable table, int pole_pairs, double friction);
    Result<SlipPoint> at(double voltage, double frequency, double slip) override;

  private:
    CircuitTable m_table;
    double m_friction;
};

/// y at x of a table with rising xs; the end's beyond them.
double straight_between(const std::vector<double>& xs, const std::vector<double>& ys, double x);

} // namespace mavlo
