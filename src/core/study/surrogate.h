#pragma once
// A smooth function through scattered values.

#include <Eigen/Dense>
#include <vector>

namespace mavlo {

/// Cubic radial functions with a plane, through all points of the unit cube (M.J.D. Powell, in Advances in
/// Numerical Analysis II, 1992): the interpolant with the least bending. Points must differ and span the cube's
/// directions; a little smoothing keeps the system sound where they nearly do not.
class Surrogate {
  public:
    Surrogate(const std::vector<std::vector<double>>& points, const std::vector<double>& values);
    double operator()(const std::vector<double>& point) const;

  private:
    std::vector<std::vector<double>> m_points;
    Eigen::VectorXd m_weights, m_plane; ///< plane: constant first
};

} // namespace mavlo
