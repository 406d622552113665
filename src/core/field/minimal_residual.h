#pragma once
// A linear system whose matrix is only known by its products.

#include <functional>
#include <vector>

namespace mavlo {

struct MinimalResidual {
    std::vector<double> x;
    double left = 0; ///< |b - A x| over |b|
    int steps = 0;   ///< products
};

/// x of A x = b with `product` = A x, until the residual is `enough` of b or after `most` products: the
/// generalised minimal residual method (Y. Saad, M.H. Schultz, SIAM J. Sci. Stat. Comput. 7(3), 1986), begun at
/// zero, never begun anew. The residual never grows.
MinimalResidual minimal_residual(const std::function<std::vector<double>(const std::vector<double>&)>& product,
                                 const std::vector<double>& b, double enough, int most);

} // namespace mavlo
