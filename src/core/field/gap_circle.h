#pragma once
// A circle with the nodes on it, and their Fourier integrals: either side of the gap, or the machine's outside.

#include "mesh/body_mesh.h"

#include <Eigen/Dense>
#include <complex>
#include <span>
#include <vector>

namespace mavlo {

/// The nodes of a sector's circle. All pitches (slots or poles) are alike, so the integrals
///   phi_j(n) = int N_j e^{-in theta} dtheta
/// of the second-order shape functions are kept for the nodes of the first pitch alone; those of pitch p are
/// phi_j(n) e^{-inp pitch}.
class GapCircle {
  public:
    /// `unknown`: of the nodes that the edges name.
    GapCircle(std::vector<BodyMesh::CircleEdge> edges, const std::vector<int>& unknown, int pitches,
              const Sector& sector);

    /// In the order of their angle.
    const std::vector<int>& unknowns() const { return m_unknowns; }
    int pitches() const { return m_pitches; }
    double pitch() const { return m_pitch; }            ///< rad
    double shortest_edge() const { return m_shortest; } ///< rad

    /// Integrals of the first pitch's nodes (rows) for the orders (columns).
    Eigen::MatrixXcd integrals(std::span<const int> orders) const;
    /// The same of the odd cubic function l0 l1 (l0 - l1) on each of its edges, whose middles are every second
    /// of the unknowns.
    Eigen::MatrixXcd cubic_integrals(std::span<const int> orders) const;

    /// int A e^{-in theta} over the sector of a trace with these values at the unknowns, from integrals().
    Eigen::VectorXcd sums(const Eigen::MatrixXcd& integrals, std::span<const int> orders,
                          const Eigen::VectorXd& values) const;

  private:
    struct Piece {
        int first; ///< its nodes are first, first + 1, first + 2 of the pitch; the last may begin the next
        double from, to; ///< rad
    };

    std::vector<int> m_unknowns;
    int m_pitches;
    double m_pitch, m_shortest = 1;
    std::vector<Piece> m_pieces; ///< of the first pitch
};

/// e^{-i n angle} for orders in equal steps.
Eigen::RowVectorXcd turn_factors(std::span<const int> orders, double angle);

} // namespace mavlo
