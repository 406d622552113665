#pragma once
// The single-valued magnetisation curve H(B) of a steel, smooth and monotone.

#include "quantity/problem.h"

#include <array>
#include <cassert>
#include <vector>

namespace mavlo {

inline constexpr double mu0 = 1.25663706212e-6; ///< V.s/(A.m), CODATA 2018
inline constexpr double nu0 = 1 / mu0;
/// Relative permeability that stands for ideal iron (mu_r = inf).
inline constexpr double ideal_mu_r = 1e7;

struct BhPoint {
    double h = 0; ///< field strength, A/m
    double b = 0; ///< flux density, T
    bool operator==(const BhPoint&) const = default;
};

/// H as a function of |B| in an isotropic material.
///
/// Between the points: piecewise cubic Hermite interpolation with the slopes of Fritsch and Butland (SIAM J.
/// Sci. Stat. Comput. 5, 1984), which keeps H(B) monotone and C1. Beyond the last point the differential
/// reluctivity dH/dB goes to that of vacuum as nu0 - (nu0 - nu_end) exp(-(B - B_end)/b): the remaining
/// polarisation is saturated exponentially with b = 0.1 T. The energy density w(B) = int H dB is integrated
/// exactly.
class BhCurve {
  public:
    struct Value {
        double h;      ///< A/m
        double dh_db;  ///< differential reluctivity, m/H, always > 0
        double energy; ///< int_0^B H dB, J/m3
    };

    /// A constant relative permeability.
    static BhCurve linear(double mu_r);
    /// Points in rising order; (0, 0) may be left out. Fails when fewer than three points are given, a value is
    /// not finite, or H or B does not rise from one point to the next; the sentence names the rows.
    static Result<BhCurve> through(std::vector<BhPoint> points);

    Value at(double b) const { ///< b >= 0, T
        assert(b >= 0);
        if (is_linear() || b >= m_knots.back().b) return beyond_knots(b);
        const Knot* knot = m_knots.data() + m_bins[std::size_t(b * m_bins_per_tesla)];
        while (b >= (knot + 1)->b) ++knot;
        const double x = b - knot->b;
        const auto& c = knot->cubic;
        return {c[0] + x * (c[1] + x * (c[2] + x * c[3])), c[1] + x * (2 * c[2] + x * 3 * c[3]),
                knot->energy + x * (c[0] + x * (c[1] / 2 + x * (c[2] / 3 + x * c[3] / 4)))};
    }
    double flux_density(double h) const; ///< inverse of H(B); h >= 0, A/m
    bool is_linear() const { return m_knots.empty(); }
    const std::vector<BhPoint>& points() const { return m_points; }
    double linear_mu_r() const { return m_linear_mu_r; }

    /// The homogenised curve of a stack whose share `factor` is steel and the rest air, field along the sheets:
    /// B = factor B_steel(H) + (1 - factor) mu0 H.
    BhCurve stacked(double factor) const;

    bool operator==(const BhCurve& other) const {
        return m_linear_mu_r == other.m_linear_mu_r && m_points == other.m_points;
    }

  private:
    struct Knot {
        double b, h, slope, energy;
        std::array<double, 4> cubic{}; ///< H = sum cubic[k] (B - b)^k up to the next knot
    };
    Value beyond_knots(double b) const; ///< of a curve without any, or past the last
    void index_knots();
    double m_linear_mu_r = 0;
    std::vector<BhPoint> m_points;
    std::vector<Knot> m_knots;
    std::vector<int> m_bins; ///< last knot at or below the start of each of equal bins of B
    double m_bins_per_tesla = 0;
};

} // namespace mavlo
