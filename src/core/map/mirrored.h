#pragma once
// Grids over i_q of both signs, where what lies below zero may be the mirror image of what lies above.

#include <cstddef>
#include <vector>

namespace mavlo {

struct MirroredRow {
    double iq;        ///< A
    std::size_t from; ///< which row of the grid it is made of
    bool mirrored;
};

/// iq rises. From 0 on its mirror image comes before it; a grid that begins below is whole already.
inline std::vector<MirroredRow> with_mirror_image(const std::vector<double>& iq) {
    std::vector<MirroredRow> rows;
    const bool whole = !iq.empty() && iq.front() < 0;
    for (std::size_t j = whole ? 0 : iq.size(); j-- > 1;) rows.push_back({-iq[j], j, true});
    for (std::size_t j = 0; j < iq.size(); ++j) rows.push_back({iq[j], j, false});
    return rows;
}

inline std::vector<double> currents_of(const std::vector<MirroredRow>& rows) {
    std::vector<double> iq;
    iq.reserve(rows.size());
    for (const MirroredRow& row : rows) iq.push_back(row.iq);
    return iq;
}

} // namespace mavlo
