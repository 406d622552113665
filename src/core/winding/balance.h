#pragma once
// Whether a winding treats its phases alike, and which of its coils may be parallel.

#include "winding/layout.h"

#include <complex>
#include <string>
#include <vector>

namespace mavlo {

struct WindingBalance {
    std::vector<std::complex<double>> phases; ///< EMF phasors of the poles' order: turns times winding factor,
                                              ///< turned back by each phase's lag, so that alike ones coincide
    std::vector<double> turns;                ///< in series and parallel, of each phase
    double unbalance = 0;                     ///< largest distance of a phasor to their mean, over the mean
    double zero_sequence = 0; ///< |sum of the phasors as they stand| over the sum of their lengths
    bool balanced() const { return unbalance < 1e-9; }
    std::vector<std::string> sentences; ///< what is uneven, in words; empty when nothing is
};
WindingBalance judge_balance(const WindingLayout& layout);

/// The coils of a phase as parallel paths: of each path the numbers of its coils. Alike coils are dealt evenly;
/// where that does not come out the paths are filled in the coils' order.
struct ParallelPaths {
    std::vector<std::vector<int>> coils;
    bool alike = true;
    std::vector<std::complex<double>> emf; ///< of each path, over their mean
    /// Largest difference between two paths' EMF, over their mean: what drives a circulating current.
    double difference = 0;
};
ParallelPaths parallel_paths(const WindingLayout& layout, int phase, int count);

/// Numbers of parallel paths for which every phase's paths are alike, rising.
std::vector<int> possible_paths(const WindingLayout& layout);

} // namespace mavlo
