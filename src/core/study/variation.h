#pragma once
// How designs of a study differ: values of parameters, in all pairs, side by side, or as samples.

#include "machine/design.h"

#include <string>
#include <vector>

namespace mavlo {

/// One parameter and what it takes.
struct Variation {
    std::string path;
    std::vector<std::string> texts{}; ///< in turn; empty: any value between `low` and `high`
    double low = 0, high = 0;         ///< SI
    bool operator==(const Variation&) const = default;
};

enum class Sampled {
    Grid,   ///< every value with every other's
    Paired, ///< the first values together, the second ones, …
    Sobol,  ///< a low-discrepancy sequence between the limits (I.M. Sobol, USSR Comp. Math. 7, 1967)
    Latin,  ///< a Latin hypercube (M.D. McKay et al., Technometrics 21, 1979)
};

/// "PATH=FROM:TO:COUNT", "PATH=FROM:TO" (for samples) or "PATH=A, B, C"; numbers may have units, one behind the
/// last is for all that have none. Fails in a sentence.
Result<Variation> read_variation(const std::string& text, const Design& design);

/// Shares in [0, 1) of each dimension, one row a sample; `seed` is for a Latin hypercube.
std::vector<std::vector<double>> sample_shares(Sampled sampling, std::size_t dimensions, int count,
                                               unsigned seed);
/// What the parameter is set to at a share of its range or list.
std::string text_at(const Variation& variation, double share, const Design& design);

/// The designs' settings, each a text for every path, in order. `count` and `seed` are for samples. Whole
/// numbers are rounded to. Fails where lists that go together differ in length, or nothing varies.
Result<std::vector<std::vector<std::string>>> settings_of(const std::vector<Variation>& variations,
                                                          Sampled sampling, int count, unsigned seed,
                                                          const Design& design);

} // namespace mavlo
