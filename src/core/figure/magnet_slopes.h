#pragma once
// How a figure follows each magnet by itself.

#include "field/solver.h"

#include <vector>

namespace mavlo {

/// Of a figure over what one magnet has of its own.
struct MagnetSlope {
    double strength = 0;  ///< a relative change of its remanence
    double direction = 0; ///< a turn of its remanence, anticlockwise, 1/rad
    double place = 0;     ///< a turn of the magnet about the shaft, its remanence with it, 1/rad
};

/// From the figure's adjoint field a: a small source s changes the figure by s . a, and a magnet's source is
///   s_i = int nu_m (B_rx dN_i/dy - B_ry dN_i/dx)
/// (field/model.h), so that strength and direction are the same integral with the adjoint's gradient. A magnet
/// that is moved gains on one edge what it loses on the other (shape derivative by the speed V . n of its edge:
/// J. Sokolowski, J.-P. Zolesio, Introduction to Shape Optimization, 1992, ch. 2):
///   int V . n (nu_m (B_rx da/dy - B_ry da/dx) - (nu_m - nu) grad A . grad a) ds
/// with the gradients' mean of both sides. One slope for each body of magnet in the model's sector; where
/// sectors repeat, all its images change with it.
class MagnetSlopes {
  public:
    explicit MagnetSlopes(const FieldModel& model);

    /// Whether every magnet may move about the shaft: no steel is in its way.
    bool may_move() const { return m_may_move; }
    std::vector<MagnetSlope> operator()(const FieldSolution& field, const std::vector<double>& adjoint) const;

  private:
    /// An edge between a magnet and what is none of it: element and edge (0 to 2) on either side.
    struct Edge {
        std::size_t inside, outside;
        int inside_edge, outside_edge;
    };
    void find_edges();
    void add_edge(const Edge& edge, const FieldSolution& field, const std::vector<double>& adjoint,
                  std::vector<MagnetSlope>& slopes) const;
    std::array<Point, 6> nodes_of(std::size_t element) const;

    const FieldModel& m_model;
    std::vector<Edge> m_edges;
    bool m_may_move = true;
};

} // namespace mavlo
