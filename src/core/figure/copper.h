#pragma once
// Loss of the winding with direct and alternating current.

#include "machine/slot_space.h"

namespace mavlo {

/// What alternating current of one frequency does, see AcResistance.
struct StrandRates {
    bool round = true;
    double whole = 1, alone = 1; ///< R_ac/R_dc, and without the neighbours' field
    double leakage = 0;          ///< what their own leakage adds, over the loss with direct current
    double growth = 0;           ///< of what strands lose at 1 Hz by a field that crosses them
};

/// R_ac / R_dc of the phases over the electrical frequency.
///
/// In the slots every strand lies where it is packed (fill_slot) and stands in the slot's leakage field of all
/// coil sides with the phases' currents (SlotStrands: round wires by Bessel functions, bars by Dowell's).
/// Strands in hand share the current as the leakage flux above each lets them; those of litz evenly. End turns
/// as with direct current. Slots whose sides carry the same phases are taken once.
class AcResistance {
  public:
    explicit AcResistance(const Machine& machine);
    double factor(double frequency) const; ///< Hz
    /// Of the slots' straight parts alone, strands sharing evenly.
    double slot_factor(double frequency) const;
    /// With the strands' own skin effect alone, without the field of their neighbours.
    double without_neighbours(double frequency) const;
    /// Loss of strands in a field that crosses them over what it is at low frequency, which grows with its
    /// square: 1 while they are thinner than the skin.
    double crossing_share(double frequency) const;
    /// What the slots' leakage field of the phases' own currents adds at 1 Hz, over the loss with direct
    /// current: of round strands by their neighbours' field, of bars all of it; grows with the frequency's
    /// square, times crossing_share.
    double leakage_at_1hz() const { return m_leakage; }
    bool is_round() const { return m_shape.round; }
    StrandRates at(double frequency) const;
    /// Of circulating currents between strands in hand.
    double sharing_factor(double frequency) const;

  private:
    struct Kind {
        SlotStrands strands;
        std::vector<SlotStrands::Coupling> sides; ///< where strands in hand may share unevenly
        double weight;                            ///< slots of this kind
    };
    double m_in_slot = 1;      ///< share of a turn that lies in slots
    double m_length_ratio = 1; ///< a turn over its two sides in the slots
    double m_leakage = 0;
    StrandShape m_shape;
    double find_leakage() const;
    /// factor() and without_neighbours() with the sharing_factor() told.
    double whole(double sharing, double frequency) const;
    double alone(double sharing, double frequency) const;
    bool m_shares = false; ///< strands in hand that may share unevenly
    std::vector<Kind> m_kinds;
};

struct Air {
    double density, viscosity; ///< kg/m3; kinematic, m2/s
};
/// Dry air at 1 atm: an ideal gas with W. Sutherland's viscosity (Phil. Mag. 36, 1893; U.S. Standard
/// Atmosphere, 1976).
Air air_at(double kelvin);

/// W: bearings and seals at the given torque, and the rotor's rim in air with Vrancik's drag coefficient,
///   P = pi C_d rho r^4 omega^3 L,   1/sqrt(C_d) = 2.04 + 1.768 ln(Re sqrt(C_d)),   Re = omega r g / nu
/// (J.E. Vrancik, NASA TN D-4849, 1968), and its two end faces as those of a disc in free air,
///   P = C_M rho omega^3 r^5 / 2,   C_M = 3.87 Re^-1/2 below Re = omega r^2 / nu = 3e5, above 0.146 Re^-1/5
/// (T. von Karman, ZAMM 1, 1921); air between the winding's temperature and the magnets'. The rim of
/// salient poles drags salient_drag() times as much. `speed` in rad/s.
struct MechanicalLoss {
    double bearings = 0, windage = 0;
    double total() const { return bearings + windage; }
};
/// Drag of a rim of poles that stand out over that of a round one: 8.5 h/r + 2.2 with gaps of depth h between
/// them, from h/r = 0.06 on (Vrancik, as above, from measured rotors); below on the straight line from a round
/// one's 1.
double salient_drag(const Machine& machine);
MechanicalLoss mechanical_loss(const Machine& machine, double speed);

} // namespace mavlo
