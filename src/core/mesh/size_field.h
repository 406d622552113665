#pragma once
// The wanted element size at a point: small at the hints and the gap, growing with the distance.

#include "machine/cell.h"

#include <algorithm>
#include <cmath>

namespace mavlo {

class SizeField {
  public:
    SizeField(const Cell& cell, double factor)
        : m_cell(cell)
        , m_factor(factor) {}

    double operator()(Point p) const {
        double size =
            std::min(m_cell.max_size, m_cell.gap_size + growth * std::abs(norm(p) - m_cell.gap_radius));
        for (const SizeHint& hint : m_cell.hints)
            size = std::min(size, hint.size + growth * distance(p, hint.at));
        return size * m_factor;
    }

  private:
    static constexpr double growth = 0.45; ///< of the size per distance
    const Cell& m_cell;
    double m_factor;
};

} // namespace mavlo
