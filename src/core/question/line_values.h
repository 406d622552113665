#pragma once
// What the terminals see of the phases.

#include <vector>

namespace mavlo {

/// Each phase's series less that of the phase so many places on: between the lines of a star the next one's, in
/// the lines of a delta, whose phase U lies from terminal U to V, the one's before.
inline std::vector<std::vector<double>> less_other(const std::vector<std::vector<double>>& phases,
                                                   std::size_t on) {
    std::vector<std::vector<double>> lines = phases;
    for (std::size_t k = 0; k < lines.size(); ++k)
        for (std::size_t i = 0; i < lines[k].size(); ++i) lines[k][i] -= phases[(k + on) % phases.size()][i];
    return lines;
}

} // namespace mavlo
