#pragma once
// A shape while it is being drawn: its points so far, and what the next one will make of them.

#include "machine/free_shape.h"

#include <optional>
#include <vector>

namespace mavlo::app {

enum class SketchKind { Polygon, Rectangle, Circle, Dimension };

class Sketch {
  public:
    explicit Sketch(SketchKind kind)
        : m_kind(kind) {}

    SketchKind kind() const { return m_kind; }
    bool empty() const { return m_points.empty(); }
    std::optional<Point> last() const;
    std::optional<Point> first() const;
    /// The next point; true when the shape is complete with it.
    bool add(Point p);
    /// The next point lies on an arc, the one after ends it (polygons).
    void begin_arc() { m_arc = Arc::Wanted; }
    bool in_arc() const { return m_arc != Arc::None; }
    bool can_close() const; ///< enough points for a polygon
    void undo_point();

    /// The outline with `next` as the next point, for drawing.
    std::vector<Piece> preview(Point next) const;
    /// Side, name and role are the caller's.
    FreeShape shape() const;

  private:
    enum class Arc { None, Wanted, Through };
    struct Corner {
        Point at;
        double bulge = 0; ///< of the edge that follows
    };
    SketchKind m_kind;
    std::vector<Corner> m_points;
    Arc m_arc = Arc::None;
    Point m_through;
};

} // namespace mavlo::app
