#pragma once
// Smooth functions over a rectangular grid.

#include <Eigen/Dense>
#include <array>
#include <vector>

namespace mavlo {

/// Bicubic Hermite interpolation, C1 everywhere, through values at x[i], y[j] (both rising; two or more of
/// each). Slopes are those of the parabola through three neighbours; where the neighbours rise or fall on both
/// sides they are limited to three times the smaller secant, which keeps the curve along each grid line
/// monotone there (F.N. Fritsch, R.E. Carlson, SIAM J. Numer. Anal. 17(2), 1980), and smooth tops stay smooth.
/// Outside the grid the value is that at its edge plus the slope there.
class GridFunctions {
  public:
    GridFunctions() = default;
    /// values(j * x.size() + i, k): of function k at y[j], x[i]
    GridFunctions(std::vector<double> x, std::vector<double> y, const Eigen::MatrixXd& values);

    Eigen::Index count() const { return m_corners.rows(); }
    double value(Eigen::Index k, double x, double y) const;
    /// A row for each function: its value, and its slopes over x and over y.
    Eigen::MatrixX3d at(double x, double y) const;

  private:
    struct Place;
    Place place(double x, double y) const;
    /// Where the numbers of a point of the cell begin.
    Eigen::Index corner(const Place& at, std::pair<std::size_t, std::size_t> point) const;
    std::vector<double> m_x, m_y;
    Eigen::MatrixXd m_corners; ///< a row for each function; f, fx, fy, fxy of each point
};

/// Slopes of a series at its points as GridFunctions takes them.
std::vector<double> smooth_slopes(const std::vector<double>& x, const std::vector<double>& y);

} // namespace mavlo
