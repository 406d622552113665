#pragma once
// What a carrier does to a machine of given inductances at one operating point, in closed form.

#include "circuit/bridge.h"

#include <Eigen/Dense>

namespace mavlo {

struct Carrier {
    Bridge bridge;
    double frequency = 0; ///< Hz
    bool space_vector = true, delta = false;
};

struct CarrierRipple {
    /// Means of (di di^T) along d and q, A2, and of their rates, (A/s)2: what the currents are beside their
    /// average over a carrier period.
    Eigen::Matrix2d current = Eigen::Matrix2d::Zero(), rate = Eigen::Matrix2d::Zero();
    double valves = 0; ///< W, conduction loss of switches and diodes

    double phase_rms() const; ///< A
    double frequency() const; ///< Hz, of a sine with the same ratio of rate to current; 0 without ripple
};

/// Pulses centred in the carrier period (D.G. Holmes, T.A. Lipo, Pulse Width Modulation for Power Converters,
/// 2003, ch. 2 and 6): within it each phase sees the link's voltages while the rotor stands, so that the
/// current goes straight from one switching to the next about its average. Voltage and current of a phase along
/// d and q, peak; `inductance` the slopes of linkages over currents, H. Ripple is left out of the valves'
/// current, valves' drops out of the voltages; references beyond the link's reach are cut.
CarrierRipple carrier_ripple(const Carrier& carrier, const Eigen::Vector2d& voltage,
                             const Eigen::Vector2d& current, const Eigen::Matrix2d& inductance);

} // namespace mavlo
