#pragma once
// Where a point that is being drawn wants to lie: ends, middles, centres, tangents, lines, angles, grid.

#include "machine/machine.h"
#include "shape/piece.h"

#include <QString>
#include <optional>
#include <vector>

namespace mavlo::app {

struct Snapped {
    Point at;
    bool loose = false; ///< nothing of the drawing lies there: the grid, or the axis
    QString what{};     ///< "end", "middle", "centre", "tangent", "on the line", "axis", "30°", "grid"
};

class Snapper {
  public:
    /// The lines of a pitch, in its frame, with its mirror image; and of shapes drawn already.
    Snapper(const Machine& machine, const std::string& side);
    void add(const std::vector<Piece>& pieces);
    const std::vector<Piece>& lines() const { return m_pieces; }

    /// The best within `reach` (m); else the next point of the grid of this step. `from`: the corner before,
    /// for tangents and for angles in steps of 15 degrees.
    Snapped snap(Point p, double reach, double grid, const std::optional<Point>& from) const;

  private:
    std::optional<Snapped> to_points(Point p, double reach, const std::optional<Point>& from) const;
    std::vector<Piece> m_pieces;
    double m_half_pitch = 0;
};

/// A step of 1, 2 or 5 times a power of ten that suits a view of this scale (pixels a metre).
double grid_step(double scale);

} // namespace mavlo::app
