#pragma once
// What a cage answers to the waves round the gap that do not work: each meets the rotor with a slip of its own.

#include "figure/cage_field.h"

namespace mavlo {

/// A wave of the stator's field with n periods a turn (n below zero: turning backward), of its winding's
/// currents or its slots' permeance, meets a rotor of the slip s with
///   omega_n = omega (1 - n (1 - s)/p)
/// (P.L. Alger, Induction Machines, 1970, ch. 10). A field of phasors lets all of them slip as the working one
/// does; what their own slips add is an admittance of each on the rotor's circle: the difference of the
/// sheets a wave needs there, found from sheets of that wave alone on top of the field without slip with the
/// steel's differential reluctivity. Left out: what the rotor's slots make of a wave at other frequencies.
class CageWaves {
  public:
    static Result<CageWaves> of(const CageField& field, const CagePoint& idle, double frequency);

    /// For a field with this slip.
    std::vector<GapWave> at(double slip) const;

  private:
    struct Wave {
        int order = 0;
        GapWave gap;
        std::vector<std::complex<double>> admittance; ///< over the rotor's frequencies, above zero
    };
    std::complex<double> admittance(const Wave& wave, double omega) const;

    int m_pairs = 1;
    double m_omega = 0;
    std::vector<double> m_log_omega;
    std::vector<Wave> m_waves;
};

} // namespace mavlo
