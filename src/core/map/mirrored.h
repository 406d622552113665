#pragma once
// Grids over i_q of both signs, where what lies below zero is the mirror image of what lies above.

#include <cstddef>
#include <vector>

namespace mavlo {

struct MirroredRow {
    double iq;        ///< A
    std::size_t from; ///< which row of i_q >= 0 it is made of
    bool mirrored;
};

/// iq rises, from 0 on.
inline std::vector<MirroredRow> with_mirror_image(const std::vector<double>& iq) {
    std::vector<MirroredRow> rows;
    for (std::size_t j = iq.size(); j-- > 1;) rows.push_back({-iq[j], j, true});
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
