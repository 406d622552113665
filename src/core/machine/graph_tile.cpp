#include "machine/graph_tile.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double same_corner = 1e-7; ///< m

bool lies_on(Point p, double angle) {
    return norm(p) < same_corner ||
           (std::abs(cross(polar(1, angle), p)) < 10 * same_corner && dot(polar(1, angle), p) > 0);
}

bool touches(const Arrangement& graph, const PlaneFace& face, double angle) {
    return std::any_of(face.outer.begin(), face.outer.end(), [&](HalfEdge s) {
        const Piece p = piece_of(graph, s);
        return p.straight() && lies_on(p.a, angle) && lies_on(p.b, angle);
    });
}

} // namespace

Spans TileEdges::spans(const Arrangement& graph, const PlaneFace& face) const {
    if (touches(graph, face, first)) return mirrored ? Spans::Axis : Spans::Boundary;
    return touches(graph, face, second) ? Spans::Boundary : Spans::Nothing;
}

void add_hints(Tile& tile, const Piece& line) {
    for (Point at : {line.a, line.b}) tile.hints.push_back({at, 0.8 * length_of(line)});
}

Outline outline_of(const Arrangement& graph, const TileEdges& edges) {
    Outline outline;
    const auto exact = [&](Point p) {
        for (double angle : {edges.first, edges.second})
            if (lies_on(p, angle) && norm(p) > same_corner) return polar(norm(p), angle);
        return p;
    };
    for (const auto& edge : graph.edges) {
        const Piece p = graph.piece(edge);
        const int from = outline.add(exact(p.a)), to = outline.add(exact(p.b));
        if (from == to) continue;
        if (p.straight()) {
            outline.line(from, to);
            continue;
        }
        const Point centre = circle_of(p).centre;
        outline.arc(from, to, norm(centre) < 10 * same_corner ? Point{} : centre);
    }
    return outline;
}

} // namespace mavlo
