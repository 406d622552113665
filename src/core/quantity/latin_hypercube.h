#pragma once
// Samples that fill every dimension evenly.

#include <vector>

namespace mavlo {

/// Shares in [0, 1), one row a sample: of each dimension every one of `count` equal parts holds one, in an
/// order by lot, the same for the same seed with every library (M.D. McKay et al., Technometrics 21, 1979; the
/// order by R. Fisher and F. Yates).
std::vector<std::vector<double>> latin_hypercube(std::size_t dimensions, int count, unsigned seed);

} // namespace mavlo
