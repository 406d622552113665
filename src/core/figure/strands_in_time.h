#pragma once
// What fields in time lose in the winding's strands.

#include "figure/strand_weights.h"
#include "figure/unfolding.h"

#include <Eigen/Dense>

namespace mavlo {

/// The waves of the flux density in the coil sides, summed step by step. Those above `orders` are a carrier's,
/// whose own leakage field the conductors' resistance knows; they take no part.
class StrandsInTime {
  public:
    static constexpr int orders = 50;

    /// `omega`: of the fundamental, rad/s.
    StrandsInTime(const MachineModel& model, double omega);

    /// The field `dt` seconds after the last; the first one only begins.
    void add(double dt, const FieldSolution& field);

    /// FieldLosses::strands, the stretch taken to repeat or, as a part of a period, with the pattern moved on
    /// from part to part; empty where the conductors' size is not known.
    std::optional<double> at_1hz(const std::optional<PeriodPart>& part) const;

  private:
    Eigen::VectorXd flux_densities(const FieldSolution& field) const;
    Eigen::MatrixXcd waves_of(int pitch, const Unfolding& side) const;

    const MachineModel* m_model;
    double m_omega, m_time = 0;
    std::optional<StrandWeights> m_weights;
    std::vector<std::size_t> m_elements; ///< of conductors
    Eigen::VectorXd m_before;            ///< T, along the radius of each, then along the circumference
    Eigen::MatrixXcd m_waves;            ///< their integrals, one column an order from 1 on
    bool m_begun = false;
};

} // namespace mavlo
