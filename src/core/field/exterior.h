#pragma once
// The air beyond the machine's outside as one exact element, as the gap is.

#include "field/gap_circle.h"

#include <vector>

namespace mavlo {

/// Outside a circle of radius R the potential of order n falls as (R/r)^n, so it is known from its trace s_n =
/// int A e^{-in theta} / 2 pi on the circle; its energy per length is
///   W = 2 pi nu0 sum_{n>0} n |s_n|^2
/// (the gap's with its outer circle at infinity: S.J. Salon, Finite Element Analysis of Electrical Machines,
/// 1995, ch. 2). Order 0 carries no field where a machine's currents sum to zero; its potential is held by a
/// circle of A = 0 at e R.
class Exterior {
  public:
    /// Of the outside of a body's mesh, `pitches` of its tiles in the sector.
    Exterior(const BodyMesh& mesh, int pitches, const Sector& sector);

    /// Unknowns on the circle, in the order of their angle.
    const std::vector<int>& unknowns() const { return m_circle.unknowns(); }
    /// Stiffness for one sector and one metre.
    const Eigen::MatrixXd& block() const { return m_block; }
    const GapCircle& circle() const { return m_circle; }
    const std::vector<int>& orders() const { return m_orders; }
    const Eigen::RowVectorXd& weights() const { return m_weights; } ///< of the orders

    /// Largest flux density on the circle, T, where it has this radius, from the unknowns' values: of orders
    /// that reach a twentieth of the radius out, so that the mesh's own ripple does not count.
    double largest_flux_density(const Eigen::VectorXd& values, double radius) const;

  private:
    Sector m_sector;
    GapCircle m_circle;
    std::vector<int> m_orders;
    Eigen::RowVectorXd m_weights;
    Eigen::MatrixXcd m_integrals;
    Eigen::MatrixXd m_block;
};

} // namespace mavlo
