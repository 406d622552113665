#pragma once
// A machine on an inverter: which currents give a torque at a speed, and at what loss.

#include "circuit/voltage_rule.h"
#include "figure/balance.h"
#include "map/flux_map.h"

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct DriveLimits {
    double current = 0, voltage = 0; ///< phase, peak; A and V
};

enum class Aim { LeastLoss, LeastCurrent, LeastRipple }; ///< the last of switched machines alone

/// Steady operation with sinusoidal currents; fundamental voltage; motor convention.
struct OperatingPoint {
    Dq current{};
    double speed = 0;  ///< shaft, rad/s
    double torque = 0; ///< of the gap's field, N.m
    double ripple = 0;
    Dq flux_linkage{};
    double voltage = 0;        ///< phase, peak
    Balance power{};           ///< with a conducting shaft's loss among the magnets'
    double magnet_field = 0;   ///< T, see FluxPoint
    double extrapolated = 0;   ///< see FluxPoint; 1 where the frequency lies beyond the tables
    double power_factor = 0;   ///< of the fundamental
    double current_ripple = 0; ///< of a phase by an inverter's carrier, A rms

    double amplitude() const;
};

/// Currents that give one torque: points of the map along i_d.
struct TorqueContour {
    double torque = 0;
    std::vector<FluxPoint> points;
};

/// Left out by all of it: harmonics of voltage and current, and with them their losses; what saturates by them;
/// the winding's temperature rise. Torque is that of the field in the gap, before bearings and rotor losses.
class Drive {
  public:
    /// `round`: of a delta the inductance (H) that a current round it meets, which the phases' common linkages
    /// drive; 0: no current runs round.
    Drive(Machine machine, FluxMap map, DriveLimits limits, Aim aim = Aim::LeastLoss, double round = 0);

    const FluxMap& map() const { return m_map; }
    const DriveLimits& limits() const { return m_limits; }
    const LossParts& unknown() const { return m_unknown; } ///< of its balances

    OperatingPoint at(Dq current, double speed) const;
    bool allowed(const OperatingPoint& point) const;

    TorqueContour contour(double torque) const;
    /// The point of the contour that is best at this speed within the limits; empty when there is none.
    std::optional<OperatingPoint> best(const TorqueContour& contour, double speed) const;
    /// The same without a contour at hand.
    std::optional<OperatingPoint> best(double torque, double speed) const {
        return best(contour(torque), speed);
    }
    /// The largest torque within the limits at this speed, as motor (sign 1) or generator (sign -1).
    std::optional<OperatingPoint> strongest(double speed, int sign = 1) const;
    /// The current vector of this amplitude with the most torque (maximum torque per ampere), as motor (sign 1)
    /// or generator (sign -1).
    Dq strongest_vector(double amplitude, int sign = 1) const;
    /// The current vector with the most torque per flux linkage, for flux linkages of this size (maximum torque
    /// per volt); empty where the map does not hold it.
    std::optional<Dq> strongest_at_flux(double flux_linkage) const;
    /// The current along -d that brings psi_d to zero, A; extrapolated beyond the map.
    double characteristic_current() const;

  private:
    /// The i_q with this torque at i_d, on the side of zero where it lies.
    std::optional<double> iq_for(double id, double torque) const;
    /// What depends on the speed alone.
    struct Speed {
        double shaft, omega, frequency, resistance;
        StrandRates strands;
        MechanicalLoss mechanical;
    };
    Speed at_speed(double shaft) const;
    OperatingPoint point_at(const FluxPoint& from, const Speed& speed) const;
    std::optional<OperatingPoint> best_at(const TorqueContour& contour, const Speed& speed) const;
    double objective(const OperatingPoint& point) const;
    double excess(const OperatingPoint& point) const;
    double loss_round_delta(const FluxPoint& from, const Speed& speed) const;

    Machine m_machine;
    FluxMap m_map;
    DriveLimits m_limits;
    Aim m_aim;
    double m_resistance, m_round;
    AcResistance m_alternating;
    double m_table_end; ///< Hz
    LossParts m_unknown;
};

} // namespace mavlo
