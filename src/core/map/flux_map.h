#pragma once
// What a machine does with every current vector, at the temperatures of its design.

#include "figure/loss.h"
#include "figure/loss_part.h"
#include "figure/park.h"
#include "map/grid.h"

#include <array>
#include <string>
#include <vector>

namespace mavlo {

/// One point: means over the electrical period with sinusoidal currents.
struct FluxPoint {
    Dq current{};                         ///< A
    Dq flux_linkage{};                    ///< Wb
    double torque = 0, ripple = 0;        ///< of the gap's field, N.m: mean, and peak to peak
    IronLoss iron_stator{}, iron_rotor{}; ///< at 1 Hz, W
    double magnets = 0;                   ///< at 1 Hz, W, with a conducting shaft
    /// Along the remanence in the magnets, T: less in 1 % of their area only, the worst of the period.
    double magnet_field = 0;
    double third = 0,
           ninth = 0;        ///< Wb: peaks of what all phases link in common, at 3 and 9 times the frequency
    double strands = 0;      ///< FieldLosses::strands: eddy loss in the winding at 1 Hz, W
    double extrapolated = 0; ///< share of the iron loss at rated frequency that lies beyond the loss tables

    static constexpr std::size_t columns = 28;
    std::vector<double> row() const;
    static FluxPoint from_row(const std::vector<double>& row);
};

/// Points over a grid of i_d and i_q. A grid that begins at i_q = 0 has its mirror image below it (a machine
/// whose poles are mirror images of themselves: torque and psi_q change their sign); one of other poles begins
/// below zero.
class FluxMap {
  public:
    FluxMap() = default;
    /// points[j * id.size() + i] at iq[j], id[i]; both rising, iq from 0 on or from below it.
    FluxMap(std::vector<double> id, std::vector<double> iq, std::vector<FluxPoint> points);

    const std::vector<double>& id() const { return m_id; }
    const std::vector<double>& iq() const { return m_iq; }
    bool mirrored() const { return m_iq.front() >= 0; }
    double lowest_iq() const { return mirrored() ? -m_iq.back() : m_iq.front(); }
    const std::vector<FluxPoint>& points() const { return m_points; }
    /// What its source says nothing of, its numbers being zero.
    const LossParts& unknown() const { return m_unknown; }
    void leave_open(LossParts parts) { m_unknown.add(parts); }
    /// Whether its points tell the field's loss in the strands; one from elsewhere may not.
    bool knows_strands() const { return m_knows_strands; }
    void leave_strands_open() { m_knows_strands = false; }

    Dq flux_linkage(Dq current) const;
    double torque(Dq current) const;
    FluxPoint at(Dq current) const; ///< everything, interpolated (see GridFunctions)
    /// The same machine with an inductance (H) in series with each phase.
    FluxMap with_series_inductance(double inductance) const;

  private:
    double value(std::size_t place, Dq current) const; ///< the number at this place of row()
    std::vector<double> m_id, m_iq;
    std::vector<FluxPoint> m_points;
    GridFunctions m_functions; ///< of row()
    LossParts m_unknown{};
    bool m_knows_strands = true;
};

} // namespace mavlo
