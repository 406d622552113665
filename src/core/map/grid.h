#pragma once
// A smooth function over a rectangular grid.

#include <array>
#include <vector>

namespace mavlo {

/// Bicubic Hermite interpolation, C1 everywhere, through values at x[i], y[j] (both rising; two or more of
/// each). Slopes are those of the parabola through three neighbours; where the neighbours rise or fall on both
/// sides they are limited to three times the smaller secant, which keeps the curve along each grid line
/// monotone there (F.N. Fritsch, R.E. Carlson, SIAM J. Numer. Anal. 17(2), 1980), and smooth tops stay smooth.
/// Outside the grid the value is that at its edge plus the slope there.
class GridFunction {
  public:
    GridFunction() = default;
    /// values[j * x.size() + i] at y[j], x[i]
    GridFunction(std::vector<double> x, std::vector<double> y, std::vector<double> values);

    double operator()(double x, double y) const;

  private:
    struct Corner {
        double f, fx, fy, fxy;
    };
    std::vector<double> m_x, m_y;
    std::vector<Corner> m_corners;
};

/// Slopes of a series at its points as GridFunction takes them.
std::vector<double> smooth_slopes(const std::vector<double>& x, const std::vector<double>& y);

} // namespace mavlo
