#pragma once
// The wanted element size at a point: small at the hints and the gap, growing with the distance.

#include "machine/tile.h"

#include <algorithm>
#include <cmath>

namespace mavlo {

class SizeField {
  public:
    SizeField(const Tile& tile, double factor)
        : m_tile(tile)
        , m_factor(factor * tile.coarseness) {}

    double operator()(Point p) const {
        double size = std::min(m_tile.max_size,
                               m_tile.gap_size + growth * std::abs(m_tile.chart.height(p) - m_tile.gap_radius));
        for (const SizeHint& hint : m_tile.hints)
            size = std::min(size, hint.size + growth * distance(p, hint.at));
        return size * m_factor;
    }

  private:
    static constexpr double growth = 0.45; ///< of the size per distance
    const Tile& m_tile;
    double m_factor;
};

} // namespace mavlo
