#pragma once
// Points and weights of Gauss and Legendre.

#include <vector>

namespace mavlo {

struct GaussPoint {
    double at, weight; ///< between 0 and 1; weights sum to 1
};

/// `n` points, exact for polynomials up to the degree 2n - 1; by Newton's method on the polynomial (W.H. Press
/// et al., Numerical Recipes, 3rd ed., sec. 4.6).
std::vector<GaussPoint> gauss_legendre(int n);

} // namespace mavlo
