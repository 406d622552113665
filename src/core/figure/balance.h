#pragma once
// Where the power goes, part by part: the one sum of losses that every question takes.

#include "figure/copper.h"
#include "figure/loss.h"

#include <optional>
#include <vector>

namespace mavlo {

/// A static field is lossless: what it brings to the rotor is torque times speed, and losses of the rotor are
/// taken off what the shaft gives; those of the stator are added to what the terminals take in. A field in time
/// has its eddy currents' losses in what the terminals bring already. All in W; motor convention.
struct Balance {
    double copper_dc = 0, copper = 0; ///< with direct current; with the alternating one
    double iron_stator = 0, iron_rotor = 0, magnets = 0, shaft_eddy = 0, shell = 0;
    bool eddy_in_field = false; ///< of magnets, shaft and shell: they brake the torque itself
    MechanicalLoss mechanical{};
    double air_gap = 0;    ///< torque of the gap times speed
    double electrical = 0; ///< mean of v i, with the winding's direct-current resistance

    double iron() const { return iron_stator + iron_rotor; }
    double eddy() const { return magnets + shaft_eddy + shell; }
    double of_rotor() const { return iron_rotor + eddy() + mechanical.total(); }
    double total() const { return copper + iron_stator + of_rotor(); }
    double shaft() const { return air_gap - of_rotor() + (eddy_in_field ? eddy() : 0); }
    double terminals() const { return electrical + (copper - copper_dc) + iron_stator; }
    /// Output over input, as motor or generator; empty where neither gives anything out.
    std::optional<double> efficiency() const;
};

/// Copper loss with direct current's resistance, and with that of every harmonic's frequency, W.
struct CopperLoss {
    double direct = 0, alternating = 0;
};
/// Of sinusoidal currents of this peak at an electrical frequency (Hz): m/2 I^2 R.
CopperLoss copper_loss(const Machine& machine, double peak_current, double frequency);
double direct_copper_loss(const Machine& machine, double peak_current); ///< its direct part alone
/// Of each phase's current over a period of this frequency, evenly sampled. What round strands lose by the
/// field that crosses them is the field's own (FieldLosses::strands) where `losses` has it, with the magnets'
/// stray field; otherwise, and of flat wire, that of the slot's leakage field (AcResistance).
CopperLoss copper_loss(const Machine& machine, const std::vector<std::vector<double>>& currents,
                       double frequency, const FieldLosses& losses);

/// The balance of a field's losses at a shaft speed (rad/s).
Balance balance_of(const Machine& machine, const FieldLosses& losses, const CopperLoss& copper, double speed,
                   double torque, double electrical);

} // namespace mavlo
