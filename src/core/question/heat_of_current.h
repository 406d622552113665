#pragma once
// The temperatures that given currents make at a speed, from a coarse period of fields on a mesh at hand.

#include "figure/current_wave.h"
#include "question/heat_setup.h"

namespace mavlo {

/// Of one mesh; the heat model stays from one current to the next. Losses are those of the fields at the
/// machine's temperatures (iron, magnets and strands element by element), copper's follow its own.
class HeatOfCurrent {
  public:
    struct Found {
        CoupledHeat coupled;
        KnownLosses losses;
    };
    /// `speed` of the shaft, rad/s.
    static Result<HeatOfCurrent> of(std::shared_ptr<const MachineModel> model, const MaterialLibrary& own,
                                    double speed);
    Result<Found> at(const CurrentWave& current, int threads, const Watch& watch);
    /// Temperatures (K, of all nodes) for a hand that moves: of the last at(), with the copper's loss by the
    /// square of this current, all else and the films as they were. Empty before there is one, or where the
    /// winding runs away.
    std::optional<Eigen::VectorXd> estimate(const CurrentWave& current) const;
    /// What each of the mesh's elements loses, W/m3, with the winding's by direct current spread evenly over
    /// the slots; what shaft, bearings and end windings lose is in none.
    std::vector<double> densities(const Found& found) const;
    MachineHeatModel& model() { return *m_heat; }
    double speed() const { return m_speed; }

  private:
    Problems keep(const Found& found, double peak);

    struct Kept {
        WindingLoss winding;                         ///< of the kept current
        double direct = 0, added = 0;                ///< W/A2 of a peak current
        Eigen::VectorXd without, slots, ends, extra; ///< K without the winding's loss; K/W by each part of it
    };
    std::optional<Kept> m_kept;
    std::shared_ptr<const MachineModel> m_model;
    std::unique_ptr<MachineHeatModel> m_heat;
    double m_speed = 0;
};

} // namespace mavlo
