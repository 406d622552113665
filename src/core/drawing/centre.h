#pragma once
// Where the machine's axis goes through a drawing.

#include "shape/piece.h"

#include <optional>

namespace mavlo {

/// The point that most of the drawing's arcs have as their centre and most straight lines point to, both by
/// length; nothing where there is no arc. `tolerance` in m.
std::optional<Point> machine_centre(const std::vector<Piece>& pieces, double tolerance);

/// Whether an arc lies on a circle about this point.
bool is_about(const Piece& arc, Point centre, double tolerance);
/// Whether a straight piece points to it.
bool points_to(const Piece& line, Point centre, double tolerance);

} // namespace mavlo
