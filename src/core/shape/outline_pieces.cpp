#include "shape/outline_pieces.h"

#include <cmath>

namespace mavlo {

Piece piece_of(const Outline& outline, const Edge& edge) {
    const Point a = outline.points[std::size_t(edge.from)], b = outline.points[std::size_t(edge.to)];
    if (!edge.centre) return {a, b};
    const Point u = a - *edge.centre, v = b - *edge.centre;
    return {a, b, std::tan(std::atan2(cross(u, v), dot(u, v)) / 4)};
}

} // namespace mavlo
