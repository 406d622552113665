#pragma once
// Where the power goes, part by part: the one sum of losses that every question takes.

#include "figure/copper.h"
#include "figure/loss.h"
#include "figure/loss_part.h"

#include <array>
#include <optional>
#include <vector>

namespace mavlo {

/// Who pays for a loss that a field without losses knows nothing of.
enum class TakenFrom {
    Terminals, ///< electrically: it comes on top of what the terminals bring in
    Shaft,     ///< mechanically: it brakes
};

/// Copper, valves and what a carrier's ripple loses at the terminals: it is alternating power that does no
/// work. All else at the shaft. Currents are those at the terminals. Iron loss lies across the EMF like a
/// conductance (C. Mi, G.R. Slemon, R. Bonert, IEEE Trans. Ind. Appl. 39(3), 2003): of the terminals' current
/// it takes e/R_fe away from that which makes torque, so that torque falls by the loss over the speed while v i
/// stays, to first order. Without current all of it is drag: with open terminals nothing else could bring it.
/// Eddy currents in the rotor and friction brake likewise.
TakenFrom taken_from(LossPart part);

/// All in W; motor convention. Parts of which nothing is known count as zero in `known` sums and make the
/// others empty.
class Balance {
  public:
    double copper_dc = 0; ///< of LossPart::Copper, with direct current's resistance
    /// Currents in magnets and massive parts are part of the field: they brake its torque already.
    bool eddy_in_field = false;
    double air_gap = 0;    ///< torque of the gap times speed
    double electrical = 0; ///< mean of v i, with the winding's direct-current resistance
    LossParts unknown{};

    double& operator[](LossPart part) { return m_loss[std::size_t(part)]; }
    double known(LossPart part) const { return m_loss[std::size_t(part)]; }
    std::optional<double> of(LossPart part) const;
    std::optional<double> iron() const; ///< of both sides
    double mechanical() const { return known(LossPart::Bearings) + known(LossPart::Windage); }
    void set(const MechanicalLoss& loss);
    double known_eddy() const; ///< of magnets and massive parts

    double known_total() const;
    std::optional<double> total() const { return told(known_total()); }
    double known_shaft() const; ///< what the shaft gives if what is not known is nothing
    std::optional<double> shaft() const { return told(known_shaft()); }
    double terminals() const; ///< with all that is taken there
    /// Output over input, as motor or generator; empty where neither gives anything out.
    std::optional<double> efficiency() const;
    /// What the terminals bring and neither the gap, the winding, `other` (W) nor eddy currents in the field
    /// take, over the largest of these: the error of field, positions and steps together.
    double unaccounted(double other = 0) const;

  private:
    std::optional<double> told(double value) const {
        return unknown.empty() ? std::optional(value) : std::nullopt;
    }
    std::array<double, all_loss_parts.size()> m_loss{};
};

/// Copper loss with direct current's resistance, and with that of every harmonic's frequency, W.
struct CopperLoss {
    double direct = 0, alternating = 0;
    double stray = 0; ///< beside it: by the magnets' field that crosses the strands
};
/// Of currents whose harmonics lose these watts with direct current's resistance (by order of the frequency,
/// Hz; order 0 takes no part). `strands`: what the field that crosses them loses at 1 Hz (FieldLosses::strands)
/// where it is known. Of round strands it stands for their neighbours' field, too (`by_field`), or only for
/// what it is more than the slot's leakage field of these currents: the magnets' stray field.
CopperLoss copper_loss(const AcResistance& alternating, double direct, const std::vector<double>& watts,
                       double frequency, std::optional<double> strands, bool by_field = true);
/// The same of a sine, by the rates of its frequency.
CopperLoss copper_loss(const StrandRates& rates, double direct, std::optional<double> strands);
/// Of sinusoidal currents of this peak with direct current's resistance: m/2 I^2 R, W.
double direct_copper_loss(const Machine& machine, double peak_current);
/// Of each phase's current over a period of this frequency, evenly sampled, with the field's own loss in the
/// strands where `losses` has it.
CopperLoss copper_loss(const Machine& machine, const std::vector<std::vector<double>>& currents,
                       double frequency, const FieldLosses& losses);

/// The balance of a field's losses at a shaft speed (rad/s); what the machine's materials do not tell is
/// unknown.
Balance balance_of(const Machine& machine, const FieldLosses& losses, const CopperLoss& copper, double speed,
                   double torque, double electrical);

} // namespace mavlo
